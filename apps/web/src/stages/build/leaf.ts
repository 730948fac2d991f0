import type { LeafOf } from '../../frame/leaf.ts';
import { tallied } from '../../kit/format.ts';

export const buildLeaf: LeafOf = ({ counts, builtRevision, revision }) => {
  const empty = counts.keywords === 0;
  const stale = builtRevision < revision;
  return {
    tally: counts.groups === 0 ? 'no groups yet' : tallied(counts.groups, 'group'),
    state: empty ? 'untouched' : stale ? 'unfinished' : 'done',
  };
};
