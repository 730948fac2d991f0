import { numberAt, stringAt } from '../access/index.ts';
import { eachKind, type Outlet, type RowKind, type SheetColumn, type SheetFormat } from '../outlets/index.ts';
import type { CellRow, ToldValues } from './cells.ts';

const NEEDS_QUOTES: Record<string, RegExp> = {
  ',': /[",\r\n]/,
  ';': /[";\r\n]/,
  '|': /["|\r\n]/,
  '\t': /["\t\r\n]/,
};

/** Between two cells of a file. */
export const delimiterOf = (format: SheetFormat, file: Pick<Outlet['file'], 'delimiter'>): string =>
  format === 'csv' ? file.delimiter : '\t';

/** One field by RFC 4180, with another delimiter in the place of commas. */
export function writeField(text: string, delimiter: string): string {
  return (NEEDS_QUOTES[delimiter] as RegExp).test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/**
 * One field of a sheet that is to be looked at, not read by an engine: what a spreadsheet would take for a formula has an
 * apostrophe before it, which marks it as text.
 */
export const writeTextField = (text: string, delimiter: string): string =>
  writeField(/^[=+\-@\t\r]/.test(text) ? `'${text}` : text, delimiter);

/** What each column says in rows that have nothing of their own there: what is fixed, else nothing. */
export const fixedTexts = (columns: readonly SheetColumn[]): string[] =>
  columns.map(({ value, text }) => (value === 'fixed' ? (text ?? '') : ''));

/** Where the text of each column stands in the cells of each kind of row; -1: such rows have none. */
export const pickColumns = (columns: readonly SheetColumn[], values: ToldValues): Record<RowKind, number[]> =>
  eachKind((kind) => columns.map(({ value }) => values[kind].indexOf(value)));

/**
 * Writes a sheet's lines. The cells are exactly what the engine needs: nothing is put before `=` or `+`. What is
 * copied for a spreadsheet goes through the clipboard's text-safe table instead.
 */
export class SheetWriter {
  private readonly places: Record<RowKind, number[]>;
  private readonly fixed: readonly string[];
  /** Most cells say what the row before says. */
  private readonly last = eachKind(() => ({ cells: [] as string[], fields: [] as string[] }));

  constructor(
    private readonly columns: readonly SheetColumn[],
    values: ToldValues,
    private readonly delimiter: string,
    private readonly lineEnding: string,
  ) {
    this.places = pickColumns(columns, values);
    this.fixed = fixedTexts(columns).map((text) => writeField(text, delimiter));
  }

  header(): string {
    const headings = this.columns.map(({ heading }) => writeField(heading, this.delimiter));
    return headings.join(this.delimiter) + this.lineEnding;
  }

  row({ kind, cells }: Pick<CellRow, 'kind' | 'cells'>): string {
    const places = this.places[kind];
    const last = this.last[kind];
    let line = '';
    for (let at = 0; at < places.length; at++) {
      if (at > 0) line += this.delimiter;
      const place = numberAt(places, at);
      if (place < 0) {
        line += this.fixed[at];
        continue;
      }
      const cell = stringAt(cells, place);
      if (last.cells[at] !== cell) {
        last.cells[at] = cell;
        last.fields[at] = writeField(cell, this.delimiter);
      }
      line += last.fields[at];
    }
    return line + this.lineEnding;
  }
}
