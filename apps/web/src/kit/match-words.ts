import type { MatchType } from '@sprig/core/match';

export const matchWords: Record<MatchType, string> = {
  broad: 'broad',
  modified: 'modified broad',
  phrase: 'phrase',
  exact: 'exact',
};
