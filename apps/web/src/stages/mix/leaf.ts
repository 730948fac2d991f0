import { type LeafOf, stateOf } from '../../frame/leaf.ts';
import { tallied } from '../../kit/format.ts';

export const mixLeaf: LeafOf = ({ counts }) => {
  return {
    tally: counts.recipes === 0 ? 'no recipes yet' : tallied(counts.recipes, 'recipe'),
    state: stateOf(counts.recipes === 0, counts.recipesOut > 0),
  };
};
