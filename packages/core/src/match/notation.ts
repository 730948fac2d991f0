import { firstNotAllowed, normalise, plainMarks, tidy, withoutNotAllowed } from '../text/index.ts';
import { type MatchType, matchRules } from './types/index.ts';

/** What one pasted keyword says. `marks` are the places of the marked words, from 0. */
export type Noted = {
  status: 'read';
  /** As typed, without its notation. */
  text: string;
  negative: boolean;
  /** null: no match type was asked for. */
  type: MatchType | null;
  marks: number[];
};

export const notationProblems = [
  'empty',
  'unbalanced-quote',
  'unbalanced-bracket',
  'empty-pair',
  'lone-plus',
  'mark-inside',
  'mixed-marks',
  'not-allowed',
  'too-long',
] as const;

/** Why a pasted keyword can't be read; `at` is the column, counted from 1. */
export type NotationProblem = {
  status: 'problem';
  code: (typeof notationProblems)[number];
  at: number;
  character?: string;
};

export type NotationOptions = {
  /** Make characters that a keyword may not hold a space, instead of reporting them. */
  takeOutNotAllowed?: boolean;
};

/** Longer than any search: such a line is a paste gone wrong. */
export const LONGEST_KEYWORD = 400;

const WIDE_MARKS: Record<string, string> = { '＋': '+', '［': '[', '］': ']' };
const plain = (raw: string) => plainMarks(raw.replace(/[＋［］]/g, (mark) => WIDE_MARKS[mark] ?? mark));

const problem = (code: NotationProblem['code'], at: number, character?: string): NotationProblem =>
  character === undefined ? { status: 'problem', code, at } : { status: 'problem', code, at, character };

/**
 * Reads the notation of one pasted keyword: `red kayak`, `"red kayak"`, `[red kayak]`, `+red +kayak`, and each
 * with a `-` before it as a negative. Curly quotes, full-width marks and spaces inside the marks are
 * understood. O(length).
 */
export function readNotation(raw: string, options: NotationOptions = {}): Noted | NotationProblem {
  if (raw.length > LONGEST_KEYWORD) return problem('too-long', LONGEST_KEYWORD + 1);
  const line = plain(raw);
  let start = line.search(/\S/);
  if (start < 0) return problem('empty', 1);
  const negative = line[start] === '-';
  if (negative) start += 1 + Math.max(0, line.slice(start + 1).search(/\S/));
  const end = line.trimEnd().length;
  if (start >= end) return problem('empty', start);
  const first = line[start];
  if (first === '"') return readPair(line, start, end, '"', negative, options);
  if (first === '[') return readPair(line, start, end, ']', negative, options);
  return readOpen(line, start, end, negative, options);
}

function readPair(
  line: string,
  start: number,
  end: number,
  close: '"' | ']',
  negative: boolean,
  options: NotationOptions,
): Noted | NotationProblem {
  const code = close === '"' ? 'unbalanced-quote' : 'unbalanced-bracket';
  const at = line.indexOf(close, start + 1);
  if (at < 0 || at >= end) return problem(code, start + 1);
  const inner = line.slice(start + 1, at);
  if (inner.trim() === '') return problem('empty-pair', start + 1);
  if (at < end - 1) return line[at + 1] === close ? problem(code, at + 2) : problem('mark-inside', at + 1);
  const other = inner.search(/["[\]]|(?:^|\s)\+/);
  if (other >= 0) return problem('mixed-marks', start + 2 + other);
  return readText(inner, start + 1, negative, close === '"' ? 'phrase' : 'exact', [], options);
}

function readOpen(
  line: string,
  start: number,
  end: number,
  negative: boolean,
  options: NotationOptions,
): Noted | NotationProblem {
  const body = line.slice(start, end);
  const stray = body.search(/["[\]]/);
  if (stray >= 0) {
    const mark = body[stray];
    const opensOrEnds = stray === body.length - 1 || /\s/.test(body[stray - 1] ?? ' ');
    if (!opensOrEnds) return problem('mark-inside', start + stray + 1);
    return problem(mark === '"' ? 'unbalanced-quote' : 'unbalanced-bracket', start + stray + 1);
  }
  if (!body.includes('+')) return readText(body, start, negative, null, [], options);
  return readMarked(body, start, negative, options);
}

function readMarked(
  body: string,
  start: number,
  negative: boolean,
  options: NotationOptions,
): Noted | NotationProblem {
  const marks: number[] = [];
  let place = 0;
  for (const found of body.matchAll(/\S+/g)) {
    const word = found[0];
    if (tidy(word) === '') continue;
    const column = start + found.index + 1;
    if (tidy(word) === '+') return problem('lone-plus', column);
    const inside = word.indexOf('+', 1);
    if (inside > 0) return problem('mark-inside', column + inside);
    if (word.startsWith('+')) marks.push(place);
    place++;
  }
  if (negative) return problem('mixed-marks', start + 1);
  const bare = body.replace(/(^|\s)\+/g, '$1 ');
  return readText(bare, start, negative, 'modified', marks, options);
}

function readText(
  text: string,
  offset: number,
  negative: boolean,
  type: MatchType | null,
  marks: number[],
  options: NotationOptions,
): Noted | NotationProblem {
  const bad = firstNotAllowed(text.replace(/\s/g, ' '));
  if (bad && !options.takeOutNotAllowed) return problem('not-allowed', offset + bad.at + 1, bad.character);
  const said = tidy(text);
  const kept = bad ? withoutNotAllowed(said) : said;
  // What nobody sees is no keyword.
  if (normalise(kept) === '') return problem('empty', offset + 1);
  return { status: 'read', text: kept, negative, type, marks: bad && type !== 'modified' ? [] : marks };
}

/** A keyword in notation: `red kayak`, `+red +kayak`, `"red kayak"`, `[red kayak]`. */
export const writeNotation = (text: string, type: MatchType, marks: readonly number[] = []): string =>
  matchRules[type].write(text, marks);
