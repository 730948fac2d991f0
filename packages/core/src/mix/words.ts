import { type NotationProblem, readNotation } from '../match/index.ts';
import { linesOf, type NormalText, normalise } from '../text/index.ts';

/** Why a form of a list can't be used; `line` and `at` count from 1. Its line stays in the list, to be mended. */
export type WordProblem = {
  line: number;
  at: number;
  code: NotationProblem['code'] | 'negative';
  character?: string;
  raw: string;
};

/** What one line of a list says: its forms in normal form, the first before its plurals and aliases. */
export type WordLine = { forms: NormalText[]; problems: Omit<WordProblem, 'line'>[]; marked: boolean };

const SIMPLE = /^[a-z0-9]+(?: [a-z0-9]+)*$/;

/**
 * Reads one line: `kayak|kayaks` are two forms. A match type's marks say nothing here and are left out (`marked`);
 * what is no keyword is a problem of its own, and the other forms are used all the same.
 */
export function readWordLine(raw: string): WordLine {
  if (SIMPLE.test(raw)) return { forms: [raw as NormalText], problems: [], marked: false };
  const read: WordLine = { forms: [], problems: [], marked: false };
  let at = 1;
  for (const part of raw.split('|')) {
    if (part.trim() !== '') readForm(read, part, at);
    at += part.length + 1;
  }
  return read;
}

function readForm(read: WordLine, part: string, start: number) {
  const noted = readNotation(part);
  if (noted.status === 'problem') {
    const { code, at, character } = noted;
    read.problems.push({ code, at: start + at - 1, raw: part.trim(), ...(character ? { character } : {}) });
  } else if (noted.negative) {
    const at = start + part.search(/\S/);
    read.problems.push({ code: 'negative', at, raw: part.trim() });
  } else {
    if (noted.type !== null) read.marked = true;
    const form = normalise(noted.text);
    if (!read.forms.includes(form)) read.forms.push(form);
  }
}

/** A form as it takes part: its text and the entry (from 0) that it stands for. */
export type WordForm = { text: NormalText; entry: number };

export type ReadWords = {
  forms: WordForm[];
  /** What each entry is called: its first form that takes part. */
  entries: NormalText[];
  problems: WordProblem[];
  /** Forms that an earlier line has already. */
  repeated: number;
  /** Lines whose marks were left out. */
  marked: number;
};

/**
 * A list as the unique set of its forms, in the order of its lines. With `firstFormOnly` the others are left aside
 * before repeats are looked for. O(length).
 */
export function readWords(text: string, firstFormOnly = false): ReadWords {
  const read: ReadWords = { forms: [], entries: [], problems: [], repeated: 0, marked: 0 };
  const met = new Set<string>();
  linesOf(text).forEach((raw, at) => {
    if (raw === '') return;
    const line = readWordLine(raw);
    for (const problem of line.problems) read.problems.push({ line: at + 1, ...problem });
    if (line.marked) read.marked++;
    const taken: NormalText[] = [];
    for (const form of firstFormOnly ? line.forms.slice(0, 1) : line.forms) {
      if (met.has(form)) read.repeated++;
      else taken.push(form);
      met.add(form);
    }
    const [first] = taken;
    if (first === undefined) return;
    const entry = read.entries.push(first) - 1;
    for (const form of taken) read.forms.push({ text: form, entry });
  });
  return read;
}
