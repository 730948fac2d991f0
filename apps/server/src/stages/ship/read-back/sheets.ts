import { MOST_READ_LENGTH, MOST_READ_ROWS } from '@sprig/contracts';
import {
  type CellValue,
  guessColumns,
  guessedOutlet,
  type Outlet,
  plainHeading,
  rowKinds,
} from '@sprig/core/outlets';
import {
  headingsOf,
  type ReadRow,
  type ReadSheet,
  readSheet,
  type SheetProblem,
  sampleOf,
} from '@sprig/core/sheets';
import type { PlanCaller } from '../../../platform/caller.ts';
import { SprigFailure } from '../../../platform/failure.ts';
import { decodedUpload } from '../../gather/index.ts';

export type SheetText = { upload: string; name: string; text: string };
export type ReadBackSheet = {
  upload: string;
  name: string;
  columns: { heading: string; value: CellValue | null }[];
  told: ReadonlySet<CellValue>;
  rows: ReadRow[];
  problems: SheetProblem[];
};

const tooLong = () =>
  new SprigFailure(
    'too-large',
    `Sheets of up to ${MOST_READ_LENGTH / 1_000_000} million characters are read at once. Bring them in one after another.`,
    { at: 'files' },
  );

/** The texts of uploads, in whatever encoding they came. */
export async function textsOf(
  caller: PlanCaller,
  files: readonly { upload: string; name: string }[],
): Promise<SheetText[]> {
  const texts: SheetText[] = [];
  let length = 0;
  for (const { upload, name } of files) {
    const pieces: string[] = [];
    for await (const piece of await decodedUpload(caller, upload)) {
      length += piece.length;
      if (length > MOST_READ_LENGTH) throw tooLong();
      pieces.push(piece);
    }
    texts.push({ upload, name, text: pieces.join('') });
  }
  return texts;
}

/** How much of the headings an outlet has to know to be taken for the one that they are of. */
const KNOWN_SHARE = 0.8;

/** The outlet whose sheets these are: the one that knows most of their headings, and nearly all; else none. */
export function outletThatFits(texts: readonly SheetText[], outlets: readonly Outlet[]): Outlet | null {
  let best: { outlet: Outlet; known: number } | null = null;
  for (const outlet of outlets) {
    let known = 0;
    let all = 0;
    for (const { name, text } of texts) {
      const { told, unknown } = readSheet(headingText(text), outlet, 2, name);
      known += told.length;
      all += told.length + unknown.length;
      if (told.length === 0) all += 1_000;
    }
    if (known > (best?.known ?? 0) && known >= all * KNOWN_SHARE) best = { outlet, known };
  }
  return best?.outlet ?? null;
}

const headingText = (text: string): string => text.slice(0, text.indexOf('\n') + 1 || undefined);

/** Reads sheets by an outlet's profile; without one by what their columns are taken for. */
export function readSheets(
  texts: readonly SheetText[],
  outlet: Outlet | null,
  choices: Readonly<Record<string, CellValue | null>>,
  decimals: number,
): ReadBackSheet[] {
  let rows = 0;
  return texts.map(({ upload, name, text }) => {
    const headings = headingsOf(text);
    const sheet = outlet
      ? byProfile(name, text, outlet, decimals)
      : byColumns(name, text, headings, choices, decimals);
    rows += sheet.read.rows.length;
    if (rows > MOST_READ_ROWS)
      throw new SprigFailure(
        'too-large',
        `Up to ${MOST_READ_ROWS.toLocaleString('en')} rows are read at once. Bring the sheets in one after another.`,
        { at: 'files' },
      );
    return {
      upload,
      name,
      columns: headings.map((heading, at) => ({ heading, value: sheet.valueOf(heading, at) })),
      told: new Set(sheet.read.told),
      rows: sheet.read.rows,
      problems: sheet.read.problems,
    };
  });
}

type Read = { read: ReadSheet; valueOf: (heading: string, at: number) => CellValue | null };

function byProfile(name: string, text: string, outlet: Outlet, decimals: number): Read {
  const read = readSheet(text, outlet, decimals, name);
  const values = new Map(
    outlet.sheets.flatMap(({ columns }) =>
      columns.flatMap(({ heading, value }) =>
        read.told.includes(value) || value === 'fixed' ? [[plainHeading(heading), value] as const] : [],
      ),
    ),
  );
  return { read, valueOf: (heading) => values.get(plainHeading(heading)) ?? null };
}

function byColumns(
  name: string,
  text: string,
  headings: readonly string[],
  choices: Readonly<Record<string, CellValue | null>>,
  decimals: number,
): Read {
  const sample = sampleOf(text);
  const values = guessColumns(headings, sample).map((value, at) => {
    const heading = headings[at] ?? '';
    return Object.hasOwn(choices, heading) ? (choices[heading] ?? null) : value;
  });
  const outlet = guessedOutlet(name, headings, values, sample);
  return { read: readSheet(text, outlet, decimals), valueOf: (_, at) => values[at] ?? null };
}

/** Rows in an order in which each is read behind what it stands in. */
export function* inOrder(sheets: readonly ReadBackSheet[]): Generator<{ sheet: number; read: ReadRow }> {
  for (const kind of rowKinds)
    for (const [sheet, { rows }] of sheets.entries())
      for (const read of rows) if (read.row.kind === kind) yield { sheet, read };
}
