import { stringAt } from '../access/index.ts';
import type { LanguagePack } from './language.ts';

export const caseStyles = ['as-is', 'lower', 'sentence', 'title'] as const;
export type CaseStyle = (typeof caseStyles)[number];

/** Words that always take one written form, compiled for replacing. */
export type Casing = {
  pattern: RegExp;
  forms: ReadonlyMap<string, string>;
  /** Without a match an ASCII text has none of the forms; null where that can't be told so quickly. */
  hint: RegExp | null;
  /** The words of those forms that have several: where two of them meet, a form may lie across. */
  parts: ReadonlySet<string>;
} | null;

const ASCII = /^[\0-\x7f]*$/;
const literally = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** Compiles a casing list such as `['SUP', 'Wrenport', 'Fathom & Reed']`; longer forms win over shorter. */
export function casingOf(list: readonly string[]): Casing {
  const forms = new Map(list.filter(Boolean).map((form) => [form.toLowerCase(), form]));
  if (forms.size === 0) return null;
  const longestFirst = [...forms.keys()].sort((a, b) => b.length - a.length);
  const inside = '[\\p{L}\\p{N}]';
  const pattern = new RegExp(
    `(?<!${inside})(?:${longestFirst.map(literally).join('|')})(?!${inside})`,
    'giu',
  );
  const parts = new Set([...forms.keys()].filter((form) => /[^\p{L}\p{N}]/u.test(form)).flatMap(looseWords));
  const areAscii = longestFirst.every((form) => ASCII.test(form));
  const hint = areAscii ? new RegExp(longestFirst.map(literally).join('|'), 'i') : null;
  return { pattern, forms, hint, parts };
}

/** The runs of letters and figures of a text, in lower case. */
export const looseWords = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

const FIRST_LETTER = /\p{L}|\p{N}/u;

function raise(word: string): string {
  const first = word.charCodeAt(0);
  // Nearly every word begins with a small ASCII letter: three times as fast as the expression.
  if (first >= 97 && first <= 122) return String.fromCharCode(first - 32) + word.slice(1);
  return word.replace(FIRST_LETTER, (letter) => letter.toUpperCase());
}

const raiseParts = (word: string) =>
  word.includes('-') ? word.split('-').map(raise).join('-') : raise(word);

/**
 * Title case of a stretch of words. A function word is raised only where it is the first or the last of all: `first` and
 * `last` tell whether the stretch's own first and last word are.
 */
function titleCase(text: string, pack: LanguagePack, first = true, last = true): string {
  const words = text.split(' ');
  const end = words.length - 1;
  let cased = '';
  for (let at = 0; at <= end; at++) {
    const word = stringAt(words, at);
    if (at > 0) cased += ' ';
    cased += (first && at === 0) || (last && at === end) ? raiseParts(word) : innerWord(word, pack);
  }
  return cased;
}

/** Words as they stand inside a title, by the pack that they were told by last: a pool has few different ones. */
const inner = { pack: null as LanguagePack | null, words: new Map<string, string>() };
const MOST_REMEMBERED = 20_000;

function innerWord(word: string, pack: LanguagePack): string {
  if (inner.pack !== pack || inner.words.size > MOST_REMEMBERED) {
    inner.pack = pack;
    inner.words.clear();
  }
  const known = inner.words.get(word);
  if (known !== undefined) return known;
  const cased = pack.functionWords.has(word.toLowerCase()) ? word : raiseParts(word);
  inner.words.set(word, cased);
  return cased;
}

/**
 * A whole field in a case style. Title and sentence case raise letters and never lower any; words on the
 * casing list take their listed form in every style.
 *
 * Title: `sit-on-top kayak for the sea` is `Sit-On-Top Kayak for the Sea`.
 */
export const inCase = (text: string, style: CaseStyle, pack: LanguagePack, casing: Casing = null): string =>
  inCasing(styledAs(text, style, pack, true, true), casing);

/** A stretch of a field in the field's case; `first` and `last` tell whether it begins and ends it. */
export const stretchInCase = (
  text: string,
  style: CaseStyle,
  pack: LanguagePack,
  casing: Casing,
  first: boolean,
  last: boolean,
): string => inCasing(styledAs(text, style, pack, first, last), casing);

function inCasing(styled: string, casing: Casing): string {
  if (!casing || (casing.hint && ASCII.test(styled) && !casing.hint.test(styled))) return styled;
  return styled.replace(casing.pattern, (found) => casing.forms.get(found.toLowerCase()) ?? found);
}

function styledAs(text: string, style: CaseStyle, pack: LanguagePack, first: boolean, last: boolean): string {
  switch (style) {
    case 'as-is':
      return text;
    case 'lower':
      return text.toLowerCase();
    case 'sentence':
      return first ? raise(text) : text;
    case 'title':
      return titleCase(text, pack, first, last);
  }
}
