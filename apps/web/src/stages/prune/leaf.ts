import { type LeafOf, stateOf } from '../../frame/leaf.ts';
import { tally } from '../../kit/format.ts';

export const pruneLeaf: LeafOf = ({ counts }) => {
  const out = counts.cut + counts.folded + counts.blocked;
  return {
    tally: out === 0 ? 'nothing out' : `${tally(out)} out`,
    state: stateOf(counts.keywords === 0, out === 0),
  };
};
