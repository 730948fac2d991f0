import { firstNotAllowed, type LanguagePack, ListedWords, lengthOf } from '../text/index.ts';

export const readyFilters = [
  'low-volume',
  'too-long',
  'not-allowed',
  'rival',
  'other-script',
  'other-language',
  'question',
] as const;
export type ReadyFilter = (typeof readyFilters)[number];

export type FilterLimits = {
  /** Keywords with fewer searches are of low volume; those without a figure are not. */
  leastSearches: number;
  length: number;
  words: number;
};

export type FilterInput = {
  pack: LanguagePack;
  limits: FilterLimits;
  /** Brands that may not be used. */
  rivals: readonly string[];
  isOrdinary: (word: string) => boolean;
};

/** Words that hold sentences of other languages together, and stand in no English search. */
const FOREIGN = new Set(
  `el la los las una un de del para con por que como mejor donde comprar precio alquiler barato le les des du et une
   pour avec dans sur aux pas cher acheter louer prix der die das den dem und mit für ein eine kaufen mieten billig
   günstig zum zur il lo gli della delle di per migliore prezzo noleggio het een voor met van kopen huren goedkoop os
   dos uma com melhor preço aluguel och med för att köpa hyra og til på jest dla ile gdzie cena`
    .trim()
    .split(/\s+/),
);

/**
 * Which of the ready filters a keyword in normal form meets. *Other language*: a word of another language, told by
 * a short list of function words, and no ordinary English word beside it but the goods themselves. Each filter says
 * only what it sees; nothing is cut by it.
 */
export function filterTests(
  input: FilterInput,
): Record<ReadyFilter, (norm: string, searches: number) => boolean> {
  const { pack, limits, rivals, isOrdinary } = input;
  const own = new RegExp(
    `[^${pack.scripts.map((name) => `\\p{Script=${name}}`).join('')}\\p{Script=Common}\\p{Script=Inherited}]`,
    'u',
  );
  const named = new ListedWords(rivals);
  return {
    'low-volume': (_, searches) => searches >= 0 && searches < limits.leastSearches,
    'too-long': (norm) => lengthOf(norm) > limits.length || norm.split(' ').length > limits.words,
    'not-allowed': (norm) => firstNotAllowed(norm) !== undefined,
    rival: (norm) => named.in(norm) !== null,
    'other-script': (norm) => own.test(norm),
    'other-language': (norm) => {
      const words = norm.split(' ');
      const foreign = words.filter((word) => FOREIGN.has(word)).length;
      if (foreign === 0) return false;
      return words.filter((word) => isOrdinary(word) && !FOREIGN.has(word)).length <= foreign;
    },
    question: (norm) => {
      const space = norm.indexOf(' ');
      return norm.endsWith('?') || (space > 0 && pack.questionWords.has(norm.slice(0, space)));
    },
  };
}
