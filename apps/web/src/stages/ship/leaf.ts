import { type LeafOf, stateOf } from '../../frame/leaf.ts';
import { tallied } from '../../kit/format.ts';

export const shipLeaf: LeafOf = ({ counts }) => {
  return {
    tally: counts.blockers > 0 ? tallied(counts.blockers, 'blocker') : tallied(counts.rows, 'row'),
    state: stateOf(counts.keywords === 0, counts.blockers > 0, 'blocked'),
  };
};
