import { type CellValue, presentCode, type RowKind } from '@sprig/core/outlets';

/** The cells of a row that say something, by what they tell. */
export type Said = Partial<Record<CellValue, string>>;

/** A row as an account has it: what the sheets said of it. */
export type AccountRow = { kind: RowKind; said: Said };

/** What a simulated engine keeps for one advertiser. `day` and `budgetChanges`: how many budgets changed on that day. */
export type Account = {
  /** By `keyOfRow`. */
  rows: Map<string, AccountRow>;
  day: string;
  budgetChanges: number;
};

export const emptyAccount = (): Account => ({ rows: new Map(), day: '', budgetChanges: 0 });

const PLACED: readonly CellValue[] = ['campaign', 'group', 'keyword', 'keyword-notation', 'match-type'];
const KEYS: Record<Exclude<RowKind, 'ad'>, readonly CellValue[]> = {
  campaign: ['campaign'],
  group: ['campaign', 'group'],
  keyword: PLACED,
  negative: PLACED,
  extra: [
    'campaign',
    'group',
    'extra-kind',
    'extra-text',
    'extra-line1',
    'extra-line2',
    'extra-number',
    'final-url',
  ],
};
const IN_AD = /^(campaign|group|ad-form|headline|description|path|final)/;
/** Stands in no sheet that is written by hand. */
const BETWEEN = '\u001f';

/** What makes a row the same as another one. An ad is the same where it says the same. */
export function keyOfRow(kind: RowKind, said: Said): string {
  if (kind === 'ad')
    return Object.entries(said)
      .filter(([value, text]) => text !== '' && IN_AD.test(value))
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .flat()
      .join(BETWEEN);
  let key: string = kind;
  for (const value of KEYS[kind]) key += BETWEEN + (said[value] ?? '');
  return key;
}

const PIECE = 262_144;
/** A text that came in pieces, wherever it was cut. */
type Pieces = Iterable<string> | AsyncIterable<string>;

/** An account as text: a line of its day, then one for each row. In pieces, since all of it may be too long for one. */
export function* packAccount({ rows, day, budgetChanges }: Account): Generator<string> {
  let piece = `${JSON.stringify({ day, budgetChanges })}\n`;
  for (const { kind, said } of rows.values()) {
    piece += `${JSON.stringify({ kind, said })}\n`;
    if (piece.length < PIECE) continue;
    yield piece;
    piece = '';
  }
  yield piece;
}

async function* linesOf(pieces: Pieces): AsyncGenerator<string> {
  let begun: string[] = [];
  for await (const piece of pieces) {
    const [end = '', ...lines] = piece.split('\n');
    begun.push(end);
    const next = lines.pop();
    if (next === undefined) continue;
    yield begun.join('');
    yield* lines;
    begun = [next];
  }
  const last = begun.join('');
  if (last !== '') yield last;
}

type Head = Pick<Account, 'day' | 'budgetChanges'>;

/** A row as it is kept, with the codes of today. */
function present({ kind, said }: AccountRow): AccountRow {
  const isFormer = (kind as string) === 'asset';
  if (!isFormer) return { kind, said };
  const entries = Object.entries(said).map(([value, text]) => [presentCode(value), text]);
  return { kind: 'extra', said: Object.fromEntries(entries) };
}

/** The rows of a packed account, one after another; `head` is told what stands before them. */
export async function* rowsOfPacked(
  pieces: Pieces,
  head: (found: Head) => void = () => {},
): AsyncGenerator<AccountRow> {
  let isFirst = true;
  for await (const line of linesOf(pieces)) {
    const found = JSON.parse(line);
    if (!isFirst) yield present(found);
    else {
      head({ day: found.day, budgetChanges: found.budgetChanges });
      // Accounts were once kept as one object, each row with its key.
      for (const [, row] of (found.rows ?? []) as [string, AccountRow][]) yield present(row);
    }
    isFirst = false;
  }
}

export async function unpackAccount(pieces: Pieces): Promise<Account> {
  const account = emptyAccount();
  const once = new Map<string, string>();
  for await (const { kind, said: packed } of rowsOfPacked(pieces, (head) => Object.assign(account, head))) {
    const said: Said = {};
    for (const [value, text] of Object.entries(packed))
      if (text !== '') onceIn(said, value as CellValue, text, once);
    account.rows.set(keyOfRow(kind, said), { kind, said });
  }
  return account;
}

/** Sets what a row tells; `once` holds the texts that many rows share, so that each is in memory once. */
export function onceIn(said: Said, value: CellValue, text: string, once: Map<string, string>): void {
  if (value === 'keyword' || value === 'keyword-notation') {
    said[value] = text;
    return;
  }
  const there = once.get(text);
  if (there === undefined) once.set(text, text);
  said[value] = there ?? text;
}
