import type { LeafOf } from '../../frame/leaf.ts';
import { tallied } from '../../kit/format.ts';

export const learnLeaf: LeafOf = ({ counts }) => ({
  tally: tallied(counts.reports, 'report'),
  state: counts.reports === 0 ? 'untouched' : 'done',
});
