import { itemAt } from '../access/index.ts';
import type { CaseStyle, TokenValues } from '../text/index.ts';
import type { CompiledLine, LiveStretch, TextRules, WrittenLine } from './compiled-line.ts';

/** A field of an ad pattern: its lines in order of preference. */
export type FieldLines = { lines: readonly CompiledLine[]; style: CaseStyle };

/** `line` counts from 0. An unfilled field tells by how much its shortest line is too long. */
export type Fit =
  | ({ status: 'fits'; line: number } & WrittenLine)
  | { status: 'unfilled'; why: 'too-long'; overrun: number; line: number; text: string }
  /** A line says what is still to be written there. */
  | { status: 'unfilled'; why: 'gap'; about: string }
  | { status: 'unfilled'; why: 'no-line' };

/**
 * The first line that fits `limit` with its tokens filled. With the limit 25 and the keyword
 * `inflatable sea kayak`, the lines `@keyword for hire today` (35) and `@keyword hire` (25) give the second. A live token
 * is as long as what the engine falls back on.
 */
export function fitLine(field: FieldLines, values: TokenValues, limit: number, writing: TextRules): Fit {
  let shortest: Extract<Fit, { status: 'unfilled' }> = { status: 'unfilled', why: 'no-line' };
  for (let at = 0; at < field.lines.length; at++) {
    const line = itemAt(field.lines, at);
    const written = line.write(values, field.style, writing);
    if (written === undefined) {
      if (line.gap !== null && shortest.why === 'no-line')
        shortest = { status: 'unfilled', why: 'gap', about: line.gap };
      continue;
    }
    const { text, length, live } = written;
    if (length <= limit) return { status: 'fits', line: at, text, length, live };
    const overrun = length - limit;
    if (shortest.why !== 'too-long' || overrun < shortest.overrun)
      shortest = { status: 'unfilled', why: 'too-long', overrun, line: at, text };
  }
  return shortest;
}

/** How an outlet writes what it is to fill in: `@default` stands for the text to fall back on. */
export type Insertion = Record<CaseStyle, string>;

/** A text as an outlet wants it, its live stretches in the outlet's own notation; without one, what is fallen back on. */
export function inNotation(text: string, live: readonly LiveStretch[], insertion: Insertion | null): string {
  if (!insertion || live.length === 0) return text;
  let written = '';
  let end = 0;
  for (const { from, to, style } of live) {
    const stretch = insertion[style].replaceAll('@default', () => text.slice(from, to));
    written += text.slice(end, from) + stretch;
    end = to;
  }
  return written + text.slice(end);
}
