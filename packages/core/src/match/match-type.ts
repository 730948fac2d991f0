/** From the widest to the narrowest: the order in which they are listed and bid. */
export const matchTypes = ['broad', 'modified', 'phrase', 'exact'] as const;
export type MatchType = (typeof matchTypes)[number];

/** A set of match types as four bits: 1 broad, 2 modified broad, 4 phrase, 8 exact. */
export type MatchSet = number;

export const bitOf = (type: MatchType): MatchSet => 1 << matchTypes.indexOf(type);

export const setOf = (types: readonly MatchType[]): MatchSet =>
  types.reduce((set, type) => set | bitOf(type), 0);

export const typesIn = (set: MatchSet): MatchType[] => matchTypes.filter((type) => set & bitOf(type));

/** How many match types a set holds. */
export const countIn = (set: MatchSet): number =>
  (set & 1) + ((set >> 1) & 1) + ((set >> 2) & 1) + ((set >> 3) & 1);
