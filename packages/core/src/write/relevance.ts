import { type LanguagePack, normalise } from '../text/index.ts';
import type { FittedFields } from './ad-pattern.ts';
import { textOf } from './ad-pattern.ts';
import { descriptions, headlines, paths } from './fields.ts';

const WEIGHTS = [
  [headlines, 0.6],
  [descriptions, 0.2],
  [paths, 0.2],
] as const;

type Word = { word: string; stem: string; isSaid: boolean; isFunction: boolean };
type Part = { weight: number; stems: ReadonlySet<string> };

/** `score` from 0 to 1; `missing` are content words that no part of the ad has, with how many keywords miss them. */
export type Relevance = { score: number; missing: { word: string; keywords: number }[] };

/**
 * How much of a group's keywords an ad says: the mean over the keywords of the share of their content stems that stand
 * in its headlines (0.6), descriptions (0.2) and paths (0.2). A keyword of function words alone is taken whole.
 */
export class RelevanceReader {
  private readonly words = new Map<string, Word>();
  /** Most texts stand in many groups' ads. */
  private readonly ofTexts = new Map<string, readonly string[]>();
  /** The ads of a group are read one after another. */
  private last: { norms: readonly string[]; content: Word[][] } | null = null;

  constructor(private readonly pack: LanguagePack) {}

  of(norms: readonly string[], fields: FittedFields): Relevance {
    const parts = this.parts(fields);
    const missing = new Map<string, number>();
    for (const words of this.contentOf(norms))
      for (const { stem, word } of words)
        if (!parts.some(({ stems }) => stems.has(stem))) missing.set(word, (missing.get(word) ?? 0) + 1);
    return {
      score: scoreOf(this.contentOf(norms), parts),
      missing: [...missing]
        .map(([word, keywords]) => ({ word, keywords }))
        .sort((a, b) => b.keywords - a.keywords || (a.word < b.word ? -1 : 1)),
    };
  }

  /** The score alone, for all ads of a plan. */
  score(norms: readonly string[], fields: FittedFields): number {
    return scoreOf(this.contentOf(norms), this.parts(fields));
  }

  private parts(fields: FittedFields): Part[] {
    return WEIGHTS.map(([names, weight]) => ({
      weight,
      stems: this.stemsIn(names.map((name) => textOf(fields[name]))),
    }));
  }

  private contentOf(norms: readonly string[]): readonly (readonly Word[])[] {
    if (this.last?.norms !== norms) this.last = { norms, content: norms.map((norm) => this.content(norm)) };
    return this.last.content;
  }

  /** The content words of a keyword, each stem once; its function words where it has no others. */
  private content(norm: string): Word[] {
    const content: Word[] = [];
    const all: Word[] = [];
    for (const text of norm.split(' ')) {
      const word = this.wordOf(text);
      if (!word.isSaid) continue;
      if (!word.isFunction) putByStem(content, word);
      if (content.length === 0) putByStem(all, word);
    }
    return content.length > 0 ? content : all;
  }

  private wordOf(word: string): Word {
    const known = this.words.get(word);
    if (known) return known;
    const made = {
      word,
      stem: HAS_LETTER.test(word) ? this.pack.stem(word) : word,
      isSaid: SAYS.test(word),
      isFunction: this.pack.functionWords.has(word),
    };
    if (this.words.size >= MOST_WORDS) this.words.clear();
    this.words.set(word, made);
    return made;
  }

  private stemsIn(texts: readonly string[]): Set<string> {
    const stems = new Set<string>();
    for (const text of texts) {
      if (text === '') continue;
      let known = this.ofTexts.get(text);
      if (!known) {
        known = spokenWords(text).map((word) => this.wordOf(word).stem);
        if (this.ofTexts.size >= MOST_TEXTS) this.ofTexts.clear();
        this.ofTexts.set(text, known);
      }
      for (const stem of known) stems.add(stem);
    }
    return stems;
  }

  /** The stems of a text's content words, for telling two texts alike. */
  contentStems(text: string): string[] {
    return spokenWords(text)
      .map((word) => this.wordOf(word))
      .filter(({ isFunction }) => !isFunction)
      .map(({ stem }) => stem);
  }
}

/** Of two words of one stem the later one stands for both. */
function putByStem(list: Word[], word: Word): void {
  const at = list.findIndex(({ stem }) => stem === word.stem);
  if (at < 0) list.push(word);
  else list[at] = word;
}

function scoreOf(content: readonly (readonly Word[])[], parts: readonly Part[]): number {
  let sum = 0;
  for (const words of content) {
    let weight = 0;
    for (const part of parts) {
      let there = 0;
      for (const { stem } of words) if (part.stems.has(stem)) there++;
      weight += part.weight * there;
    }
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
