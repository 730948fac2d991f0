import { english, normalise, rememberingFold } from '@sprig/core/text';
import {
  goods,
  noise,
  noiseAround,
  openings,
  places,
  slips,
  traits,
  type Weighted,
  wants,
} from './demo/words.ts';

export type Role = 'opening' | 'trait' | 'good' | 'want' | 'place' | 'noise' | 'function' | 'unknown';

/** A word or run of words that the market knows: how often it is searched, against how dear a click on it is. */
export type Part = {
  text: string;
  role: Role;
  weight: number;
  price: number;
  /** It stands in another form than the market's own, such as the plural. */
  inflected: boolean;
};

const FUNCTION_WEIGHT = 0.55;
/** A word that the market has never met makes a search all but unheard of. */
const UNKNOWN_WEIGHT = 0.000_4;
const LONGEST = 4;

const roles: readonly [Role, readonly Weighted[]][] = [
  ['opening', openings],
  ['trait', traits],
  ['good', goods],
  ['want', wants],
  ['place', places],
  ['noise', noise],
  ['noise', noiseAround],
  ['good', slips],
];

const fold = rememberingFold(english.numberFold);

/** Every word of a text in the singular. */
export const folded = (text: string): string => text.split(' ').map(fold).join(' ');

type Known = Omit<Part, 'inflected'>;

const known = new Map<string, Known>();
for (const [role, list] of roles)
  for (const [text, weight, price] of list) {
    const name = folded(normalise(text));
    if (!known.has(name)) known.set(name, { text: normalise(text), role, weight, price });
  }

/** The parts of a search, the longest that are known first, left to right. */
export function partsOf(text: string): Part[] {
  const words = text.split(' ').flatMap((word) => (known.has(folded(word)) ? [word] : word.split('-')));
  const parts: Part[] = [];
  for (let at = 0; at < words.length; ) {
    const found = longestAt(words, at);
    parts.push(found.part);
    at += found.length;
  }
  return parts;
}

function longestAt(words: readonly string[], at: number): { part: Part; length: number } {
  for (let length = Math.min(LONGEST, words.length - at); length > 0; length--) {
    const run = words.slice(at, at + length).join(' ');
    const part = known.get(folded(run));
    if (part) return { part: { ...part, inflected: part.text !== run }, length };
  }
  const word = words[at] as string;
  const part: Part = english.functionWords.has(word)
    ? { text: word, role: 'function', weight: FUNCTION_WEIGHT, price: 1, inflected: false }
    : { text: word, role: 'unknown', weight: UNKNOWN_WEIGHT, price: 0.8, inflected: false };
  return { part, length: 1 };
}

/** The order in which most people type: `best inflatable kayak hire wrenport`. */
const ORDER: readonly Role[] = ['opening', 'noise', 'trait', 'good', 'want', 'function', 'place', 'unknown'];
export const placeOf = (role: Role): number => ORDER.indexOf(role);
