import { type LanguagePack, normalise } from '../text/index.ts';
import type { FittedFields } from './ad-pattern.ts';
import { textOf } from './ad-pattern.ts';
import { descriptions, headlines, paths } from './fields.ts';

const WEIGHTS = [
  [headlines, 0.6],
  [descriptions, 0.2],
  [paths, 0.2],
] as const;

type Word = { stem: string; isSaid: boolean; isFunction: boolean };

/** `score` from 0 to 1; `missing` are content words that no part of the ad has, with how many keywords miss them. */
export type Relevance = { score: number; missing: { word: string; keywords: number }[] };

/**
 * How much of a group's keywords an ad says: the mean over the keywords of the share of their content stems that stand
 * in its headlines (0.6), descriptions (0.2) and paths (0.2). A keyword of function words alone is taken whole.
 */
export class RelevanceReader {
  private readonly stems = new Map<string, string>();
  /** Most texts stand in many groups' ads. */
  private readonly ofTexts = new Map<string, readonly string[]>();
  private readonly words = new Map<string, Word>();
  private last: { norms: readonly string[]; stems: string[][] } | null = null;

  constructor(private readonly pack: LanguagePack) {}

  private parts(fields: FittedFields): { weight: number; stems: Set<string> }[] {
    return WEIGHTS.map(([names, weight]) => ({
      weight,
      stems: this.stemsIn(names.map((name) => textOf(fields[name]))),
    }));
  }

  /** No more than the score, for all ads of a plan: a quarter of the time. */
  score(norms: readonly string[], fields: FittedFields): number {
    const parts = this.parts(fields);
    let sum = 0;
    for (const stems of this.stemsOf(norms)) {
      let weight = 0;
      for (const part of parts) {
        let there = 0;
        for (const stem of stems) if (part.stems.has(stem)) there++;
        weight += part.weight * there;
      }
      sum += weight / Math.max(1, stems.length);
    }
    return norms.length === 0 ? 0 : sum / norms.length;
  }

  /** The content stems of each of a group's keywords; the ads of a group are read one after another. */
  private stemsOf(norms: readonly string[]): readonly (readonly string[])[] {
    if (this.last?.norms !== norms) this.last = { norms, stems: norms.map((norm) => this.stemsOfOne(norm)) };
    return this.last.stems;
  }

  private stemsOfOne(norm: string): string[] {
    const content: string[] = [];
    const all: string[] = [];
    for (const one of norm.split(' ')) {
      const { stem, isSaid, isFunction } = this.wordOf(one);
      if (!isSaid) continue;
      if (!isFunction && !content.includes(stem)) content.push(stem);
      if (content.length === 0 && !all.includes(stem)) all.push(stem);
    }
    return content.length > 0 ? content : all;
  }

  private wordOf(word: string): Word {
    const known = this.words.get(word);
    if (known) return known;
    const made = {
      stem: this.stem(word),
      isSaid: SAYS.test(word),
      isFunction: this.pack.functionWords.has(word),
    };
    if (this.words.size >= MOST_WORDS) this.words.clear();
    this.words.set(word, made);
    return made;
  }

  of(norms: readonly string[], fields: FittedFields): Relevance {
    const parts = this.parts(fields);
    const missing = new Map<string, number>();
    let sum = 0;
    for (const norm of norms) {
      const words = this.content(norm);
      for (const { weight, stems } of parts) {
        let there = 0;
        for (const stem of words.keys()) if (stems.has(stem)) there++;
        sum += (weight * there) / Math.max(1, words.size);
      }
      for (const [stem, word] of words)
        if (!parts.some(({ stems }) => stems.has(stem))) missing.set(word, (missing.get(word) ?? 0) + 1);
    }
    return {
      score: norms.length === 0 ? 0 : sum / norms.length,
      missing: [...missing]
        .map(([word, keywords]) => ({ word, keywords }))
        .sort((a, b) => b.keywords - a.keywords || (a.word < b.word ? -1 : 1)),
    };
  }

  /** The content words of a keyword by their stems. */
  private content(norm: string): Map<string, string> {
    const words = norm.split(' ').filter((word) => SAYS.test(word));
    const content = words.filter((word) => !this.pack.functionWords.has(word));
    return new Map((content.length > 0 ? content : words).map((word) => [this.stem(word), word]));
  }

  private stemsIn(texts: readonly string[]): Set<string> {
    const stems = new Set<string>();
    for (const text of texts) {
      if (text === '') continue;
      let known = this.ofTexts.get(text);
      if (!known) {
        known = spokenWords(text).map((word) => this.stem(word));
        if (this.ofTexts.size >= MOST_TEXTS) this.ofTexts.clear();
        this.ofTexts.set(text, known);
      }
      for (const stem of known) stems.add(stem);
    }
    return stems;
  }

  private stem(word: string): string {
    const known = this.stems.get(word);
    if (known !== undefined) return known;
    const stem = HAS_LETTER.test(word) ? this.pack.stem(word) : word;
    if (this.stems.size >= MOST_WORDS) this.stems.clear();
    this.stems.set(word, stem);
    return stem;
  }

  /** The stems of a text's content words, for telling two texts alike. */
  contentStems(text: string): string[] {
    return spokenWords(text)
      .filter((word) => !this.pack.functionWords.has(word))
      .map((word) => this.stem(word));
  }
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
