/** One record of a sheet with the line that it begins in; what could not be read is told. */
export type SheetRecord = { line: number; fields: readonly string[]; broken?: string };

/** What has more columns, or is longer, is no row of a sheet: it is told, and not read. */
const MOST_FIELDS = 2_000;
const LONGEST = 1_000_000;

/**
 * The records of a delimited text by RFC 4180, each with its first line, to the letter: line ends within quotes stay as
 * they are. A record whose quotes do not work out is told, and reading goes on at the next line. O(length).
 */
export function recordsOf(text: string, delimiter: string, most = Number.POSITIVE_INFINITY): SheetRecord[] {
  const records: SheetRecord[] = [];
  let line = 1;
  for (let at = 0; at < text.length && records.length < most; ) {
    let end = text.indexOf('\n', at);
    if (end < 0) end = text.length;
    const bare = text.slice(at, text[end - 1] === '\r' && end > at ? end - 1 : end);
    if (!bare.includes('"')) {
      if (bare.trim() !== '' || bare.includes(delimiter)) records.push(plainRecord(line, bare, delimiter));
      at = end + 1;
      line++;
      continue;
    }
    const read = quotedRecord(text, at, delimiter);
    if (!read) {
      records.push({ line, fields: [], broken: bare.slice(0, 200) });
      at = end + 1;
      line++;
      continue;
    }
    records.push({ line, fields: read.fields });
    for (let next = text.indexOf('\n', at); next >= 0 && next < read.end; next = text.indexOf('\n', next + 1))
      line++;
    at = read.end;
  }
  return records;
}

function plainRecord(line: number, text: string, delimiter: string): SheetRecord {
  const fields = text.length > LONGEST ? [] : text.split(delimiter, MOST_FIELDS + 1);
  const isFit = text.length <= LONGEST && fields.length <= MOST_FIELDS;
  return isFit ? { line, fields } : { line, fields: [], broken: text.slice(0, 200) };
}

/** One record with quotes in it, and where the next one begins; null where its quotes do not work out. */
function quotedRecord(
  text: string,
  start: number,
  delimiter: string,
): { fields: string[]; end: number } | null {
  const fields: string[] = [];
  for (let at = start; ; ) {
    if (fields.length >= MOST_FIELDS || at - start > LONGEST) return null;
    if (text[at] === '"') {
      let value = '';
      for (;;) {
        const close = text.indexOf('"', at + 1);
        if (close < 0 || close - start > LONGEST) return null;
        value += text.slice(at + 1, close);
        at = close + 1;
        if (text[at] !== '"') break;
        value += '"';
      }
      fields.push(value);
    } else {
      let end = at;
      while (end < text.length && text[end] !== delimiter && text[end] !== '\n') end++;
      const isCrLf = text[end] === '\n' && text[end - 1] === '\r' && end > at;
      fields.push(text.slice(at, isCrLf ? end - 1 : end));
      at = end;
    }
    if (text[at] === '\r' && text[at + 1] === '\n') at++;
    if (at >= text.length || text[at] === '\n') return { fields, end: at + 1 };
    if (text[at] !== delimiter) return null;
    at++;
  }
}
