import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { tableOf } from '../../db/tables/index.ts';
import { type CollectionName, collectionNames } from './collections.ts';

/** A row of a collection by column name. */
export type Row = Record<string, unknown>;

/** One row's fields before and after; the key tells the row. */
export type RowChange = { key: Row; before: Row; after: Row };

export type CollectionDiff = { inserted: Row[]; removed: Row[]; changed: RowChange[] };

/**
 * What a change did to a plan's inputs, as a value: it can be turned round and applied again. Sources that came in
 * or went are named only; their rows are in the tables or, set aside, among the archived rows.
 */
export type Diff = Partial<Record<CollectionName, CollectionDiff>> & { came?: number[]; went?: number[] };

/** The part of a diff that is kept row by row. */
const collectionsIn = ({ came: _came, went: _went, ...rows }: Diff): [CollectionName, CollectionDiff][] =>
  Object.entries(rows) as [CollectionName, CollectionDiff][];

/** The diff that takes `diff` back. */
export function reversed(diff: Diff): Diff {
  const back: Diff = {};
  if (diff.went) back.came = diff.went;
  if (diff.came) back.went = diff.came;
  for (const [name, { inserted, removed, changed }] of collectionsIn(diff))
    back[name] = {
      inserted: removed,
      removed: inserted,
      changed: changed.map(({ key, before, after }) => ({ key, before: after, after: before })).reverse(),
    };
  return back;
}

export const isEmpty = (diff: Diff): boolean =>
  !diff.came &&
  !diff.went &&
  collectionsIn(diff).every(
    ([, { inserted, removed, changed }]) => inserted.length + removed.length + changed.length === 0,
  );

/** Level 1 is 5 times as fast as the default here and 15% larger. */
export const packDiff = (diff: Diff): Buffer => deflateRawSync(JSON.stringify(diff), { level: 1 });

/** Tables by the names that they had when older changes were logged. */
const byFormer = new Map(collectionNames.map((name) => [tableOf(name).former, name] as const));

export function unpackDiff(packed: Buffer): Diff {
  const logged = JSON.parse(inflateRawSync(packed).toString('utf8')) as Record<string, unknown>;
  return Object.fromEntries(Object.entries(logged).map(([name, part]) => [byFormer.get(name) ?? name, part]));
}
