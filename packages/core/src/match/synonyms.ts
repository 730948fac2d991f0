import type { LanguagePack } from '../text/index.ts';

/** The stems that each stem may stand for. Pairs go both ways and are not chained. */
export type Synonyms = ReadonlyMap<string, ReadonlySet<string>>;

export const noSynonyms: Synonyms = new Map();

/**
 * Pairs out of lines of words that stand for each other. Matching goes word by word, so what is written in several
 * words can't stand for one: it is passed over.
 */
export function synonymsOf(lines: readonly (readonly string[])[], pack: LanguagePack): Synonyms {
  const pairs = new Map<string, Set<string>>();
  for (const line of lines) {
    const stems = line.filter((word) => !/\s/.test(word.trim()) && word.trim() !== '').map(stemOf(pack));
    for (const stem of stems)
      for (const other of stems) {
        if (stem === other) continue;
        const known = pairs.get(stem);
        if (known) known.add(other);
        else pairs.set(stem, new Set([other]));
      }
  }
  return pairs;
}

const stemOf = (pack: LanguagePack) => (word: string) => pack.stem(word.trim().toLowerCase());
