import type { CellRow, ToldValues } from './cells.ts';
import { eachKind, type Outlet, type RowKind, type SheetColumn, type SheetFormat } from './outlet.ts';

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

/** Where the text of each column stands in the cells of each kind of row; -1: such rows have none. */
export const pickColumns = (columns: readonly SheetColumn[], values: ToldValues): Record<RowKind, number[]> =>
  eachKind((kind) => columns.map(({ value }) => values[kind].indexOf(value)));

/**
 * Writes a sheet's lines. The cells are exactly what the engine needs: nothing is put before `=` or `+`. What is
 * copied for a spreadsheet goes through the clipboard's text-safe table instead.
 */
export class SheetWriter {
  private readonly places: Record<RowKind, number[]>;

  constructor(
    private readonly columns: readonly SheetColumn[],
    values: ToldValues,
    private readonly delimiter: string,
    private readonly lineEnding: string,
  ) {
    this.places = pickColumns(columns, values);
  }

  header(): string {
    const headings = this.columns.map(({ heading }) => writeField(heading, this.delimiter));
    return headings.join(this.delimiter) + this.lineEnding;
  }

  row({ kind, cells, joined }: Pick<CellRow, 'kind' | 'cells' | 'joined'>): string {
    const places = this.places[kind];
    // Told of all cells at once: most rows need no quotes.
    const isPlain = !(NEEDS_QUOTES[this.delimiter] as RegExp).test(joined);
    let line = '';
    for (let at = 0; at < places.length; at++) {
      if (at > 0) line += this.delimiter;
      const place = places[at] as number;
      const text = place < 0 ? '' : (cells[place] as string);
      if (text !== '') line += isPlain ? text : writeField(text, this.delimiter);
    }
    return line + this.lineEnding;
  }
}
