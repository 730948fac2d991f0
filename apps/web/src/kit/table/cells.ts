import { group, tsvParseRows } from 'd3';
import type { Put, TableColumn } from './column.ts';

export type Grid = readonly (readonly string[])[];
/** A cell that can't be put in: where it stands in what was pasted, from 1, and why. */
export type RefusedCell = { line: number; heading: string; typed: string; words: string };
export type Placed<Row> = {
  puts: Put<Row>[];
  /** Cells that say what is there already. */
  same: number;
  refused: RefusedCell[];
};

/** What was copied in a spreadsheet, as rows of cells; empty lines at the end are no rows. */
export function gridOf(text: string): string[][] {
  const rows = tsvParseRows(text.replace(/\r\n?/g, '\n')).map((row) => row.map((cell) => cell.trim()));
  while (rows.length > 0 && rows.at(-1)?.every((cell) => cell === '')) rows.pop();
  return rows;
}

/** True: a paste of more than one cell. */
export const isGrid = (text: string): boolean => /[\t\r\n]/.test(text.trim());

const named = (text: string) => text.trim().toLowerCase();

/**
 * The columns that a first line of headings names, in its order, undefined where this table has none of that name;
 * null: it is no such line. A line that names the first column is one, or a line of nothing but names of columns.
 */
export function headingsIn<Row>(
  grid: Grid,
  columns: readonly TableColumn<Row>[],
): (TableColumn<Row> | undefined)[] | null {
  const [first, ...rest] = grid;
  if (!first || rest.length === 0) return null;
  const found = first.map((cell) => columns.find(({ heading }) => named(heading) === named(cell)));
  const known = found.filter((column) => column !== undefined);
  const isLine =
    known.length === found.length || (found.length > 1 && known.includes(columns[0] as TableColumn<Row>));
  return isLine && new Set(known).size === known.length ? found : null;
}

/** Puts one cell where it belongs, or says why not. */
function place<Row>(
  placed: Placed<Row>,
  { row, column, typed, line }: { row: Row; column: TableColumn<Row>; typed: string; line: number },
): void {
  const now = column.text(row);
  if (typed === now) {
    placed.same++;
    return;
  }
  const refuse = (words: string) => placed.refused.push({ line, heading: column.heading, typed, words });
  if (!column.read) return void refuse('This column can’t be changed here.');
  const read = column.read(typed, row);
  if ('words' in read) return void refuse(read.words);
  const there = column.read(now, row);
  if ('value' in there && there.value === read.value) placed.same++;
  else
    placed.puts.push({
      row,
      column: column.id,
      value: read.value,
      heading: column.heading,
      before: now,
      typed,
    });
}

const nothing = <Row>(): Placed<Row> => ({ puts: [], same: 0, refused: [] });

/**
 * Cells put in by their places: from the first of `columns` to the right and from the first of `rows` down. A single
 * line goes into all of the rows, a single cell into `width` columns of each. `firstLine`: which line of what was
 * pasted the first of the grid is.
 */
export function placeFrom<Row>(
  grid: Grid,
  {
    rows,
    columns,
    width = 1,
    firstLine = 1,
  }: {
    rows: readonly Row[];
    columns: readonly TableColumn<Row>[];
    width?: number;
    firstLine?: number;
  },
): Placed<Row> {
  const placed = nothing<Row>();
  const repeats = grid.length === 1;
  const lines = repeats ? rows.map(() => grid[0] ?? []) : grid;
  lines.forEach((cells, at) => {
    const line = repeats ? firstLine : at + firstLine;
    const row = rows[at];
    const spread = repeats && cells.length === 1 ? columns.slice(0, width).map(() => cells[0] ?? '') : cells;
    spread.forEach((typed, to) => {
      const column = columns[to];
      if (row === undefined || column === undefined)
        placed.refused.push({
          line,
          heading: column?.heading ?? '–',
          typed,
          words:
            row === undefined
              ? 'There is no row for it: the table ends above.'
              : 'There is no column for it.',
        });
      else place(placed, { row, column, typed, line });
    });
  });
  return placed;
}

/**
 * Lines below a line of headings, put into the rows that they name. A line's row is the one that its cell of the
 * table's first column names; where several have that name, the one that most of its other cells fit, of columns that
 * can't be changed.
 */
export function placeByName<Row>(
  grid: Grid,
  {
    rows,
    headings,
    name,
  }: {
    rows: readonly Row[];
    headings: readonly (TableColumn<Row> | undefined)[];
    name: TableColumn<Row>;
  },
): Placed<Row> {
  const placed = nothing<Row>();
  for (const [at, column] of headings.entries()) {
    const typed = grid[0]?.[at] ?? '';
    if (!column)
      placed.refused.push({
        line: 1,
        heading: typed,
        typed,
        words: 'This table has no such column: it is left out.',
      });
  }
  const byName = group(rows, (row) => named(name.text(row)));
  const nameAt = headings.indexOf(name);
  const telling = headings
    .map((column, at) => ({ column, at }))
    .filter(({ column }) => column && !column.read && column !== name);
  grid.slice(1).forEach((cells, at) => {
    const line = at + 2;
    const typed = cells[nameAt] ?? '';
    const called = byName.get(named(typed)) ?? [];
    const fits = (row: Row) =>
      telling.filter(({ column, at: place }) => named(column?.text(row) ?? '') === named(cells[place] ?? ''))
        .length;
    const most = Math.max(0, ...called.map(fits));
    const [row, other] = called.length > 1 ? called.filter((one) => fits(one) === most) : called;
    if (row === undefined || other !== undefined) {
      const words =
        called.length === 0
          ? 'No row in this table is called that.'
          : `${called.length} rows are called that. Copy the other columns too, so that they can be told apart.`;
      placed.refused.push({ line, heading: name.heading, typed, words });
      return;
    }
    headings.forEach((column, to) => {
      const text = cells[to];
      if (column !== name && column?.read && text !== undefined)
        place(placed, { row, column, typed: text, line });
    });
  });
  return placed;
}
