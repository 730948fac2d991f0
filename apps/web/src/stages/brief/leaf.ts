import type { LeafOf } from '../../frame/leaf.ts';
import { tallied } from '../../kit/format.ts';

export const briefLeaf: LeafOf = ({ counts }) => {
  return {
    tally: counts.facts === 0 ? 'nothing set' : `${tallied(counts.facts, 'fact')} set`,
    state: counts.facts === 0 ? 'untouched' : 'done',
  };
};
