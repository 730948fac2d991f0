import { uint8At } from '../access/index.ts';
import { type ListedWords, markerIn } from '../text/index.ts';
import { type AdField, type PartOfAd, partOf } from './fields.ts';

/** What an outlet's editors would object to, in the order in which it is told. */
export const editorialRules = [
  'token-left',
  'marker-left',
  'word-not-allowed',
  'phone-in-text',
  'exclamation-in-headline',
  'repeated-punctuation',
  'word-twice',
  'capitals',
  'article',
  'double-space',
  'space-before-mark',
  'space-in-path',
] as const;
export type EditorialRule = (typeof editorialRules)[number];

/** `found` is what is objected to; `fix` the whole text mended, where that is certain. */
export type EditorialProblem = { rule: EditorialRule; found: string; fix: string | null };

/** Words not to use (rival brands), and words that are rightly in capitals. */
export type EditorialWords = { banned: ListedWords; casing: ReadonlySet<string> };

const REPEATED = /[!?]{2,}|([.,;:*~#%&=_+|/\\-])\1+/g;
const SHOUTED = /(?<![\p{L}\p{N}@])\p{Lu}[\p{Lu}\p{M}'’]*\p{Lu}(?![\p{L}\p{N}])/gu;
const TWICE = /(?<![\p{L}\p{N}'’-])(\p{L}[\p{L}\p{M}\p{N}'’-]*)(\s+)\1(?![\p{L}\p{M}\p{N}'’-])/giu;
const SPACES = / {2,}/g;
const BEFORE_MARK = / +([,;:!?]|\.(?![\p{L}\p{N}]))/gu;
const LEFT = /@[a-z][a-z0-9]*/i;
const ARTICLE = /(?<![\p{L}\p{N}'’-])(an?)(\s+)([\p{L}\p{N}][\p{L}\p{M}\p{N}'’]*)/giu;
const PHONE = /(?<![\p{L}\p{N}.,£$€])\+?\(?\d(?:[\s().\-/–]{0,2}\d){6,14}(?![\p{L}\p{N}]|[.,]\d|\s?%)/gu;
const YEARS = /^(19|20)\d\d\s?[-–/]\s?(19|20)\d\d$/;
const DAY = /^\d{4}([-/.])\d{1,2}\1\d{1,2}$|^\d{1,2}([-/.])\d{1,2}\2\d{4}$/;
const TIMES = /^\d{1,2}\.\d\d\s?[-–]\s?\d{1,2}\.\d\d$/;
const GROUPED = /^\d{1,3}([ .]\d{3})+$/;

const LETTER = 1;
const DIGIT = 2;
/** What each ASCII character is, for one quick look at a text. */
const KIND = Uint8Array.from({ length: 128 }, (_, code) => {
  const character = String.fromCharCode(code);
  return /[a-z]/i.test(character) ? LETTER : /\d/.test(character) ? DIGIT : 0;
});
const [SPACE, BANG, QUOTE, HYPHEN, QUERY, AT] = [32, 33, 39, 45, 63, 64];

/**
 * Whether there can be nothing to object to in an ASCII text but a banned word: told by one look at each character, since
 * nearly every text is clean. False where only a closer look can tell.
 */
function looksClean(text: string, part: PartOfAd): boolean {
  let digits = 0;
  let hasArticle = false;
  let wordFrom = 0;
  /** Behind the last mark in the word: what stands before it does not keep what follows from being a word of its own. */
  let bareFrom = 0;
  let lastFrom = -1;
  let lastTo = -1;
  let before = SPACE;
  for (let at = 0; at <= text.length; at++) {
    const code = at < text.length ? text.charCodeAt(at) : SPACE;
    if (code > 127) return false;
    const kind = uint8At(KIND, code);
    if (kind === DIGIT) digits++;
    if (kind === LETTER && code < 97 && before < 91 && KIND[before] === LETTER) return false;
    if (kind === 0 && code !== SPACE && (code === before || before === SPACE)) {
      // An opening bracket or quote, a hyphen or an ampersand may stand behind a space, once.
      if (code === before || !/["'(&+£$#-]/.test(text.charAt(at))) return false;
    }
    if (code === AT || (code === BANG && (part === 'headlines' || before === QUERY))) return false;
    if (code === QUERY && before === BANG) return false;
    if (code === SPACE) {
      if (before === SPACE && at > 0 && at < text.length) return false;
      if (at - bareFrom <= 2 && (text.charCodeAt(bareFrom) | 32) === 97) hasArticle = true;
      if (lastFrom >= 0 && isSameWord(text, lastFrom, lastTo, wordFrom, at)) return false;
      lastFrom = bareFrom;
      lastTo = at;
      wordFrom = at + 1;
    }
    if (kind === 0 && code !== QUOTE && code !== HYPHEN) bareFrom = at + 1;
    before = code;
  }
  return (
    (digits < 7 || phoneIn(text) === null) &&
    (!hasArticle || wrongArticle(text) === null) &&
    markerIn(text) === null
  );
}

/** Whether two words may be the same but for case and marks behind them. */
const isSameWord = (text: string, from: number, to: number, nextFrom: number, nextTo: number): boolean =>
  nextTo > nextFrom &&
  to > from &&
  (text.charCodeAt(from) | 32) === (text.charCodeAt(nextFrom) | 32) &&
  text.slice(nextFrom, nextTo).toLowerCase().startsWith(text.slice(from, to).toLowerCase());

/** Checks one field's text. */
export function checkText(text: string, field: AdField, words: EditorialWords): EditorialProblem[] {
  if (text === '') return [];
  const part = partOf(field);
  if (part !== 'paths' && looksClean(text, part)) {
    const banned = words.banned.in(text);
    return banned === null ? [] : [{ rule: 'word-not-allowed', found: banned, fix: null }];
  }
  return lookClosely(text, part, words);
}

/** A text with everything mended that can be mended for certain; mending one thing may leave or uncover another. */
export function mendText(text: string, field: AdField, words: EditorialWords): string {
  let mended = text;
  // Each mending takes something away or sets it right; the bound is for the unforeseen.
  for (let times = 0; times < 12; times++) {
    const fix = checkText(mended, field, words).find((problem) => problem.fix !== null)?.fix;
    if (fix === undefined || fix === null || fix === mended) break;
    mended = fix;
  }
  return mended;
}

function lookClosely(text: string, part: PartOfAd, words: EditorialWords): EditorialProblem[] {
  const problems: EditorialProblem[] = [];
  const add = (rule: EditorialRule, found: string, fix: string | null = null) =>
    problems.push({ rule, found, fix });
  const left = LEFT.exec(text);
  if (left) add('token-left', left[0]);
  const marker = markerIn(text);
  if (marker) add('marker-left', marker);
  const banned = words.banned.in(text);
  if (banned) add('word-not-allowed', banned);
  const phone = phoneIn(text);
  if (phone) add('phone-in-text', phone);
  if (part === 'headlines' && text.includes('!'))
    add('exclamation-in-headline', '!', tidied(text.replace(/\s*!+/g, '')));
  const repeated = part === 'paths' ? null : text.match(REPEATED)?.find((found) => !isEllipsis(found, text));
  if (repeated) add('repeated-punctuation', repeated, unrepeated(text));
  const twice = new RegExp(TWICE).exec(text);
  if (twice) add('word-twice', twice[0], text.replace(TWICE, '$1'));
  // What is to be filled in is not shouted.
  const shouted = [...(marker ? text.replace(marker, '') : text).matchAll(SHOUTED)].find(([word]) =>
    isShouted(word, words),
  );
  if (shouted)
    add(
      'capitals',
      shouted[0],
      text.replace(SHOUTED, (word) => (isShouted(word, words) ? calmed(word) : word)),
    );
  const article = wrongArticle(text);
  if (article) add('article', article.found, article.fix);
  if (text.includes('  ')) add('double-space', '  ', text.replace(SPACES, ' '));
  const before = new RegExp(BEFORE_MARK).exec(text);
  if (before && part !== 'paths') add('space-before-mark', before[0], text.replace(BEFORE_MARK, '$1'));
  if (part === 'paths' && /\s/.test(text.trim()))
    add('space-in-path', text, text.trim().replace(/\s+/g, '-'));
  return problems;
}

const tidied = (text: string) => text.replace(/\s+/g, ' ').trim();
/** Three points, and no more, are a mark of their own. */
const isEllipsis = (found: string, text: string) => found === '...' && !text.includes('....');
const unrepeated = (text: string) =>
  text.replace(REPEATED, (found) =>
    isEllipsis(found, text) ? found : found.includes('?') ? '?' : found.charAt(0),
  );
const isShouted = (word: string, { casing }: EditorialWords) =>
  [...word].filter((letter) => /\p{L}/u.test(letter)).length >= 2 && !casing.has(word);
const calmed = (word: string) => word.charAt(0) + word.slice(1).toLowerCase();

/** A run of digits that one would dial: seven to fifteen of them, and not years, a day or a great number. */
export function phoneIn(text: string): string | null {
  for (const [found] of text.matchAll(PHONE)) {
    const run = found.trim();
    if (![YEARS, DAY, TIMES, GROUPED].some((one) => one.test(run))) return run;
  }
  return null;
}

/** Begin as a consonant does though they are written with a vowel, and the other way round. */
const LIKE_CONSONANT = /^(?:uni(?!n|m)|use|usu|usa|uti|ura|ubi|euro|eu[a-z]|ewe|one(?!r)|once|u$)/;
const LIKE_VOWEL = /^(?:hour|honest|honou?r|heir)/;
const NUMBER_LIKE_VOWEL = /^(?:8\d*|11|18|11\d{3}|18\d{3})$/;

/** The first a or an that does not agree with the word behind it, and the text with all of them right. */
function wrongArticle(text: string): { found: string; fix: string } | null {
  let first: string | null = null;
  const fix = text.replace(ARTICLE, (whole, article: string, space: string, word: string) => {
    const needsAn = takesAn(word);
    if (needsAn === null || needsAn === (article.length === 2)) return whole;
    first ??= whole;
    const right = needsAn ? `${article[0]}n` : article.charAt(0);
    return `${right}${space}${word}`;
  });
  return first === null ? null : { found: first, fix };
}

/** Whether a word is spoken with a vowel first; null where one can't tell: letters that may be said one by one. */
function takesAn(word: string): boolean | null {
  if (/^\d/.test(word)) return NUMBER_LIKE_VOWEL.test(word);
  if (word.length > 1 && word === word.toUpperCase()) return null;
  if (word.length === 1) return null;
  const said = word.toLowerCase().normalize('NFD').replace(/\p{M}/gu, '');
  if (!/^[a-z]/.test(said)) return null;
  if (LIKE_VOWEL.test(said)) return true;
  return /^[aeiou]/.test(said) && !LIKE_CONSONANT.test(said);
}

/** The words that a casing list has in capitals. */
export const capitalsOf = (casingList: readonly string[]): Set<string> =>
  new Set(
    casingList
      .flatMap((form) => form.split(/[^\p{L}\p{M}'’]+/u))
      .filter((word) => /^\p{Lu}.*\p{Lu}$/u.test(word)),
  );
