import { type CellValue, columnTypes } from '../columns/index.ts';
import { type Outlet, plainHeading, type SheetColumn } from './outlet.ts';
import { plainOutlet } from './profiles/plain.ts';

/** What stands in each column, in the sheet's order; null: nothing that a plan has. */
export type GuessedColumns = (CellValue | null)[];

const bare = (heading: string): string => plainHeading(heading).replace(/[^\p{L}\p{N}]/gu, '');
const known = new Map<string, CellValue>(
  columnTypes.flatMap(({ value, heading, known: others }) =>
    [heading, ...others].map((name) => [bare(name), value] as const),
  ),
);

const TYPE = /^((campaign )?negative )?(broad|phrase|exact|modified broad)( match)?$/i;

/**
 * Guesses what the columns of a sheet hold, by their headings, and where those say nothing by what stands in them. Each
 * value is found once: the first column that has it. O(cells of the sample).
 */
export function guessColumns(
  headings: readonly string[],
  sample: readonly (readonly string[])[],
): GuessedColumns {
  const taken = new Set<CellValue>();
  const guessed: GuessedColumns = headings.map((heading) => {
    const value = known.get(bare(heading));
    if (value === undefined || taken.has(value)) return null;
    taken.add(value);
    return value;
  });
  const byCells = (value: CellValue, is: (cell: string) => boolean) => {
    if (taken.has(value)) return;
    const at = headings.findIndex((_, column) => {
      if (guessed[column] !== null) return false;
      const cells = sample.map((row) => (row[column] ?? '').trim()).filter((cell) => cell !== '');
      return cells.length > 0 && cells.every(is);
    });
    if (at < 0) return;
    guessed[at] = value;
    taken.add(value);
  };
  byCells('match-type', (cell) => TYPE.test(cell));
  byCells('final-url', (cell) => /^https?:\/\/\S+$/i.test(cell));
  return guessed;
}

/** `1,25` and `1.234,50` have a comma before their cents. */
function markOf(sample: readonly (readonly string[])[], places: readonly number[]): '.' | ',' {
  const amounts = sample.flatMap((row) => places.map((at) => (row[at] ?? '').trim()));
  return amounts.some((text) => /\d,\d{1,2}$/.test(text)) &&
    !amounts.some((text) => /\d\.\d{1,2}$/.test(text))
    ? ','
    : '.';
}

/** An outlet that has one sheet: this one. What is not told is as in plain sheets. */
export function guessedOutlet(
  name: string,
  headings: readonly string[],
  values: GuessedColumns,
  sample: readonly (readonly string[])[],
): Outlet {
  const columns: SheetColumn[] = headings.flatMap((heading, at) => {
    const value = values[at];
    return value ? [{ heading, value }] : [];
  });
  const money = values.flatMap((value, at) => (value === 'bid' || value === 'daily-budget' ? [at] : []));
  const typeAt = values.indexOf('match-type');
  const hasTypes = typeAt >= 0;
  return {
    ...plainOutlet,
    key: 'guessed',
    name,
    match: hasTypes ? 'column' : 'notation',
    money: { mark: markOf(sample, money), unit: 'major' },
    sheets: [
      {
        kind: 'combined',
        fileName: 'sheet',
        columns: hasTypes
          ? columns
          : columns.map((column) =>
              column.value === 'keyword' ? { ...column, value: 'keyword-notation' } : column,
            ),
      },
    ],
  };
}
