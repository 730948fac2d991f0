/**
 * What may be worth doing: first what keeps the plan from being shipped, then what money is at stake with, then all else.
 * Codes that are kept.
 */
export const worthCodes = [
  'blockers',
  'misfits',
  'no-page',
  'broken-page',
  'never-pays',
  'not-sold',
  'not-clicked',
  'too-low',
  'pays',
  'terms',
  'budget-out',
  'bids-to-aim',
  'ads-decided',
  'bids-down',
  'look-again',
  'too-big',
  'few-negatives',
  'unanswered',
] as const;
export type WorthCode = (typeof worthCodes)[number];

const FIRST: ReadonlySet<WorthCode> = new Set(['blockers', 'misfits', 'no-page']);

/**
 * One thing, and how many it is about. `stake`: the money that is lost or could be had with it, in millionths of the
 * account’s currency, over the days that were looked at; null where none can be told.
 */
export type Worth = {
  code: WorthCode;
  count: number;
  stake: number | null;
  currency: string | null;
  /** Of which account; '' where it is of the plan itself. */
  account: string;
};

/** What was said of a thing: put off until a day, or done with as many as it was about then. */
export type WorthMark = { code: WorthCode; account: string; until: string | null; count: number };

/** Whether a thing was put away: until its day, or until it is about more than when it was done. */
export const isAway = ({ count }: Worth, mark: WorthMark, today: string): boolean =>
  mark.until === null ? count <= mark.count : today < mark.until;

/** What is open, and what was put away. The last mark of a thing counts. */
export function openWorth(
  all: readonly Worth[],
  marks: readonly WorthMark[],
  today: string,
): { open: Worth[]; away: { worth: Worth; mark: WorthMark }[] } {
  const keyOf = ({ code, account }: Pick<Worth, 'code' | 'account'>) => `${code} ${account}`;
  const last = new Map(marks.map((mark) => [keyOf(mark), mark]));
  const open: Worth[] = [];
  const away: { worth: Worth; mark: WorthMark }[] = [];
  for (const worth of inOrder(all)) {
    if (worth.count <= 0) continue;
    const mark = last.get(keyOf(worth));
    if (mark && isAway(worth, mark, today)) away.push({ worth, mark });
    else open.push(worth);
  }
  return { open, away };
}

/** What keeps from shipping, then by money, then as codes are listed. Amounts are only held against each other in one currency. */
export function inOrder<T extends Worth>(all: readonly T[]): T[] {
  const currencies = [...new Set(all.map(({ currency }) => currency ?? ''))].sort(
    (a, b) => sumOf(all, b) - sumOf(all, a) || (a < b ? -1 : 1),
  );
  const rank = ({ code, stake, currency }: T): number => {
    if (FIRST.has(code)) return -1;
    return stake === null || stake <= 0 ? currencies.length : currencies.indexOf(currency ?? '');
  };
  return [...all].sort(
    (a, b) =>
      rank(a) - rank(b) ||
      (FIRST.has(a.code) ? 0 : (b.stake ?? 0) - (a.stake ?? 0)) ||
      worthCodes.indexOf(a.code) - worthCodes.indexOf(b.code),
  );
}

/** Currencies by how many things are told in them. */
const sumOf = (all: readonly Worth[], currency: string): number =>
  all.filter((one) => (one.currency ?? '') === currency && (one.stake ?? 0) > 0).length;
