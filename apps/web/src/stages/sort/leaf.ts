import type { LeafOf } from '../../frame/leaf.ts';
import { tallied } from '../../kit/format.ts';

export const sortLeaf: LeafOf = ({ counts }) => {
  return {
    tally: counts.themes === 0 ? 'no themes yet' : tallied(counts.themes, 'theme'),
    state: counts.themes === 0 ? 'untouched' : 'done',
  };
};
