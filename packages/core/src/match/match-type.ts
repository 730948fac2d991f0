import { type MatchType, matchRules, matchTypes } from './types/index.ts';

/** What is stored of a match type. */
export const codeOf = (type: MatchType): number => matchRules[type].code;

const byCode = new Map<number, MatchType>(matchTypes.map((type) => [codeOf(type), type]));

/** The match type that a stored code stands for. Throws on a code that no type has. */
export function typeOf(code: number): MatchType {
  const type = byCode.get(code);
  if (type === undefined) throw new RangeError(`No match type has the code ${code}.`);
  return type;
}

/** Something for each match type. */
export const eachType = <T>(of: (type: MatchType) => T): Record<MatchType, T> =>
  Object.fromEntries(matchTypes.map((type) => [type, of(type)])) as Record<MatchType, T>;

/** The place of a match type from the widest, 0, to the narrowest. */
export const narrownessOf = (type: MatchType): number => matchTypes.indexOf(type);

/** A set of match types as bits by their codes: 1 broad, 2 modified broad, 4 phrase, 8 exact. */
export type MatchSet = number;

export const bitOf = (type: MatchType): MatchSet => 1 << codeOf(type);

export const setOf = (types: readonly MatchType[]): MatchSet =>
  types.reduce((set, type) => set | bitOf(type), 0);

export const typesIn = (set: MatchSet): MatchType[] => matchTypes.filter((type) => set & bitOf(type));

/** How many match types a set holds. */
export const countIn = (set: MatchSet): number => {
  let count = 0;
  for (let left = set; left !== 0; left &= left - 1) count++;
  return count;
};
