import { broad } from './broad.ts';
import { exact } from './exact.ts';
import { modified } from './modified.ts';
import { phrase } from './phrase.ts';
import type { MatchTypeRules } from './rules.ts';

const rules = { broad, modified, phrase, exact } satisfies Record<string, MatchTypeRules>;

export type MatchType = keyof typeof rules;
export const matchRules: Readonly<Record<MatchType, MatchTypeRules>> = rules;

/** From the widest to the narrowest: the order in which they are listed and bid. What is stored does not hang on it. */
export const matchTypes = ['broad', 'modified', 'phrase', 'exact'] as const satisfies readonly MatchType[];

export { contentPlaces } from './compare.ts';
export type { Compared, Matching, MatchTypeRules } from './rules.ts';
