import { eachType, type MatchType, matchRules } from '../../match/index.ts';

type ByType = Partial<Record<MatchType, string>>;

/** An outlet's words and notation for the match types that it knows; of others the usual ones, which no sheet of it has. */
export const typeWords = (words: ByType, notation: ByType) => ({
  matchTypes: eachType((type) => words[type] ?? matchRules[type].words),
  notation: eachType((type) => notation[type] ?? '@'),
});
