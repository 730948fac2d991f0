import type { LeafOf } from '../../frame/leaf.ts';
import { tallied } from '../../kit/format.ts';

export const gatherLeaf: LeafOf = ({ counts }) => {
  const empty = counts.keywords === 0;
  const out = counts.cut + counts.folded + counts.blocked;
  return {
    tally: tallied(counts.keywords, 'keyword'),
    state: empty && out === 0 ? 'untouched' : 'done',
  };
};
