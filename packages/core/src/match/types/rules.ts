import type { BasisPoints } from '../../money/index.ts';
import type { LanguagePack } from '../../text/index.ts';
import type { Synonyms } from '../synonyms.ts';

/** The language and the synonyms by which words are compared. */
export type Matching = { pack: LanguagePack; synonyms: Synonyms };

/** A keyword's words beside those of a search, both in normal form, and folded to what is the same but for number. */
export type Compared = {
  words: readonly string[];
  folds: readonly string[];
  searched: readonly string[];
  searchedFolds: readonly string[];
  /** The places of marked words; none: all are marked. */
  marks: readonly number[];
  matching: Matching;
};

/** All that a match type is. */
export type MatchTypeRules = {
  /** What is stored of it. It never changes, and no other type ever has it. */
  code: number;
  /** Behind the keys of its rows. */
  key: string;
  /** Its words in the interface. */
  words: string;
  /** Why one would use it, in a line. */
  why: string;
  /** What it does to a plan, and what it is bid for. */
  whyBid: string;
  /** What bids are multiplied by, unless the plan says otherwise. */
  usualStep: BasisPoints;
  /** What bids are multiplied by where there is no plan: in a list written in several types. */
  stepOfVariants: BasisPoints;
  /** A keyword in its notation. */
  write: (text: string, marks: readonly number[]) => string;
  /** Whether a keyword of it answers a search. */
  answers: (compared: Compared) => boolean;
};
