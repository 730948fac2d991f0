import { writeField } from '@sprig/core/sheets';

/** A rectangle of cells to be pasted into a spreadsheet. */
export type Cells = readonly (readonly string[])[];

/** Tab-separated text, written as sheets are: what lists, editors and engines take. */
export const asTsv = (cells: Cells): string =>
  cells.map((row) => row.map((text) => writeField(text, '\t')).join('\t')).join('\n');

const HTML: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escapeHtml = (text: string) => text.replace(/[&<>"]/g, (character) => HTML[character] ?? character);

/** Cells as a table that marks them as text, so that `+red` or `=…` never becomes a formula. */
export const asTextTable = (cells: Cells): string => {
  const rows = cells.map(
    (row) =>
      `<tr>${row.map((text) => `<td style="mso-number-format:'\\@'">${escapeHtml(text)}</td>`).join('')}</tr>`,
  );
  return `<meta charset="utf-8"><table>${rows.join('')}</table>`;
};

/**
 * Puts cells on the clipboard twice: as plain text, tab-separated where nothing else is said, and as a table of text
 * cells for spreadsheets.
 */
export async function copyCells(cells: Cells, text = asTsv(cells)): Promise<void> {
  await navigator.clipboard.write([
    new ClipboardItem({
      'text/plain': new Blob([text], { type: 'text/plain' }),
      'text/html': new Blob([asTextTable(cells)], { type: 'text/html' }),
    }),
  ]);
}
