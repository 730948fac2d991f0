import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { tableOf } from '../../db/tables/index.ts';
import { type CollectionName, collectionNames, collectionOf } from './collections.ts';

/** A row of a collection by column name. */
export type Row = Record<string, unknown>;

/** One row's fields before and after; the key tells the row. */
export type RowChange = { key: Row; before: Row; after: Row };

/** Rows that are alike but for the column `by`, a number, of which they have the `values`, each once. */
export type AlikeRows = { by: string; values: readonly number[]; row: Row };

/** Rows that were alike before and after in what was set: of their keys, `key` is the same too, and `by` tells them apart. */
export type AlikeChanges = { by: string; values: readonly number[] } & RowChange;

export type CollectionDiff = {
  inserted: Row[];
  removed: Row[];
  /** In the order in which it was done. */
  changed: (RowChange | AlikeChanges)[];
  insertedAlike?: AlikeRows[];
  removedAlike?: AlikeRows[];
};

/**
 * What a change did to a plan's inputs, as a value: it can be turned round and applied again. Sources that came in
 * or went are named only; their rows are in the tables or, set aside, among the archived rows.
 */
export type Diff = Partial<Record<CollectionName, CollectionDiff>> & { came?: number[]; went?: number[] };

export const isAlike = (changed: RowChange | AlikeChanges): changed is AlikeChanges => 'values' in changed;

/** The part of a diff that is kept row by row. */
export const collectionsIn = ({
  came: _came,
  went: _went,
  ...rows
}: Diff): [CollectionName, CollectionDiff][] => Object.entries(rows) as [CollectionName, CollectionDiff][];

/** The diff that takes `diff` back. */
export function reversed(diff: Diff): Diff {
  const back: Diff = {};
  if (diff.went) back.came = diff.went;
  if (diff.came) back.went = diff.came;
  for (const [name, { inserted, removed, changed, insertedAlike, removedAlike }] of collectionsIn(diff))
    back[name] = {
      inserted: removed,
      removed: inserted,
      changed: changed.map((one) => ({ ...one, before: one.after, after: one.before })).reverse(),
      ...(removedAlike ? { insertedAlike: removedAlike } : {}),
      ...(insertedAlike ? { removedAlike: insertedAlike } : {}),
    };
  return back;
}

/** How many rows of a collection came, went and were changed. */
export function sizesOf({ inserted, removed, changed, insertedAlike, removedAlike }: CollectionDiff) {
  const all = (lists: readonly { values: readonly number[] }[] = []) =>
    lists.reduce((sum, { values }) => sum + values.length, 0);
  return {
    inserted: inserted.length + all(insertedAlike),
    removed: removed.length + all(removedAlike),
    changed: changed.reduce((sum, one) => sum + (isAlike(one) ? one.values.length : 1), 0),
  };
}

/** A collection's rows one by one; of each that are alike only the first `most`. */
export function unfolded(part: CollectionDiff, most?: number) {
  return {
    inserted: [...part.inserted, ...(part.insertedAlike ?? []).flatMap((alike) => rowsOf(alike, most))],
    removed: [...part.removed, ...(part.removedAlike ?? []).flatMap((alike) => rowsOf(alike, most))],
    changed: part.changed.flatMap((one): RowChange[] => (isAlike(one) ? changesOf(one, most) : [one])),
  };
}

export const rowsOf = ({ by, values, row }: AlikeRows, most = values.length): Row[] =>
  values.slice(0, most).map((value) => ({ ...row, [by]: value }));

export const changesOf = (
  { by, values, key, before, after }: AlikeChanges,
  most = values.length,
): RowChange[] => values.slice(0, most).map((value) => ({ key: { ...key, [by]: value }, before, after }));

/**
 * The same diff with each row told once: what a change set twice goes from what it was to what it is, and what it set on a
 * row that it put in is part of that row. Rows that are alike stay together, unless others were changed beside them.
 */
export function settled(diff: Diff): Diff {
  const once: Diff = { ...diff };
  for (const [name, part] of collectionsIn(diff)) if (!isSettled(name, part)) once[name] = merged(name, part);
  return once;
}

/** What tells a row in its collection. */
export const nameIn = (collection: CollectionName) => {
  const { key } = collectionOf(collection);
  return (row: Row) => key.map((column) => row[column]).join(':');
};

/** Whether all that was changed is alike, and no row is told twice. */
function isSettled(name: CollectionName, part: CollectionDiff): boolean {
  if (part.changed.length === 0) return true;
  if (!part.changed.every(isAlike)) return false;
  const nameOf = nameIn(name);
  const told = new Set(part.inserted.map(nameOf));
  let rows = told.size;
  const all = [
    ...part.changed.map(({ key, ...one }) => ({ ...one, row: key })),
    ...(part.insertedAlike ?? []),
  ];
  for (const { by, values, row } of all) {
    for (const value of values) told.add(nameOf({ ...row, [by]: value }));
    rows += values.length;
  }
  return told.size === rows;
}

function merged(name: CollectionName, part: CollectionDiff): CollectionDiff {
  const { inserted, removed, changed } = unfolded(part);
  const nameOf = nameIn(name);
  const put = new Map(inserted.map((row) => [nameOf(row), row]));
  const set = new Map<string, RowChange>();
  for (const { key, before, after } of changed) {
    const row = nameOf(key);
    const own = put.get(row);
    const earlier = set.get(row);
    if (own) put.set(row, { ...own, ...after });
    else if (earlier)
      set.set(row, {
        key,
        before: { ...before, ...earlier.before },
        after: { ...earlier.after, ...after },
      });
    else set.set(row, { key, before, after });
  }
  return { inserted: [...put.values()], removed, changed: [...set.values()] };
}

export const isEmpty = (diff: Diff): boolean =>
  !diff.came &&
  !diff.went &&
  collectionsIn(diff).every(([, part]) => Object.values(sizesOf(part)).every((size) => size === 0));

/** Level 1 is 5 times as fast as the default here and 15% larger. */
export const packDiff = (diff: Diff): Buffer => deflateRawSync(JSON.stringify(diff), { level: 1 });

/** Tables by the names that they had when older changes were logged. */
const byFormer = new Map(collectionNames.map((name) => [tableOf(name).former, name] as const));

export function unpackDiff(packed: Buffer): Diff {
  const logged = JSON.parse(inflateRawSync(packed).toString('utf8')) as Record<string, unknown>;
  return Object.fromEntries(Object.entries(logged).map(([name, part]) => [byFormer.get(name) ?? name, part]));
}
