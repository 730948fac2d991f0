import { isHeading } from './headings.ts';

export type Delimiter = '\t' | ';' | ',';

/** One record of a delimited text: its first line, counted from 1, its fields, unquoted, and its raw text. */
export type TextRecord = { line: number; fields: string[]; raw: string };

export type RecordProblem = {
  line: number;
  code: 'open-quote' | 'text-after-quote' | 'long-line' | 'many-columns';
  at: number;
  raw: string;
};

/** In characters: a longer one is no line of a list, and what stands in it is not looked at. */
export const LONGEST_LINE = 1_000_000;
/** No list has more columns. */
export const MOST_COLUMNS = 2_000;

/** A quoted field that runs over more lines than this was never meant to be one. */
const MOST_LINES = 50;

/** Records read so far, and how many of the lines they used. */
export type Records = { records: TextRecord[]; problems: RecordProblem[]; used: number };

/**
 * The records of a delimited text by RFC 4180, blank lines left out. A quote that does not close, or that
 * closes only in a record which no longer has `columns` fields, makes its own line a problem, and reading goes
 * on at the next. `firstLine` is the number of the first of the lines. Where more lines follow (`isEnd` false) a
 * record that may run into them is left for the next time. O(length), but for open quotes, which look at most 50
 * lines ahead.
 */
export function readRecords(
  lines: readonly string[],
  delimiter: Delimiter | '|',
  columns: number,
  { firstLine = 1, isEnd = true }: { firstLine?: number; isEnd?: boolean } = {},
): Records {
  const records: TextRecord[] = [];
  const problems: RecordProblem[] = [];
  const keep = (record: TextRecord) => {
    if (record.fields.length <= MOST_COLUMNS) records.push(record);
    else problems.push({ line: record.line, code: 'many-columns', at: 1, raw: record.raw });
  };
  let at = 0;
  for (; at < lines.length; at++) {
    const raw = lines[at] ?? '';
    if (raw.trim() === '') continue;
    const line = firstLine + at;
    if (raw.length > LONGEST_LINE) {
      problems.push({ line, code: 'long-line', at: LONGEST_LINE + 1, raw });
      continue;
    }
    if (!raw.includes('"')) {
      keep({ line, fields: raw.split(delimiter, MOST_COLUMNS + 1), raw });
      continue;
    }
    if (!isEnd && at + MOST_LINES > lines.length) break;
    const read = readQuoted(lines, at, delimiter, columns);
    if ('code' in read) {
      problems.push({ line, code: read.code, at: read.column, raw });
    } else {
      keep({ line, fields: read.fields, raw: lines.slice(at, at + read.lines).join('\n') });
      at += read.lines - 1;
    }
  }
  return { records, problems, used: at };
}

type Quoted = { fields: string[]; lines: number } | { code: RecordProblem['code']; column: number };

function readQuoted(lines: readonly string[], start: number, delimiter: string, columns: number): Quoted {
  let text = lines[start] ?? '';
  let read = splitQuoted(text, delimiter);
  let used = 1;
  let quotes = quotesIn(text);
  while ('open' in read && used < MOST_LINES && start + used < lines.length && text.length <= LONGEST_LINE) {
    const next = lines[start + used] ?? '';
    text += `\n${next}`;
    used++;
    // What is open closes with a quote of its own.
    const more = quotesIn(next);
    quotes += more;
    if (more > 0 && quotes % 2 === 0) read = splitQuoted(text, delimiter);
  }
  if ('open' in read) return { code: 'open-quote', column: splitColumn(lines[start] ?? '', delimiter) };
  if ('after' in read && used === 1) return { code: 'text-after-quote', column: read.after + 1 };
  if ('after' in read || (used > 1 && read.fields.length !== columns))
    return { code: 'open-quote', column: splitColumn(lines[start] ?? '', delimiter) };
  return { fields: read.fields, lines: used };
}

function quotesIn(text: string): number {
  let count = 0;
  for (let at = text.indexOf('"'); at >= 0; at = text.indexOf('"', at + 1)) count++;
  return count;
}

function splitColumn(line: string, delimiter: string): number {
  const read = splitQuoted(line, delimiter);
  return 'open' in read ? read.open + 1 : 1;
}

type Split = { fields: string[] } | { open: number } | { after: number };

function splitQuoted(text: string, delimiter: string): Split {
  const fields: string[] = [];
  let at = 0;
  for (;;) {
    if (text[at] !== '"') {
      const end = text.indexOf(delimiter, at);
      fields.push(end < 0 ? text.slice(at) : text.slice(at, end));
      if (end < 0) return { fields };
      at = end + 1;
      continue;
    }
    const open = at;
    let value = '';
    for (;;) {
      const close = text.indexOf('"', at + 1);
      if (close < 0) return { open };
      value += text.slice(at + 1, close);
      at = close + 1;
      if (text[at] !== '"') break;
      value += '"';
    }
    fields.push(value);
    if (at >= text.length) return { fields };
    if (text[at] !== delimiter) return { after: at };
    at++;
  }
}

const SAMPLE = 200;
/** Tabs before semicolons before commas: a comma may be part of a number in the other two. */
const DELIMITERS: readonly Delimiter[] = ['\t', ';', ','];
/** Headings are looked for in so many lines. */
const HEADED = 15;

/**
 * The delimiter of a list, and how many fields most of its lines have: of those that at least half of the first 200
 * lines hold, the one that makes the most headings of a line; where none does, the one that gives the most lines the
 * same number of fields. null: one keyword a line.
 */
export function guessDelimiter(lines: readonly string[]): { delimiter: Delimiter | null; columns: number } {
  const sample: string[] = [];
  for (const line of lines) {
    if (sample.length >= SAMPLE) break;
    if (line.trim() !== '') sample.push(line.length > 5_000 ? line.slice(0, 5_000) : line);
  }
  let best: { delimiter: Delimiter | null; columns: number; headings: number; even: number } = {
    delimiter: null,
    columns: 1,
    headings: 0,
    even: 0,
  };
  for (const delimiter of DELIMITERS) {
    const counts = sample.map((line) => fieldCount(line, delimiter)).filter((count) => count > 1);
    if (counts.length === 0 || counts.length * 2 < sample.length) continue;
    const columns = mostFrequent(counts);
    const even = counts.filter((count) => count === columns).length;
    const headings = Math.max(
      ...sample.slice(0, HEADED).map((line) => line.split(delimiter).filter(isHeadingCell).length),
    );
    const isBetter = headings === best.headings ? even > best.even : headings > best.headings;
    if (isBetter) best = { delimiter, columns, headings, even };
  }
  return { delimiter: best.delimiter, columns: best.columns };
}

const isHeadingCell = (cell: string): boolean => isHeading(cell.replace(/^\s*"|"\s*$/g, ''));

function fieldCount(line: string, delimiter: Delimiter): number {
  const split = splitQuoted(line, delimiter);
  return 'fields' in split ? split.fields.length : line.split(delimiter).length;
}

function mostFrequent(numbers: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const number of numbers) counts.set(number, (counts.get(number) ?? 0) + 1);
  let best = numbers[0] ?? 0;
  for (const [number, count] of counts) if (count > (counts.get(best) ?? 0)) best = number;
  return best;
}
