import type { LeafOf } from '../../frame/leaf.ts';
import { tallied } from '../../kit/format.ts';

export const mixLeaf: LeafOf = ({ counts }) => {
  return {
    tally: counts.recipes === 0 ? 'no recipes yet' : tallied(counts.recipes, 'recipe'),
    state: counts.recipes === 0 ? 'untouched' : counts.recipesOut > 0 ? 'unfinished' : 'done',
  };
};
