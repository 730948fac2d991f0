import { type CaseStyle, caseStyles, type LinePart, parseLine, writeLine } from '../text/index.ts';
import type { Insertion } from '../write/index.ts';

/** A text of an ad as one would type it here, or what stands in the way. */
export type ReadAdText = { source: string } | { problem: 'token' | 'insertion'; text: string };

/** Nothing of these may stand in what an insertion falls back on. */
const NOT_WITHIN = /[()@]/;

/**
 * Reads a text of an outlet's ad back into a line: what the outlet fills in at search time becomes the live token, with
 * what it falls back on. A text with a word after `@` would be taken for a token, and is told.
 */
export function readAdText(text: string, insertion: Insertion | null): ReadAdText {
  const parts: LinePart[] = [];
  let rest = text;
  for (let found = firstInsertion(rest, insertion); found; found = firstInsertion(rest, insertion)) {
    const { before, inside, after, style } = found;
    if (NOT_WITHIN.test(inside) || inside.trim() !== inside || inside === '')
      return { problem: 'insertion', text };
    if (before !== '') parts.push({ kind: 'text', text: before });
    parts.push({
      kind: 'token',
      name: 'keyword',
      live: true,
      ...(style === 'as-is' ? {} : { style }),
      or: inside,
    });
    rest = after;
  }
  if (rest !== '') parts.push({ kind: 'text', text: rest });
  if (parts.some((part) => part.kind === 'text' && hasToken(part.text))) return { problem: 'token', text };
  return { source: writeLine({ parts }) };
}

const hasToken = (text: string): boolean => {
  if (!text.includes('@')) return false;
  const read = parseLine(text);
  return 'problem' in read || read.line.parts.some(({ kind }) => kind === 'token');
};

type Found = { before: string; inside: string; after: string; style: CaseStyle; at: number };

/** The first stretch that is written as one of the outlet's insertions; of two at one place the longer notation. */
function firstInsertion(text: string, insertion: Insertion | null): Found | null {
  if (!insertion) return null;
  let best: Found | null = null;
  const styles = [...caseStyles].sort((a, b) => insertion[b].length - insertion[a].length);
  for (const style of styles) {
    const [open = '', close = ''] = insertion[style].split('@default');
    const at = open === '' ? -1 : text.indexOf(open);
    const end = at < 0 ? -1 : close === '' ? text.length : text.indexOf(close, at + open.length);
    if (end < 0 || (best && best.at <= at)) continue;
    best = {
      before: text.slice(0, at),
      inside: text.slice(at + open.length, end),
      after: text.slice(end + close.length),
      style,
      at,
    };
  }
  return best;
}
