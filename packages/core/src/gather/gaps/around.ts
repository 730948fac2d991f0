import type { LanguagePack } from '../../text/index.ts';
import type { PoolContexts } from './gaps.ts';

/** Why a text is proposed: what stands beside the words in the pool, what stands in their place, or what is common. */
export type Suggested = {
  text: string;
  why:
    | { kind: 'beside'; context: string; fillers: number }
    | { kind: 'mate'; of: string; by: string }
    | { kind: 'place'; name: string }
    | { kind: 'common'; words: string };
};

export const whyWords = ({ why }: Suggested): string => {
  switch (why.kind) {
    case 'beside':
      return `“${why.context}” is filled by ${why.fillers} others`;
    case 'mate':
      return `“${why.by}” stands where “${why.of}” does`;
    case 'place':
      return `${why.name} is a place of the brief`;
    case 'common':
      return `“${why.words}” is common in the language`;
  }
};

export type AroundInput = {
  contexts: PoolContexts;
  pack: LanguagePack;
  /** Names of the brief's places, in normal form. */
  places: readonly string[];
};

const MOST_BESIDE = 60;
const MOST_MATES = 30;

/**
 * What the client's own world has around words: for each run within them, the longest first, what the pool says beside it
 * and the members of its class in its place; then the brief's places, and the openings and endings that are common in the
 * language. Each text once, none that the pool has.
 */
export function around(words: string, { contexts, pack, places }: AroundInput): Suggested[] {
  const found = new Map<string, Suggested>();
  const own = words.split(' ');
  const add = (text: string, why: Suggested['why']) => {
    const tidy = text.replaceAll(/\s+/g, ' ').trim();
    const parts = tidy.split(' ');
    if (tidy === '' || found.has(tidy) || contexts.has(tidy) || new Set(parts).size < parts.length) return;
    found.set(tidy, { text: tidy, why });
  };
  add(words, { kind: 'common', words });
  for (let length = own.length; length > 0; length--)
    for (let from = 0; from + length <= own.length; from++) {
      const run = own.slice(from, from + length).join(' ');
      const [before, behind] = [own.slice(0, from).join(' '), own.slice(from + length).join(' ')];
      for (const { before: front, behind: back, fillers } of contexts.beside(run, MOST_BESIDE))
        add(`${front} ${words} ${back}`, { kind: 'beside', context: `${front} … ${back}`.trim(), fillers });
      for (const mate of contexts.mates(run, MOST_MATES))
        add(`${before} ${mate} ${behind}`, { kind: 'mate', of: run, by: mate });
    }
  for (const place of places) add(`${words} ${place}`, { kind: 'place', name: place });
  for (const opening of pack.openings) add(`${opening} ${words}`, { kind: 'common', words: opening });
  for (const ending of pack.endings) add(`${words} ${ending}`, { kind: 'common', words: ending });
  return [...found.values()];
}
