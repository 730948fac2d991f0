import { unzip } from 'fflate';

/** A workbook unpacks to at most this much; more is no list of keywords, or is made to fill memory. */
export const MOST_UNPACKED = 400_000_000;

export type Workbook = { sheets: string[]; textOf: (sheet: number) => string };

/** Opens an xlsx file; its sheets are read as tab-separated text, formulas by the value they last had. */
export async function openWorkbook(
  bytes: Uint8Array,
  most = MOST_UNPACKED,
): Promise<Workbook | { problem: 'no-workbook' | 'too-large' }> {
  const sizes = await sizesIn(bytes);
  if (!sizes?.some(({ name }) => name.startsWith('xl/'))) return { problem: 'no-workbook' };
  if (sizes.reduce((sum, { size }) => sum + size, 0) > most) return { problem: 'too-large' };
  const { default: exceljs } = await import('exceljs/dist/exceljs.bare.min.js');
  const book = new exceljs.Workbook();
  try {
    await book.xlsx.load(bytes.slice().buffer as never);
  } catch {
    return { problem: 'no-workbook' };
  }
  const filled = book.worksheets.filter((sheet) => sheet.actualRowCount > 0);
  return {
    sheets: filled.map(({ name }) => name),
    textOf: (at) => {
      const lines: string[] = [];
      const sheet = filled[at];
      sheet?.eachRow({ includeEmpty: true }, (row) => {
        const cells: string[] = [];
        for (let column = 1; column <= sheet.columnCount; column++)
          cells.push(cellText(row.getCell(column).value));
        lines.push(cells.join('\t'));
      });
      return lines.join('\n');
    },
  };
}

function sizesIn(bytes: Uint8Array): Promise<{ name: string; size: number }[] | null> {
  return new Promise((done) => {
    const sizes: { name: string; size: number }[] = [];
    unzip(
      bytes,
      {
        filter: ({ name, originalSize }) => {
          sizes.push({ name, size: originalSize });
          return false;
        },
      },
      (error) => done(error ? null : sizes),
    );
  });
}

/** A cell as one would read it on the screen of a spreadsheet, on one line. */
function cellText(value: unknown): string {
  const text = plainText(value).replace(/[\t\r\n]+/g, ' ');
  // A quote at the start would be taken for the quoting of tab-separated text.
  return text.includes('"') ? `"${text.replaceAll('"', '""')}"` : text;
}

function plainText(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  if (typeof value !== 'object') return String(value);
  const cell = value as { richText?: { text: string }[]; text?: unknown; result?: unknown; error?: string };
  if (cell.richText) return cell.richText.map(({ text }) => text).join('');
  if ('result' in cell) return plainText(cell.result);
  if ('text' in cell) return plainText(cell.text);
  return '';
}
