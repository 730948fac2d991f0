import { countAt, itemAt, numberAt, stringAt } from '../access/index.ts';
import { misspellings, type VocabularyWord } from '../prune/index.ts';
import { grown, type LanguagePack, normalise, type SignalWord, splitWord } from '../text/index.ts';
import { PairTable } from './pair-table.ts';

/** What a keyword's words hang on besides the language: the signal words in use and the plan's places. */
export type ReadingRules = {
  pack: LanguagePack;
  signals: readonly SignalWord[];
  /** Each place's name and then its other names. */
  places: readonly (readonly string[])[];
};

/** How the told keywords write their words; everything else that is learned of a text follows from it. */
export type Vocabulary = {
  /** Stems that told keywords hold, in the order in which they were met. */
  stems: string[];
  /** Words that stand joined, with the words that they are made of: `teapot` as `tea`, `pot` where both forms occur. */
  joined: Record<string, string[]>;
  /** Likely misspellings, with the word meant. */
  slips: Record<string, string>;
  /** Of words that stand in more than one number, those that are the seldomer one. */
  seldom: string[];
};

/** Unlike the usual form of a search: a bit each. */
export const FORMS = ['number', 'order', 'joined', 'function', 'slip'] as const;
const [NUMBER, , JOINED, FUNCTION, SLIP] = [1, 2, 4, 8, 16];
export const ORDER_FORM = 2;

type Part = { stem: number; text: string };
type Word = {
  isFunction: boolean;
  forms: number;
  parts: readonly Part[];
  fold: number;
  /** Signals and places that begin with it. */
  runs: readonly Run[] | null;
};
type Run = { folds: readonly number[]; isPlace: boolean; order: number; value: number };

/** No told keyword holds this stem. */
export const UNKNOWN = -1;

/** A keyword as the model reads it; one object is filled again and again, and what lies behind its counts is old. */
export type ReadKeyword = {
  /** Stems of the content words in their order, places left out; `UNKNOWN` for those not met. */
  stems: number[];
  /** The stems as words, for telling. */
  texts: string[];
  /** How many stems there are. */
  count: number;
  /** The stems with the place among them, which is numbered behind all stems. */
  line: number[];
  lineCount: number;
  /** Place in `stems` of what the keyword is about: the last that is no signal. */
  head: number;
  words: number;
  unknown: number;
  /** Bits by `FORMS`; that of the order is the model's to add. */
  forms: number;
  /** 0, 1, 2 by funnel stage, -1 none. */
  stage: number;
  /** The number of the place that it names, -1 none. */
  place: number;
};

/** The stem that a keyword is about. */
export const headOf = ({ stems, head }: ReadKeyword): number => (head < 0 ? UNKNOWN : numberAt(stems, head));

const STAGES = { early: 0, comparing: 1, ready: 2 } as const;

/**
 * Reads keywords into stems, forms, stage and place. Each distinct word is looked up once; a keyword then costs what its
 * words cost. Words are numbered as they come (`numberOf`), so that texts that stand as numbers need no splitting.
 */
export class KeywordReader {
  private readonly numbers = new Map<string, number>();
  private readonly words: Word[] = [];
  private readonly stemOf: Map<string, number>;
  private readonly folds = new Map<string, number>();
  private readonly seldom: ReadonlySet<string>;
  private readonly runs = new Map<number, Run[]>();
  private readonly found: ReadKeyword = {
    stems: [],
    texts: [],
    count: 0,
    line: [],
    lineCount: 0,
    head: 0,
    words: 0,
    unknown: 0,
    forms: 0,
    stage: -1,
    place: -1,
  };
  private tokens = new Uint32Array(64);
  private readonly marks: number[] = [];
  private readonly stemCount: number;

  constructor(
    private readonly vocabulary: Vocabulary,
    private readonly rules: ReadingRules,
  ) {
    this.stemCount = vocabulary.stems.length;
    this.stemOf = new Map(vocabulary.stems.map((stem, at) => [stem, at]));
    this.seldom = new Set(vocabulary.seldom);
    rules.signals.forEach(({ text, stage }, order) => {
      this.addRun(text, false, order, STAGES[stage]);
    });
    rules.places.forEach((names, place) => {
      for (const name of names) this.addRun(name, true, rules.signals.length, place);
    });
    for (const list of this.runs.values()) list.sort((a, b) => b.folds.length - a.folds.length);
  }

  private addRun(text: string, isPlace: boolean, order: number, value: number) {
    const folds = normalise(text)
      .split(' ')
      .filter((word) => word !== '')
      .map((word) => this.foldNumber(word));
    const [first] = folds;
    if (first === undefined) return;
    const list = this.runs.get(first);
    const run = { folds, isPlace, order, value };
    if (list) list.push(run);
    else this.runs.set(first, [run]);
  }

  private foldNumber(word: string): number {
    const fold = this.rules.pack.numberFold(word);
    const known = this.folds.get(fold);
    if (known !== undefined) return known;
    this.folds.set(fold, this.folds.size);
    return this.folds.size - 1;
  }

  /** The number of a word in normal form. */
  numberOf = (word: string): number => {
    const known = this.numbers.get(word);
    if (known !== undefined) return known;
    this.numbers.set(word, this.words.length);
    this.words.push(this.wordFor(word));
    return this.words.length - 1;
  };

  private wordFor(word: string): Word {
    const { pack } = this.rules;
    const meant = this.vocabulary.slips[word];
    const written = meant ?? word;
    let forms = meant === undefined ? 0 : SLIP;
    const split = splitWord(written);
    const parts = split.flatMap((part) => own(this.vocabulary.joined, part) ?? [part]);
    if (parts.length > 1) forms |= JOINED;
    if (this.seldom.has(written)) forms |= NUMBER;
    const isFunction = parts.length === 1 && pack.functionWords.has(written);
    if (isFunction) forms |= FUNCTION;
    const fold = this.foldNumber(word);
    return {
      isFunction,
      forms,
      parts: parts.map((text) => ({ stem: this.stemOf.get(pack.stem(text)) ?? UNKNOWN, text })),
      fold,
      runs: this.runs.get(fold) ?? null,
    };
  }

  /** A keyword in normal form. What it answers is filled anew by the next call. */
  read(norm: string): ReadKeyword {
    let count = 0;
    for (let from = 0; from <= norm.length; ) {
      const space = norm.indexOf(' ', from);
      const to = space < 0 ? norm.length : space;
      if (count === this.tokens.length) this.tokens = grown(this.tokens);
      this.tokens[count++] = this.numberOf(norm.slice(from, to));
      from = to + 1;
    }
    return this.readNumbers(this.tokens, 0, count);
  }

  /** Reads a keyword whose words stand as numbers, from one place up to another. */
  readNumbers(tokens: ArrayLike<number>, from: number, to: number): ReadKeyword {
    const { found, marks, words } = this;
    const count = to - from;
    let stems = 0;
    let line = 0;
    found.words = count;
    found.unknown = 0;
    found.forms = 0;
    this.mark(tokens, from, count);
    let contents = 0;
    for (let at = 0; at < count; at++) if (!itemAt(words, countAt(tokens, from + at)).isFunction) contents++;
    let head = -1;
    for (let at = 0; at < count; at++) {
      const word = itemAt(words, countAt(tokens, from + at));
      // A plural in a signal (`reviews`), the words between of one (`for sale`): forms that say nothing of the search.
      if (marks[at] === 0) found.forms |= word.forms;
      if (marks[at] === PLACE_MARK) {
        if (at === 0 || marks[at - 1] !== PLACE_MARK) found.line[line++] = this.stemCount + found.place;
        continue;
      }
      if (word.isFunction && contents > 0) continue;
      const { parts } = word;
      for (let part = 0; part < parts.length; part++) {
        const { stem, text } = itemAt(parts, part);
        found.texts[stems] = text;
        if (stem === UNKNOWN) found.unknown++;
        if (marks[at] === 0) head = stems;
        found.stems[stems++] = stem;
        found.line[line++] = stem;
      }
    }
    found.count = stems;
    found.lineCount = line;
    found.head = head >= 0 ? head : stems - 1;
    return found;
  }

  /** Marks what stands in a signal or a place, and takes note of the stage and the place. */
  private mark(tokens: ArrayLike<number>, from: number, count: number) {
    const { marks, words, found } = this;
    for (let at = 0; at < count; at++) marks[at] = 0;
    found.stage = -1;
    found.place = -1;
    let first = Number.POSITIVE_INFINITY;
    for (let at = 0; at < count; at++) {
      const list = itemAt(words, countAt(tokens, from + at)).runs;
      if (list === null) continue;
      for (let one = 0; one < list.length; one++) {
        const { folds, isPlace, order, value } = itemAt(list, one);
        if (at + folds.length > count || !this.standsAt(tokens, from + at, folds)) continue;
        if (isPlace && found.place < 0) found.place = value;
        // A place tells that one is ready, after every other signal.
        if (order < first) {
          first = order;
          found.stage = isPlace ? STAGES.ready : value;
        }
        for (let n = 0; n < folds.length; n++)
          if (marks[at + n] !== PLACE_MARK) marks[at + n] = isPlace ? PLACE_MARK : SIGNAL_MARK;
      }
    }
  }

  /** Whether the words of a run but its first, by which it is found, stand there. */
  private standsAt(tokens: ArrayLike<number>, from: number, folds: readonly number[]): boolean {
    for (let n = 1; n < folds.length; n++)
      if (itemAt(this.words, countAt(tokens, from + n)).fold !== folds[n]) return false;
    return true;
  }
}

const SIGNAL_MARK = 1;
const PLACE_MARK = 2;

const own = <T>(table: Readonly<Record<string, T>>, name: string): T | undefined =>
  Object.hasOwn(table, name) ? table[name] : undefined;

/** What the vocabulary of told keywords is: `norms` with the searches told of each, -1 for none. O(total words). */
export function vocabularyOf(
  norms: readonly string[],
  searches: ArrayLike<number>,
  pack: LanguagePack,
  isOrdinary: (word: string) => boolean,
): Vocabulary {
  const words: VocabularyWord[] = [];
  const numbers = new Map<string, number>();
  const runs = new PairTable();
  for (let at = 0; at < norms.length; at++) {
    const norm = stringAt(norms, at);
    const told = countAt(searches, at);
    let before = -1;
    for (let from = 0; from <= norm.length; ) {
      const space = norm.indexOf(' ', from);
      const to = space < 0 ? norm.length : space;
      const written = norm.slice(from, to);
      from = to + 1;
      let number = numbers.get(written);
      if (number === undefined) {
        number = words.push({ word: written, keywords: 0, searches: -1 }) - 1;
        numbers.set(written, number);
      }
      const word = itemAt(words, number);
      word.keywords++;
      if (told >= 0) word.searches = Math.max(0, word.searches) + told;
      if (before >= 0) runs.add(before, number);
      before = number;
    }
  }
  const textOf = (number: number) => itemAt(words, number).word;
  const joined: Record<string, string[]> = Object.create(null);
  for (let pair = 0; pair < runs.length; pair++) {
    const [one, other] = [textOf(numberAt(runs.firsts, pair)), textOf(numberAt(runs.seconds, pair))];
    if (pack.functionWords.has(one) || pack.functionWords.has(other)) continue;
    for (const parts of [
      [one, other],
      [other, one],
    ])
      if (numbers.has(parts.join(''))) joined[parts.join('')] ??= parts;
  }
  const slips: Record<string, string> = Object.create(null);
  for (const [wrong, right] of misspellings(words, isOrdinary))
    if (pack.numberFold(wrong) !== pack.numberFold(right)) slips[wrong] = right;
  const stems = new Set<string>();
  for (const { word } of words)
    for (const part of splitWord(slips[word] ?? word))
      for (const one of joined[part] ?? [part]) stems.add(pack.stem(one));
  return { stems: [...stems], joined, slips, seldom: seldomForms(words, pack) };
}

/** Of each word that occurs in several numbers, all but the one that most keywords have. */
function seldomForms(words: readonly VocabularyWord[], pack: LanguagePack): string[] {
  const usual = new Map<string, VocabularyWord>();
  for (const word of words) {
    const fold = pack.numberFold(word.word);
    const best = usual.get(fold);
    if (!best || word.keywords > best.keywords || (word.keywords === best.keywords && word.word < best.word))
      usual.set(fold, word);
  }
  return words.filter((word) => usual.get(pack.numberFold(word.word)) !== word).map(({ word }) => word);
}
