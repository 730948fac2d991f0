import { type LeafOf, stateOf } from '../../frame/leaf.ts';
import { tally } from '../../kit/format.ts';

export const writeLeaf: LeafOf = ({ counts }) => {
  const empty = counts.keywords === 0;
  const fit = counts.misfits > 0 ? `${tally(counts.misfits)} do not fit` : 'all fit';
  return {
    tally: empty ? 'no ads yet' : fit,
    state: stateOf(empty, counts.misfits > 0),
  };
};
