import type { LeafOf } from '../../frame/leaf.ts';
import { count } from '../../kit/format.ts';

export const writeLeaf: LeafOf = ({ counts }) => {
  const empty = counts.keywords === 0;
  return {
    tally: empty ? 'no ads yet' : counts.misfits > 0 ? `${count(counts.misfits)} do not fit` : 'all fit',
    state: empty ? 'untouched' : counts.misfits > 0 ? 'unfinished' : 'done',
  };
};
