import type { LeafOf } from '../../frame/leaf.ts';
import { tallied } from '../../kit/format.ts';

export const shipLeaf: LeafOf = ({ counts }) => {
  const empty = counts.keywords === 0;
  return {
    tally: counts.blockers > 0 ? tallied(counts.blockers, 'blocker') : tallied(counts.rows, 'row'),
    state: empty ? 'untouched' : counts.blockers > 0 ? 'blocked' : 'done',
  };
};
