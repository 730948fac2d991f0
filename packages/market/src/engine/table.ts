import type { Outlet } from '@sprig/core/ship';

/** The cells of a sheet, and the line that each row begins in; the heading's is 1. */
export type Table = { headings: string[]; rows: { line: number; cells: string[] }[] };
export type TableReading = { status: 'table'; table: Table } | { status: 'refused'; reason: string };

/** Windows-1252 where it is not Latin-1. */
const ODD = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/** Reads bytes as the engine asked for them, and nothing else. */
export function decode(bytes: Uint8Array, { encoding, byteOrderMark }: Outlet['file']): string | null {
  const marked = (mark: readonly number[]) => mark.every((byte, at) => bytes[at] === byte);
  switch (encoding) {
    case 'utf-8': {
      if (byteOrderMark && !marked([0xef, 0xbb, 0xbf])) return null;
      return fromUtf8(bytes.subarray(byteOrderMark ? 3 : 0));
    }
    case 'utf-16le': {
      if (bytes.length % 2 === 1 || (byteOrderMark && !marked([0xff, 0xfe]))) return null;
      let text = '';
      for (let at = byteOrderMark ? 2 : 0; at < bytes.length; at += 2)
        text += String.fromCharCode((bytes[at] as number) | ((bytes[at + 1] as number) << 8));
      return text;
    }
    case 'windows-1252': {
      let text = '';
      for (const byte of bytes)
        text += byte >= 0x80 && byte < 0xa0 ? ODD[byte - 0x80] : String.fromCharCode(byte);
      return text;
    }
  }
}

/** UTF-8 by its definition; null where the bytes are none. */
function fromUtf8(bytes: Uint8Array): string | null {
  const parts: string[] = [];
  let text = '';
  for (let at = 0; at < bytes.length; ) {
    const first = bytes[at] as number;
    const more =
      first < 0x80
        ? 0
        : first >= 0xc2 && first < 0xe0
          ? 1
          : first >= 0xe0 && first < 0xf0
            ? 2
            : first >= 0xf0 && first < 0xf5
              ? 3
              : -1;
    if (more < 0 || at + more >= bytes.length) return null;
    let code = more === 0 ? first : first & (0x3f >> more);
    for (let n = 1; n <= more; n++) {
      const next = bytes[at + n] as number;
      if ((next & 0xc0) !== 0x80) return null;
      code = (code << 6) | (next & 0x3f);
    }
    text += String.fromCodePoint(code);
    if (text.length > 8_192) {
      parts.push(text);
      text = '';
    }
    at += more + 1;
  }
  return parts.join('') + text;
}

/** Reads a delimited text character by character: a quote opens a cell at its beginning only, two in it are one. */
export function readTable(text: string, delimiter: string): TableReading {
  const rows: { line: number; cells: string[] }[] = [];
  let cells: string[] = [];
  let cell = '';
  let state: 'start' | 'bare' | 'quoted' | 'closed' = 'start';
  let line = 1;
  let began = 1;
  const endCell = () => {
    cells.push(cell);
    cell = '';
    state = 'start';
  };
  const endRow = () => {
    endCell();
    rows.push({ line: began, cells });
    cells = [];
    began = line;
  };
  for (let at = 0; at < text.length; at++) {
    const character = text[at] as string;
    if (state === 'quoted') {
      if (character === '\n') line++;
      if (character !== '"') cell += character;
      else if (text[at + 1] === '"') {
        cell += '"';
        at++;
      } else state = 'closed';
    } else if (character === delimiter) endCell();
    else if (character === '\n' || (character === '\r' && text[at + 1] === '\n')) {
      if (character === '\r') at++;
      line++;
      endRow();
    } else if (character === '"' && state === 'start') state = 'quoted';
    else if (state === 'closed' || character === '"')
      return { status: 'refused', reason: `Line ${line}: a quote stands where none may.` };
    else {
      cell += character;
      state = 'bare';
    }
  }
  if (state === 'quoted') return { status: 'refused', reason: `Line ${began}: a quote is not closed.` };
  if (cell !== '' || cells.length > 0 || state === 'closed') endRow();
  const [heading, ...rest] = rows;
  if (!heading) return { status: 'refused', reason: 'The sheet is empty.' };
  return { status: 'table', table: { headings: heading.cells, rows: rest } };
}
