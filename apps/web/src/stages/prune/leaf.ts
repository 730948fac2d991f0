import type { LeafOf } from '../../frame/leaf.ts';
import { tally } from '../../kit/format.ts';

export const pruneLeaf: LeafOf = ({ counts }) => {
  const empty = counts.keywords === 0;
  const out = counts.cut + counts.folded + counts.blocked;
  return {
    tally: out === 0 ? 'nothing out' : `${tally(out)} out`,
    state: empty ? 'untouched' : out === 0 ? 'unfinished' : 'done',
  };
};
