import {
  type CaseStyle,
  type Casing,
  fillLine,
  inCase,
  type LanguagePack,
  type Line,
  lengthOf,
  type TokenValues,
} from '../text/index.ts';

/** A field of an ad pattern: its lines in order of preference. */
export type FieldLines = { lines: readonly Line[]; style: CaseStyle };

/** `line` counts from 0. An unfilled field tells by how much its shortest line is too long. */
export type Fit =
  | { status: 'fits'; text: string; length: number; line: number }
  | { status: 'unfilled'; why: 'too-long'; overrun: number; line: number; text: string }
  | { status: 'unfilled'; why: 'no-line' };

export type Writing = { pack: LanguagePack; casing: Casing };

/**
 * The first line that fits `limit` with its tokens filled. With the limit 25 and the keyword
 * `inflatable sea kayak`, the lines `@keyword for hire today` (35) and `@keyword hire` (25) give the second.
 */
export function fitLine(field: FieldLines, values: TokenValues, limit: number, writing: Writing): Fit {
  let shortest: Extract<Fit, { status: 'unfilled' }> = { status: 'unfilled', why: 'no-line' };
  for (let at = 0; at < field.lines.length; at++) {
    const filled = fillLine(field.lines[at] as Line, values);
    if (filled === undefined || filled.trim() === '') continue;
    const text = inCase(filled.trim(), field.style, writing.pack, writing.casing);
    const length = lengthOf(text);
    if (length <= limit) return { status: 'fits', text, length, line: at };
    const overrun = length - limit;
    if (shortest.why === 'no-line' || overrun < shortest.overrun)
      shortest = { status: 'unfilled', why: 'too-long', overrun, line: at, text };
  }
  return shortest;
}
