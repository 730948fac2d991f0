import { BY_HAND } from '@sprig/core/gather';
import { bitOf } from '@sprig/core/match';
import { ints } from '../../db/connect.ts';
import type { Change } from '../../plan/change/index.ts';
import { refreshKeywords } from '../../plan/change/index.ts';
import { sourceOfKind } from './given-figures.ts';
import { handMention } from './new-rows.ts';

/**
 * The match types that keywords are given by hand; 0: what was given is taken back. `marks`: the marked words of modified
 * broad; none: those that each has.
 */
export type GivenTypes = { ids: readonly number[]; types: number; marks?: readonly number[] };

/** The same for keywords that are alike: `now` is what they say, each of them. */
export type TypesAlike = GivenTypes & { now: Said & { hand: number | null } };

type Said = { asked: number; marks: readonly number[] };

const haveSame = (one: Said, other: Said): boolean =>
  one.asked === other.asked && one.marks.join() === other.marks.join();

const MODIFIED = bitOf('modified');

/** Keeps match types as what the source `hand` says: they stand in the place of what all other sources asked for. */
export async function giveTypes(change: Change, given: readonly GivenTypes[]): Promise<void> {
  await giveTypesKnown(change, await toldApart(change, given));
}

/** `giveTypes` where it was read within this change what the keywords say. */
export async function giveTypesKnown(change: Change, alike: readonly TypesAlike[]): Promise<void> {
  if (alike.length === 0) return;
  const kinds = kindsOf(alike);
  // What is set by hand stands before all that sources say: these need not be read. Rows that are
  // changed before their mentions come are touched but once.
  await change.updateAlike(
    'keywords',
    kinds.flatMap(({ ids, hand, before, after }) => {
      const byHand = (hand ?? 0) | BY_HAND.asked;
      if (after.asked === 0 || (haveSame(before, after) && byHand === hand)) return [];
      const one = { by: 'id', values: ids, key: {}, before: { ...before, hand } };
      return [{ ...one, after: { ...after, hand: byHand } }];
    }),
  );
  await giveMentions(change, kinds);
  await refreshKeywords(
    change,
    kinds.flatMap(({ ids, after }) => (after.asked === 0 ? ids : [])),
  );
}

/** Each list is written at once, so those that say the same, and are given the same, are one. */
function kindsOf(alike: readonly TypesAlike[]): Kind[] {
  const kinds = new Map<string, Kind>();
  for (const { ids, types, now, marks = now.marks } of alike) {
    const { hand, ...before } = now;
    const after = { asked: types, marks: types & MODIFIED ? [...marks] : [] };
    const name = JSON.stringify([before, hand, after]);
    const kind = kinds.get(name);
    if (kind) kind.ids = kind.ids.concat(ids);
    else kinds.set(name, { ids: [...ids], hand, before, after });
  }
  // Rows are written, and indexes filled, in this order.
  for (const { ids } of kinds.values()) ids.sort((one, other) => one - other);
  return [...kinds.values()];
}

type Kind = { ids: number[]; hand: number | null; before: Said; after: Said };

async function toldApart(change: Change, given: readonly GivenTypes[]): Promise<TypesAlike[]> {
  const wanted: { types: number; marks: readonly number[] | undefined }[] = [];
  const byName = new Map<string, number>();
  const wantedOf = new Map<number, number>();
  for (const { ids, types, marks } of given) {
    const name = `${types} ${marks?.join() ?? 'own'}`;
    const at = byName.get(name) ?? wanted.push({ types, marks }) - 1;
    byName.set(name, at);
    for (const id of ids) wantedOf.set(id, at);
  }
  if (wantedOf.size === 0) return [];
  const stored = await change.rows<Said & { at: number; hand: number | null; ids: number[] }>(
    `select g.at, k.asked, k.marks, k.hand, json_agg(k.id) as ids from unnest($2::int[], $3::int[]) as g(id, at)
     join keywords k on k.plan_id = $1 and k.id = g.id group by g.at, k.asked, k.marks, k.hand`,
    [ints([...wantedOf.keys()]), ints([...wantedOf.values()])],
  );
  return stored.map(({ at, asked, marks, hand, ids }) => {
    const { types, marks: own } = wanted[at] as (typeof wanted)[number];
    return { ids, types, ...(own ? { marks: own } : {}), now: { asked, marks, hand } };
  });
}

/** What the source `hand` says of them. */
async function giveMentions(change: Change, kinds: readonly Kind[]): Promise<void> {
  const source = await sourceOfKind(change, 'hand');
  const mentioned = await change.rows<Said & { at: number; ids: number[] }>(
    `select g.at, m.asked, m.marks, json_agg(m.keyword_id) as ids from unnest($3::int[], $4::int[]) as g(id, at)
     join mentions m on m.plan_id = $1 and m.source_id = $2 and m.keyword_id = g.id group by g.at, m.asked, m.marks`,
    [source, ints(kinds.flatMap(({ ids }) => ids)), ints(kinds.flatMap(({ ids }, at) => ids.map(() => at)))],
  );
  const there = new Set(mentioned.flatMap(({ ids }) => ids));
  await change.insertAlike(
    'mentions',
    kinds.flatMap(({ ids, after }) => {
      const values = ids.filter((id) => !there.has(id));
      const { keyword_id: _each, ...row } = handMention(source, 0);
      return values.length > 0 ? [{ by: 'keyword_id', values, row: { ...row, ...after } }] : [];
    }),
  );
  await change.updateAlike(
    'mentions',
    mentioned.flatMap(({ at, ids, asked, marks }) => {
      const before = { asked, marks };
      const { after } = kinds[at] as Kind;
      if (haveSame(before, after)) return [];
      return [{ by: 'keyword_id', values: ids, key: { source_id: source }, before, after: { ...after } }];
    }),
  );
}
