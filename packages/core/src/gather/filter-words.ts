import { normalise } from '../text/index.ts';

/** `kayak -hire` wants the one and not the other; by parts of words, as one types. */
export function filterWords(filter: string): { wanted: string[]; unwanted: string[] } {
  const words = normalise(filter).split(' ').filter(Boolean);
  return {
    wanted: words.filter((word) => !word.startsWith('-')),
    unwanted: words.flatMap((word) => (word.startsWith('-') && word.length > 1 ? [word.slice(1)] : [])),
  };
}
