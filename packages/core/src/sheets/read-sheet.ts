import { type CellValue, columnTypes, type SheetRow } from '../columns/index.ts';
import { type Outlet, plainHeading, type SheetProfile } from '../outlets/index.ts';
import { RowReader, type SheetProblem } from './row-reader.ts';
import { recordsOf, type SheetRecord } from './sheet-records.ts';

/** A row as it was read; `line` counts from 1, the heading's being 1. `refusal`: why the outlet did not take it. */
export type ReadRow = { line: number; row: SheetRow; refusal: string };

export type ReadSheet = {
  kind: SheetProfile['kind'] | null;
  rows: ReadRow[];
  /** What its columns tell. */
  told: CellValue[];
  problems: SheetProblem[];
  /** Headings that stand for nothing the outlet tells. */
  unknown: string[];
};

const DELIMITERS = [',', ';', '\t', '|'] as const;
/** Without these a sheet of the kind can't be read. */
const NEEDED: Record<SheetProfile['kind'], readonly (readonly CellValue[])[]> = {
  campaigns: [['campaign']],
  groups: [['campaign'], ['group']],
  keywords: [['campaign'], ['group'], ['keyword', 'keyword-notation']],
  negatives: [['campaign'], ['keyword', 'keyword-notation']],
  ads: [['campaign'], ['group']],
  extras: [['extra-kind']],
  combined: [['campaign']],
};

/**
 * Reads a sheet back by an outlet's profile: the one of its sheets whose headings it has. What can't be read is told with
 * its line and its column, and the rest is read all the same. `fileName`: tells sheets of the same headings apart. O(length).
 */
export function readSheet(typed: string, outlet: Outlet, decimals: number, fileName = ''): ReadSheet {
  const text = typed.startsWith('\ufeff') ? typed.slice(1) : typed;
  if (text.trim() === '') return failed('no-heading', 1, '');
  const found = whichSheet(text, outlet, fileName);
  if (!found) return failed('other-sheet', 1, text.slice(0, 200));
  const [, ...records] = recordsOf(text, found.delimiter);
  return readTable(found.headings, records, found.profile, outlet, decimals);
}

/** Reads back a sheet whose cells are read already, as those of a workbook are. */
export function readCells(
  table: readonly (readonly string[])[],
  outlet: Outlet,
  decimals: number,
): ReadSheet {
  const [typed = [], ...rest] = table;
  const headings = presentHeadings(typed, outlet);
  const profile = bestSheet(outlet, headings);
  if (!profile) return failed('other-sheet', 1, typed.join(', ').slice(0, 200));
  const records = rest.map((fields, at) => ({ line: at + 2, fields }));
  return readTable(headings, records, profile, outlet, decimals);
}

const SAMPLE_ROWS = 200;

/** The headings of a delimited text, whatever stands between them. */
export const headingsOf = (typed: string): string[] => [...(firstRecords(typed, 1)[0] ?? [])];

/** Its first rows. */
export const sampleOf = (typed: string): string[][] => firstRecords(typed, SAMPLE_ROWS + 1).slice(1);

function firstRecords(typed: string, most: number): string[][] {
  const text = typed.startsWith('\ufeff') ? typed.slice(1) : typed;
  let best: string[][] = [];
  for (const delimiter of DELIMITERS) {
    const records = recordsOf(text, delimiter, most).map(({ fields }) => [...fields]);
    if ((records[0]?.length ?? 0) > (best[0]?.length ?? 0)) best = records;
  }
  return best;
}

const failed = (code: SheetProblem['code'], line: number, text: string): ReadSheet => ({
  kind: null,
  rows: [],
  told: [],
  problems: [{ line, code, column: '', text }],
  unknown: [],
});

function readTable(
  headings: readonly string[],
  records: readonly SheetRecord[],
  profile: SheetProfile,
  outlet: Outlet,
  decimals: number,
): ReadSheet {
  const problems: SheetProblem[] = [];
  const names = headings.map(plainHeading);
  const refusal = names.indexOf(plainHeading(outlet.answer.refusal));
  const places = new Map<CellValue, number>();
  for (const { heading, value } of profile.columns) {
    const at = names.indexOf(plainHeading(heading));
    if (at >= 0 && value !== 'fixed') places.set(value, at);
    if (at >= 0 && names.indexOf(plainHeading(heading), at + 1) >= 0)
      problems.push({ line: 1, code: 'column-twice', column: heading, text: '' });
  }
  const known = new Set(profile.columns.map(({ heading }) => plainHeading(heading)));
  const unknown = headings.filter(
    (heading, at) => at !== refusal && heading.trim() !== '' && !known.has(plainHeading(heading)),
  );
  for (const values of NEEDED[profile.kind]) {
    const own = profile.columns.filter(({ value }) => values.includes(value));
    if (own.length > 0 && !own.some(({ value }) => places.has(value)))
      problems.push({ line: 1, code: 'column-missing', column: own[0]?.heading ?? '', text: '' });
  }
  if (problems.some(({ code }) => code === 'column-missing'))
    return { kind: profile.kind, rows: [], told: [...places.keys()], problems, unknown };
  const reader = new RowReader(profile, places, outlet, decimals, problems);
  const rows: ReadRow[] = [];
  for (const { line, fields, broken } of records) {
    if (broken !== undefined) problems.push({ line, code: 'broken-row', column: '', text: broken });
    else if (fields.every((field) => field === '')) continue;
    const row = broken === undefined && reader.read(line, fields);
    if (row) rows.push({ line, row, refusal: refusal < 0 ? '' : (fields[refusal] ?? '').trim() });
  }
  return { kind: profile.kind, rows, told: [...places.keys()], problems, unknown };
}

/** Headings, with those that plain sheets of older versions had as they are now. */
function presentHeadings(headings: readonly string[], outlet: Outlet): string[] {
  const names = new Set(headings.map(plainHeading));
  const former = new Map(
    columnTypes.flatMap(({ value, heading, former: was }) => {
      const isUsual = outlet.sheets.some(({ columns }) =>
        columns.some((column) => column.value === value && column.heading === heading),
      );
      return was === undefined || !isUsual || names.has(plainHeading(heading))
        ? []
        : [[plainHeading(was), heading] as const];
    }),
  );
  return headings.map((heading) => former.get(plainHeading(heading)) ?? heading);
}

function whichSheet(text: string, outlet: Outlet, fileName: string) {
  let best: { profile: SheetProfile; delimiter: string; headings: string[]; known: number } | null = null;
  for (const delimiter of DELIMITERS) {
    const [heading] = recordsOf(text, delimiter, 1);
    const headings = presentHeadings(heading?.fields ?? [], outlet);
    const profile = bestSheet(outlet, headings, fileName);
    const known = profile ? knownIn(profile, headings) : 0;
    if (profile && known > (best?.known ?? 0)) best = { profile, delimiter, headings, known };
  }
  return best;
}

const knownIn = ({ columns }: SheetProfile, headings: readonly string[]): number => {
  const names = new Set(headings.map(plainHeading));
  return columns.filter(({ heading }) => names.has(plainHeading(heading))).length;
};

/** The sheet with most of its headings there; of those that have as many the one that its name tells, or the likeliest. */
function bestSheet(outlet: Outlet, headings: readonly string[], fileName = ''): SheetProfile | null {
  const ranked = outlet.sheets.map((profile) => ({ profile, known: knownIn(profile, headings) }));
  const most = Math.max(0, ...ranked.map(({ known }) => known));
  // A sheet of one column that has it.
  if (most < 2) return ranked.find(({ profile, known }) => known === profile.columns.length)?.profile ?? null;
  const alike = ranked.filter(({ known }) => known === most).map(({ profile }) => profile);
  const name = fileName.toLowerCase();
  const named = alike
    .filter((one) => name.includes(one.fileName.toLowerCase()))
    .sort((a, b) => b.fileName.length - a.fileName.length);
  if (named[0]) return named[0];
  const fewest = alike.reduce((best, one) => (one.columns.length < best.columns.length ? one : best));
  // Negatives have what keywords have: what names itself otherwise, and lacks only what keywords may lack, is of keywords.
  const isWhole = fewest.columns.length === most && fileName === '';
  if (fewest.kind !== 'negatives' || isWhole || name.includes('negativ')) return fewest;
  return alike.find(({ kind }) => kind === 'keywords') ?? fewest;
}
