import { type MatchType, matchRules, matchTypes } from '@sprig/core/match';

export const matchWords = Object.fromEntries(
  matchTypes.map((type) => [type, matchRules[type].words]),
) as Record<MatchType, string>;
