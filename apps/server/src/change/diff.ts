import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { CollectionName } from './collections.ts';

/** A row of a collection by column name. */
export type Row = Record<string, unknown>;

/** One row's fields before and after; the key tells the row. */
export type RowChange = { key: Row; before: Row; after: Row };

export type CollectionDiff = { inserted: Row[]; removed: Row[]; changed: RowChange[] };

/** What a change did to a plan's inputs, as a value: it can be turned round and applied again. */
export type Diff = Partial<Record<CollectionName, CollectionDiff>>;

/** The diff that takes `diff` back. */
export function reversed(diff: Diff): Diff {
  const back: Diff = {};
  for (const [name, { inserted, removed, changed }] of Object.entries(diff) as [
    CollectionName,
    CollectionDiff,
  ][])
    back[name] = {
      inserted: removed,
      removed: inserted,
      changed: changed.map(({ key, before, after }) => ({ key, before: after, after: before })).reverse(),
    };
  return back;
}

export const isEmpty = (diff: Diff): boolean =>
  Object.values(diff).every(
    ({ inserted, removed, changed }) => inserted.length + removed.length + changed.length === 0,
  );

/** Level 1 is 5 times as fast as the default here and 15% larger. */
export const packDiff = (diff: Diff): Buffer => deflateRawSync(JSON.stringify(diff), { level: 1 });

export const unpackDiff = (packed: Buffer): Diff =>
  JSON.parse(inflateRawSync(packed).toString('utf8')) as Diff;
