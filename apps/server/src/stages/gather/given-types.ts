import { BY_HAND } from '@sprig/core/gather';
import { bitOf } from '@sprig/core/match';
import type { Change } from '../../plan/change/index.ts';
import { refreshKeywords } from '../../plan/change/index.ts';
import { sourceOfKind } from './given-figures.ts';
import { handMention } from './new-rows.ts';

/**
 * The match types that a keyword is given by hand; 0: what was given is taken back. `marks`: the marked words of modified
 * broad; none: those that it has. `hand`: what of it was set by hand before, where that is known.
 */
export type GivenTypes = {
  id: number;
  types: number;
  marks?: readonly number[];
  hand?: number;
  /** What it says now, where that was read within the change. */
  now?: Said;
};
type Said = { asked: number; marks: readonly number[]; hand: number | null };

const isSame = (one: Said, other: Said): boolean =>
  one.asked === other.asked &&
  one.hand === other.hand &&
  one.marks.length === other.marks.length &&
  one.marks.every((mark, at) => mark === other.marks[at]);

const MODIFIED = bitOf('modified');

/** Keeps match types as what the source `hand` says: they stand in the place of what all other sources asked for. */
export async function giveTypes(change: Change, given: readonly GivenTypes[]): Promise<void> {
  if (given.length === 0) return;
  const source = await sourceOfKind(change, 'hand');
  const ids = given.map(({ id }) => id);
  // By numbers that are bound as one list: of a hundred thousand written out, reading the statement takes longest.
  const mentioned = await change.rows<{ keyword_id: number }>(
    'select keyword_id from mentions where plan_id = $1 and source_id = $2 and keyword_id = any($3::int[])',
    [source, ids],
  );
  const there = new Set(mentioned.map(({ keyword_id }) => keyword_id));
  const stored = await change.find('keywords', {
    columns: ['id', 'marks', 'hand'],
    where: {
      id: given.flatMap(({ id, types, hand }) => (hand === undefined || types & MODIFIED ? [id] : [])),
    },
    lock: true,
  });
  const known = new Map(stored.map((row) => [row.id, row]));
  const marks = ({ id, types, marks: own }: GivenTypes): number[] =>
    types & MODIFIED ? [...(own ?? known.get(id)?.marks ?? [])] : [];
  // What is set by hand stands before all that sources say: these need not be read. Rows that are
  // changed before their mentions come are touched but once.
  const next = given
    .filter(({ types }) => types > 0)
    .map((one) => ({
      id: one.id,
      asked: one.types,
      marks: marks(one),
      hand: (one.hand ?? known.get(one.id)?.hand ?? 0) | BY_HAND.asked,
    }));
  const read = new Map(given.flatMap(({ id, now }) => (now ? [[id, now] as const] : [])));
  await change.updateKnown(
    'keywords',
    next.flatMap(({ id, ...after }) => {
      const before = read.get(id);
      if (!before || isSame(before, after)) return [];
      return [{ key: { id }, before, after }];
    }),
  );
  await change.updateEach(
    'keywords',
    next.filter(({ id }) => !read.has(id)),
    ['asked', 'marks', 'hand'],
  );
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
  await refreshKeywords(
    change,
    given.flatMap(({ id, types }) => (types === 0 ? [id] : [])),
  );
}
