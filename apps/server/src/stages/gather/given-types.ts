import { bitOf } from '@sprig/core/match';
import type { Change } from '../../plan/change/index.ts';
import { refreshKeywords } from '../../plan/change/index.ts';
import { sourceOfKind } from './given-figures.ts';
import { handMention } from './new-rows.ts';

/**
 * The match types that a keyword is given by hand; 0: what was given is taken back. `marks`: the marked words of modified
 * broad; none: those that it has.
 */
export type GivenTypes = { id: number; types: number; marks?: readonly number[] };

const MODIFIED = bitOf('modified');

/** Keeps match types as what the source `hand` says: they stand in the place of what all other sources asked for. */
export async function giveTypes(change: Change, given: readonly GivenTypes[]): Promise<void> {
  if (given.length === 0) return;
  const source = await sourceOfKind(change, 'hand');
  const ids = given.map(({ id }) => id);
  const there = new Set(
    (
      await change.find('mentions', {
        columns: ['keyword_id'],
        where: { keyword_id: ids, source_id: source },
      })
    ).map(({ keyword_id }) => keyword_id),
  );
  const marksOf = new Map(
    (await change.find('keywords', { columns: ['id', 'marks'], where: { id: ids }, lock: true })).map(
      ({ id, marks }) => [id, marks],
    ),
  );
  const marks = ({ id, types, marks: own }: GivenTypes): number[] =>
    types & MODIFIED ? [...(own ?? marksOf.get(id) ?? [])] : [];
  await change.insert(
    'mentions',
    given
      .filter(({ id }) => !there.has(id))
      .map((one) => ({ ...handMention(source, one.id), asked: one.types, marks: marks(one) })),
  );
  await change.updateEach(
    'mentions',
    given
      .filter(({ id }) => there.has(id))
      .map((one) => ({ source_id: source, keyword_id: one.id, asked: one.types, marks: marks(one) })),
    ['asked', 'marks'],
  );
  await refreshKeywords(change, ids);
}
