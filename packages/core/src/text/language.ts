/// <reference path="./snowball-stemmers.d.ts" />
import snowball from 'snowball-stemmers';
import { numberFold, pluralOf } from './number-fold.ts';
import { englishSignals, type SignalWord } from './signal-words.ts';

/** What the computations need to know of a language. Passed in, never global. */
export type LanguagePack = {
  /** BCP 47, such as `en`. */
  code: string;
  name: string;
  /** Words that carry no subject of their own; lower case. */
  functionWords: ReadonlySet<string>;
  /** Words that the order of the others hangs on: `wrenport to heronsea` is not `heronsea to wrenport`. */
  directionalWords: ReadonlySet<string>;
  /** Words that stand between two things that are said together. */
  conjunctions: ReadonlySet<string>;
  /** A keyword that begins with one of these is a question. */
  questionWords: ReadonlySet<string>;
  /** Words that tell how close to buying a searcher is, in the order in which they are looked for. */
  signalWords: readonly SignalWord[];
  /** What searchers often set before and behind what they look for, the most usual first. */
  openings: readonly string[];
  endings: readonly string[];
  /** Scripts in which the language is written, as Unicode names. */
  scripts: readonly string[];
  /** Plural to singular, of one word in normal form. */
  numberFold: (word: string) => string;
  /** Singular to plural, of one word in normal form; a word without one stays. */
  plural: (word: string) => string;
  /** The stem of the folded word; for grouping and broad matching only. */
  stem: (word: string) => string;
};

const stemmer = snowball.newStemmer('english');
const words = (list: string): ReadonlySet<string> => new Set(list.split(' '));

export const english: LanguagePack = {
  code: 'en',
  name: 'English',
  functionWords: words('a an the of for in on at to and or with by near from my is'),
  directionalWords: words('from to vs without'),
  conjunctions: words('and or &'),
  questionWords: words(
    'who what when where why which whose how can could does do did is are was will would should am may',
  ),
  signalWords: englishSignals,
  openings: ['best', 'cheap', 'buy', 'how to choose', 'what is', 'small', 'large', 'professional'],
  endings: [
    'price',
    'cost',
    'near me',
    'for sale',
    'online',
    'reviews',
    'ideas',
    'delivery',
    'for beginners',
    'quote',
  ],
  scripts: ['Latin'],
  numberFold,
  plural: pluralOf,
  stem: (word) => stemmer.stem(numberFold(word)),
};

const packs: readonly LanguagePack[] = [english];

/** The pack for a language code; English where none ships for it. A plan may have function words of its own. */
export function languagePack(code: string, functionWords: readonly string[] | null = null): LanguagePack {
  const pack = packs.find((one) => one.code === code) ?? english;
  return functionWords === null ? pack : { ...pack, functionWords: new Set(functionWords) };
}
