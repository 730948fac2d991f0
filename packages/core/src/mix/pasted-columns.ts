import { guessDelimiter, readRecords } from '../gather/index.ts';
import { linesOf } from '../text/index.ts';

/** A pasted column as a list: a cell to a line, empty ones left out. */
export type PastedList = { name: string; text: string; lines: number };

/**
 * Columns copied from a spreadsheet, each as a list whose name is its header; without headers they are numbered.
 * Columns of nothing are left out, and so are lines whose quotes do not close.
 */
export function readPastedColumns(text: string, hasHeaders: boolean): PastedList[] {
  const lines = linesOf(text);
  const { delimiter, columns } = guessDelimiter(lines);
  const records = delimiter
    ? readRecords(lines, delimiter, columns).records.map(({ fields }) => fields)
    : lines.filter((line) => line.trim() !== '').map((line) => [line]);
  const width = records.reduce((most, fields) => Math.max(most, fields.length), 0);
  const body = hasHeaders ? records.slice(1) : records;
  return Array.from({ length: width }, (_, at) => {
    const cells = body.map((fields) => oneLine(fields[at] ?? '')).filter((cell) => cell !== '');
    const heading = hasHeaders ? oneLine(records[0]?.[at] ?? '') : '';
    return { name: heading || `List ${at + 1}`, text: cells.join('\n'), lines: cells.length };
  }).filter(({ lines: count }) => count > 0);
}

const oneLine = (cell: string): string => cell.replace(/\s+/g, ' ').trim();
