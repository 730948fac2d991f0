import { slipsBetween } from '../text/index.ts';

/** A word of the pool, with how often it stands there. */
export type VocabularyWord = {
  word: string;
  /** Keywords that hold it. */
  keywords: number;
  /** The sum of their searches; -1 where none of them has a figure. */
  searches: number;
};

const LEAST_RIGHT = 5;
/** `kyak` for `kayak`: a slip may leave a letter less than the least that the right word has. */
const LEAST_WRONG = LEAST_RIGHT - 1;
const TWO_SLIPS_FROM = 8;
const TIMES_AS_FREQUENT = 20;
/** Deletions are made within this many letters only: it bounds the index, and finds the same candidates. */
const PREFIX = 7;

/**
 * Likely misspellings: each with the word it stands for. A word is one when another, with the same first letter and
 * at least five letters, at one slip (two from eight letters), stands at least 20 times as often, and it is itself
 * no ordinary word and holds no digit. By a deletion index: two words within n slips share a form with n letters
 * left out. O(words × letters²), never word by word.
 */
export function misspellings(
  vocabulary: readonly VocabularyWord[],
  isOrdinary: (word: string) => boolean,
): Map<string, string> {
  const right = vocabulary.filter(({ word }) => word.length >= LEAST_RIGHT && isLetters(word));
  const index = deletionIndex(right.filter(mayBeMeant));
  const found = new Map<string, string>();
  for (const candidate of vocabulary) {
    const { word } = candidate;
    if (word.length < LEAST_WRONG || !isLetters(word) || isOrdinary(word)) continue;
    const meant = nearest(candidate, index);
    if (meant) found.set(word, meant.word);
  }
  return withoutChains(found);
}

const LETTERS = /^\p{L}+$/u;
const isLetters = (word: string) => LETTERS.test(word);

/** No word that stands seldomer than this is 20 times as frequent as any other. */
const mayBeMeant = ({ searches, keywords }: VocabularyWord): boolean =>
  searches >= TIMES_AS_FREQUENT || keywords >= TIMES_AS_FREQUENT;

/** By searches where both have a figure, else by keywords. */
function isOftener(right: VocabularyWord, wrong: VocabularyWord): boolean {
  if (right.searches > 0 && wrong.searches >= 0)
    return right.searches >= TIMES_AS_FREQUENT * Math.max(1, wrong.searches);
  return right.keywords >= TIMES_AS_FREQUENT * wrong.keywords;
}

type DeletionIndex = Map<string, VocabularyWord[]>;

function deletionIndex(words: readonly VocabularyWord[]): DeletionIndex {
  const index: DeletionIndex = new Map();
  for (const word of words)
    for (const form of formsOf(word.word, word.word.length >= TWO_SLIPS_FROM - 2 ? 2 : 1)) {
      const list = index.get(form);
      if (list) list.push(word);
      else index.set(form, [word]);
    }
  return index;
}

/** The first letters of a word, and the same with up to `slips` letters left out; the first letter stays. */
function formsOf(word: string, slips: number): Set<string> {
  const start = word.slice(0, PREFIX);
  const forms = new Set([start]);
  for (let at = 1; at < start.length; at++) {
    const once = start.slice(0, at) + start.slice(at + 1);
    forms.add(once);
    if (slips < 2) continue;
    for (let next = at; next < once.length; next++) forms.add(once.slice(0, next) + once.slice(next + 1));
  }
  return forms;
}

function nearest(wrong: VocabularyWord, index: DeletionIndex): VocabularyWord | undefined {
  const slips = wrong.word.length >= TWO_SLIPS_FROM ? 2 : 1;
  let best: VocabularyWord | undefined;
  let bestSlips = slips + 1;
  for (const form of formsOf(wrong.word, slips))
    for (const right of index.get(form) ?? []) {
      if (right.word === wrong.word || !isOftener(right, wrong)) continue;
      const distance = slipsBetween(wrong.word, right.word, slips);
      if (distance > slips || distance > bestSlips) continue;
      if (distance < bestSlips || isBefore(right, best)) {
        best = right;
        bestSlips = distance;
      }
    }
  return best;
}

const isBefore = (a: VocabularyWord, b: VocabularyWord | undefined): boolean =>
  b === undefined ||
  a.searches > b.searches ||
  (a.searches === b.searches && (a.keywords > b.keywords || (a.keywords === b.keywords && a.word < b.word)));

/** `kayyack` for `kayack` for `kayak` stands for `kayak`. */
function withoutChains(found: Map<string, string>): Map<string, string> {
  for (const [wrong, right] of found) {
    let meant = right;
    for (let next = found.get(meant); next !== undefined && next !== wrong; next = found.get(meant))
      meant = next;
    if (meant !== right) found.set(wrong, meant);
  }
  return found;
}
