/** One record of a sheet with the line that it begins in; what could not be read is told. */
export type SheetRecord = { line: number; fields: readonly string[]; broken?: string };

/** No sheet has more columns; what is beyond them is left out, so that a file of delimiters does not fill the memory. */
const MOST_FIELDS = 2_000;

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
      if (bare.trim() !== '' || bare.includes(delimiter))
        records.push({ line, fields: bare.split(delimiter, MOST_FIELDS) });
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

/** One record with quotes in it, and where the next one begins; null where its quotes do not work out. */
function quotedRecord(
  text: string,
  start: number,
  delimiter: string,
): { fields: string[]; end: number } | null {
  const fields: string[] = [];
  const push = (value: string) => {
    if (fields.length < MOST_FIELDS) fields.push(value);
  };
  for (let at = start; ; ) {
    if (text[at] === '"') {
      let value = '';
      for (;;) {
        const close = text.indexOf('"', at + 1);
        if (close < 0) return null;
        value += text.slice(at + 1, close);
        at = close + 1;
        if (text[at] !== '"') break;
        value += '"';
      }
      push(value);
    } else {
      let end = at;
      while (end < text.length && text[end] !== delimiter && text[end] !== '\n') end++;
      const isCrLf = text[end] === '\n' && text[end - 1] === '\r' && end > at;
      push(text.slice(at, isCrLf ? end - 1 : end));
      at = end;
    }
    if (text[at] === '\r' && text[at + 1] === '\n') at++;
    if (at >= text.length || text[at] === '\n') return { fields, end: at + 1 };
    if (text[at] !== delimiter) return null;
    at++;
  }
}
