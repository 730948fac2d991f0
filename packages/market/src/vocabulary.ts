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

/** The first word of everything known: where no run can begin, none is looked for. */
const beginnings = new Set([...known.keys()].map((name) => name.split(' ')[0] as string));

/** The parts of a search, the longest that are known first, left to right. */
export function partsOf(text: string): Part[] {
  const words = text
    .split(' ')
    .flatMap((word) => (!word.includes('-') || known.has(fold(word)) ? [word] : word.split('-')));
  const singular = words.map(fold);
  const parts: Part[] = [];
  for (let at = 0; at < words.length; ) {
    const found = longestAt(words, singular, at);
    parts.push(found.part);
    at += found.length;
  }
  return parts;
}

function longestAt(
  words: readonly string[],
  singular: readonly string[],
  at: number,
): { part: Part; length: number } {
  const word = words[at] as string;
  let name = singular[at] as string;
  let found: { part: Known; length: number } | null = null;
  if (beginnings.has(name))
    for (let length = 1; ; name += ` ${singular[at + length++]}`) {
      const part = known.get(name);
      if (part) found = { part, length };
      if (length === LONGEST || at + length >= words.length) break;
    }
  if (found) {
    const { part, length } = found;
    const run = length === 1 ? word : words.slice(at, at + length).join(' ');
    return { part: { ...part, inflected: part.text !== run }, length };
  }
  const part: Part = english.functionWords.has(word)
    ? { text: word, role: 'function', weight: FUNCTION_WEIGHT, price: 1, inflected: false }
    : { text: word, role: 'unknown', weight: UNKNOWN_WEIGHT, price: 0.8, inflected: false };
  return { part, length: 1 };
}

/** The order in which most people type: `best inflatable kayak hire wrenport`. */
const ORDER: readonly Role[] = ['opening', 'noise', 'trait', 'good', 'want', 'function', 'place', 'unknown'];
export const placeOf = (role: Role): number => ORDER.indexOf(role);
