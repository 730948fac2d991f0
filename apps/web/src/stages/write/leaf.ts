import type { LeafOf } from '../../frame/leaf.ts';
import { tally } from '../../kit/format.ts';

export const writeLeaf: LeafOf = ({ counts }) => {
  const empty = counts.keywords === 0;
  return {
    tally: empty ? 'no ads yet' : counts.misfits > 0 ? `${tally(counts.misfits)} do not fit` : 'all fit',
    state: empty ? 'untouched' : counts.misfits > 0 ? 'unfinished' : 'done',
  };
};
