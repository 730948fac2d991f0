import { uint8At } from '../access/index.ts';
import { type LanguagePack, normalise } from '../text/index.ts';
import type { FittedFields } from './ad-pattern.ts';
import { textOf } from './ad-pattern.ts';
import { descriptions, headlines, paths } from './fields.ts';

/** The parts of an ad, each with a mark of its own, and what a word is worth that stands in it. */
const PARTS = [
  { names: headlines, mark: 1 },
  { names: descriptions, mark: 2 },
  { names: paths, mark: 4 },
] as const;
const HEADLINES = 0.6;
const DESCRIPTIONS = 0.2;
const PATHS = 0.2;

/** `id`: the number of its stem. */
type Word = { word: string; stem: string; id: number; isSaid: boolean; isFunction: boolean };

/** `score` from 0 to 1; `missing` are content words that no part of the ad has, with how many keywords miss them. */
export type Relevance = { score: number; missing: { word: string; keywords: number }[] };

/**
 * How much of a group's keywords an ad says: the mean over the keywords of the share of their content stems that stand
 * in its headlines (0.6), descriptions (0.2) and paths (0.2). A keyword of function words alone is taken whole.
 */
export class RelevanceReader {
  private readonly words = new Map<string, Word>();
  /** Most texts stand in many groups' ads. */
  private readonly ofTexts = new Map<string, readonly number[]>();
  private readonly stems = new Map<string, number>();
  /** By the number of a stem the parts of the ad that have it; none between two ads. */
  private marks = new Uint8Array(1_024);
  /** The ads of a group are read one after another. */
  private last: { norms: readonly string[]; content: Word[][] } | null = null;

  constructor(private readonly pack: LanguagePack) {}

  of(norms: readonly string[], fields: FittedFields): Relevance {
    const content = this.contentOf(norms);
    return this.withMarks(fields, (marks) => {
      const missing = new Map<string, number>();
      for (const words of content)
        for (const { id, word } of words)
          if (marks[id] === 0) missing.set(word, (missing.get(word) ?? 0) + 1);
      return {
        score: scoreOf(content, marks),
        missing: [...missing]
          .map(([word, keywords]) => ({ word, keywords }))
          .sort((a, b) => b.keywords - a.keywords || (a.word < b.word ? -1 : 1)),
      };
    });
  }

  /** The score alone, for all ads of a plan. */
  score(norms: readonly string[], fields: FittedFields): number {
    const content = this.contentOf(norms);
    return this.withMarks(fields, (marks) => scoreOf(content, marks));
  }

  /** Marks the stems that an ad says while they are looked at. */
  private withMarks<T>(fields: FittedFields, look: (marks: Uint8Array) => T): T {
    const said: (readonly number[])[] = [];
    for (const { names, mark } of PARTS)
      for (const name of names) {
        const text = textOf(fields[name]);
        if (text === '') continue;
        const stems = this.stemsOf(text);
        said.push(stems);
        for (const id of stems) this.marks[id] = uint8At(this.marks, id) | mark;
      }
    const result = look(this.marks);
    for (const stems of said) for (const id of stems) this.marks[id] = 0;
    return result;
  }

  private contentOf(norms: readonly string[]): readonly (readonly Word[])[] {
    if (this.last?.norms === norms) return this.last.content;
    if (this.words.size >= MOST_WORDS) this.forget();
    const content = norms.map((norm) => this.content(norm));
    this.last = { norms, content };
    return content;
  }

  private forget() {
    for (const memory of [this.words, this.stems, this.ofTexts]) memory.clear();
    this.last = null;
  }

  /** The content words of a keyword, each stem once; its function words where it has no others. */
  private content(norm: string): Word[] {
    const content: Word[] = [];
    const all: Word[] = [];
    for (let start = 0; start < norm.length; ) {
      const gap = norm.indexOf(' ', start);
      const end = gap < 0 ? norm.length : gap;
      const word = this.wordOf(norm.slice(start, end));
      start = end + 1;
      if (!word.isSaid) continue;
      if (!word.isFunction) putByStem(content, word);
      else if (content.length === 0) putByStem(all, word);
    }
    return content.length > 0 ? content : all;
  }

  private wordOf(word: string): Word {
    const known = this.words.get(word);
    if (known) return known;
    const stem = HAS_LETTER.test(word) ? this.pack.stem(word) : word;
    const made = {
      word,
      stem,
      id: this.idOf(stem),
      isSaid: SAYS.test(word),
      isFunction: this.pack.functionWords.has(word),
    };
    this.words.set(word, made);
    return made;
  }

  private idOf(stem: string): number {
    const id = this.stems.get(stem) ?? this.stems.size;
    this.stems.set(stem, id);
    if (id === this.marks.length) {
      const marks = new Uint8Array(id * 2);
      marks.set(this.marks);
      this.marks = marks;
    }
    return id;
  }

  private stemsOf(text: string): readonly number[] {
    const known = this.ofTexts.get(text);
    if (known) return known;
    const stems = spokenWords(text).map((word) => this.wordOf(word).id);
    if (this.ofTexts.size >= MOST_TEXTS) this.ofTexts.clear();
    this.ofTexts.set(text, stems);
    return stems;
  }

  /** The stems of a text's content words, for telling two texts alike. */
  contentStems(text: string): string[] {
    if (this.words.size >= MOST_WORDS) this.forget();
    return spokenWords(text)
      .map((word) => this.wordOf(word))
      .filter(({ isFunction }) => !isFunction)
      .map(({ stem }) => stem);
  }
}

/** Of two words of one stem the later one stands for both. */
function putByStem(list: Word[], word: Word): void {
  for (let at = 0; at < list.length; at++)
    if (list[at]?.id === word.id) {
      list[at] = word;
      return;
    }
  list.push(word);
}

function scoreOf(content: readonly (readonly Word[])[], marks: Uint8Array): number {
  let sum = 0;
  for (const words of content) {
    let inHeadlines = 0;
    let inDescriptions = 0;
    let inPaths = 0;
    for (const { id } of words) {
      const mark = uint8At(marks, id);
      inHeadlines += mark & 1;
      inDescriptions += (mark >> 1) & 1;
      inPaths += mark >> 2;
    }
    const weight = HEADLINES * inHeadlines + DESCRIPTIONS * inDescriptions + PATHS * inPaths;
    sum += weight / Math.max(1, words.length);
  }
  return content.length === 0 ? 0 : sum / content.length;
}

const MOST_TEXTS = 2_000;
const MOST_WORDS = 50_000;
/** A mark alone, such as an ampersand, says nothing. */
const SAYS = /[\p{L}\p{N}]/u;
const HAS_LETTER = /\p{L}/u;
const ASCII = /^[\0-\x7f]*$/;

/** The words of a text without the marks around them; a hyphenated word also by its parts. */
function spokenWords(text: string): string[] {
  // In lower case an ASCII text is its normal form but for spaces, which are no words anyway.
  const norm = ASCII.test(text) ? text.toLowerCase() : normalise(text);
  return norm.split(/\s+/).flatMap((word) => {
    const bare = word.replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, '');
    if (bare === '') return [];
    return bare.includes('-') ? [bare, ...bare.split('-').filter(Boolean)] : [bare];
  });
}
