import { type CellContext, cellOf, type SheetRow } from './cell-values.ts';
import type { SheetColumn, SheetFormat } from './outlet.ts';

const CSV_NEEDS_QUOTES = /[",\r\n]/;
const TSV_NEEDS_QUOTES = /["\t\r\n]/;

const delimiterOf: Record<SheetFormat, string> = { csv: ',', tsv: '\t' };

/** One field by RFC 4180 (tabs in the place of commas for tsv). */
export function writeField(text: string, format: SheetFormat): string {
  const needsQuotes = format === 'csv' ? CSV_NEEDS_QUOTES : TSV_NEEDS_QUOTES;
  return needsQuotes.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/**
 * Writes a sheet's lines. The cells are exactly what the engine needs: nothing is put before `=` or `+`. What is
 * copied for a spreadsheet goes through the clipboard's text-safe table instead.
 */
export class SheetWriter {
  private readonly delimiter: string;

  constructor(
    private readonly columns: readonly SheetColumn[],
    private readonly format: SheetFormat,
    private readonly lineEnding: string,
    private readonly context: CellContext,
  ) {
    this.delimiter = delimiterOf[format];
  }

  header(): string {
    const headings = this.columns.map(({ heading }) => writeField(heading, this.format));
    return headings.join(this.delimiter) + this.lineEnding;
  }

  row(row: SheetRow): string {
    let line = '';
    for (let at = 0; at < this.columns.length; at++) {
      const { value } = this.columns[at] as SheetColumn;
      if (at > 0) line += this.delimiter;
      line += writeField(cellOf(value, row, this.context), this.format);
    }
    return line + this.lineEnding;
  }
}
