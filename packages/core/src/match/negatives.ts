import { stringAt } from '../access/index.ts';
import type { MatchType } from './types/index.ts';

/** The match types that a negative keyword can have. */
export const negativeTypes = ['broad', 'phrase', 'exact'] as const;
export type NegativeType = (typeof negativeTypes)[number];

export const isNegativeType = (type: MatchType): type is NegativeType =>
  (negativeTypes as readonly MatchType[]).includes(type);

/** What a negative asks for by its notation: without a match type that negatives have it is broad, the widest. */
export const negativeTypeOf = (type: MatchType | null): NegativeType =>
  type !== null && isNegativeType(type) ? type : 'broad';

/** A negative as matching needs it: its text in normal form, and a number that the caller knows it by. */
export type NegativeKeyword = { id: number; norm: string; type: NegativeType };

type Run = { words: readonly string[]; id: number };

/**
 * Finds which negative blocks a search. Words count as typed, without folding: a broad one blocks a search that has
 * all its words in any order, a phrase one a search that has them in a row, an exact one only the same search.
 * A search of n words costs O(n + the runs that begin with one of its words).
 */
export class NegativeIndex {
  private readonly exact = new Map<string, number>();
  /** By the first word of the run, or the rarest guess at one for broad: its longest. */
  private readonly phrases = new Map<string, Run[]>();
  private readonly broads = new Map<string, Run[]>();

  constructor(negatives: Iterable<NegativeKeyword>) {
    for (const { id, norm, type } of negatives) {
      const words = norm.split(' ');
      if (type === 'exact') this.exact.set(norm, this.exact.get(norm) ?? id);
      else if (type === 'phrase') add(this.phrases, stringAt(words, 0), { words, id });
      else add(this.broads, longest(words), { words, id });
    }
  }

  /** The id of the first negative that blocks a search in normal form; exact before phrase before broad. */
  blocking(norm: string): number | undefined {
    const exact = this.exact.get(norm);
    if (exact !== undefined) return exact;
    if (this.phrases.size === 0 && this.broads.size === 0) return undefined;
    const words = norm.split(' ');
    return this.phraseIn(words) ?? this.broadIn(words);
  }

  /** Every negative that blocks it. */
  allBlocking(norm: string): number[] {
    const words = norm.split(' ');
    const exact = this.exact.get(norm);
    const ids = exact === undefined ? [] : [exact];
    words.forEach((word, at) => {
      for (const run of this.phrases.get(word) ?? []) if (standsAt(words, at, run.words)) ids.push(run.id);
      for (const run of this.broads.get(word) ?? []) if (holdsAll(words, run.words)) ids.push(run.id);
    });
    return [...new Set(ids)];
  }

  private phraseIn(words: readonly string[]): number | undefined {
    for (let at = 0; at < words.length; at++)
      for (const run of this.phrases.get(stringAt(words, at)) ?? [])
        if (standsAt(words, at, run.words)) return run.id;
    return undefined;
  }

  private broadIn(words: readonly string[]): number | undefined {
    for (const word of words)
      for (const run of this.broads.get(word) ?? []) if (holdsAll(words, run.words)) return run.id;
    return undefined;
  }
}

function add(map: Map<string, Run[]>, word: string, run: Run) {
  const list = map.get(word);
  if (list) list.push(run);
  else map.set(word, [run]);
}

const longest = (words: readonly string[]): string =>
  words.reduce((best, word) => (word.length > best.length ? word : best), stringAt(words, 0));

const standsAt = (words: readonly string[], at: number, run: readonly string[]): boolean =>
  at + run.length <= words.length && run.every((word, place) => words[at + place] === word);

const holdsAll = (words: readonly string[], wanted: readonly string[]): boolean =>
  wanted.every((word) => words.includes(word));

/** One negative against one search, by the definition: what the index is tested against. */
export function negativeBlocks({ norm, type }: Omit<NegativeKeyword, 'id'>, search: string): boolean {
  if (type === 'exact') return norm === search;
  if (type === 'phrase') return ` ${search} `.includes(` ${norm} `);
  return holdsAll(search.split(' '), norm.split(' '));
}

/** A negative in notation: `-jobs`, `-"free plans"`, `-[sup meaning]`. */
export function writeNegative(text: string, type: NegativeType): string {
  return type === 'broad' ? `-${text}` : type === 'phrase' ? `-"${text}"` : `-[${text}]`;
}
