import type { LeafOf } from '../../frame/leaf.ts';
import { counted } from '../../kit/format.ts';

export const buildLeaf: LeafOf = ({ counts, builtRevision, revision }) => {
  const empty = counts.keywords === 0;
  const stale = builtRevision < revision;
  return {
    tally: counts.groups === 0 ? 'no groups yet' : counted(counts.groups, 'group'),
    state: empty ? 'untouched' : stale ? 'unfinished' : 'done',
  };
};
