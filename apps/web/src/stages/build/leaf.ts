import { type LeafOf, stateOf } from '../../frame/leaf.ts';
import { tallied } from '../../kit/format.ts';

export const buildLeaf: LeafOf = ({ counts, builtRevision, revision }) => {
  const stale = builtRevision < revision;
  return {
    tally: counts.groups === 0 ? 'no groups yet' : tallied(counts.groups, 'group'),
    state: stateOf(counts.keywords === 0, stale),
  };
};
