import { isDeepStrictEqual } from 'node:util';
import { ints, select } from '../../db/connect.ts';
import { patchRows } from '../../db/rows.ts';
import { shapeOf } from '../../db/tables/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import type { Change } from './change.ts';
import { type CollectionName, collectionNames, collectionOf, scopeOf } from './collections.ts';
import {
  type AlikeRows,
  collectionsIn,
  type Diff,
  isAlike,
  nameIn,
  type Row,
  type RowChange,
  reversed,
  settled,
  unfolded,
  unpackDiff,
} from './diff.ts';
import { type Changed, inChange } from './in-change.ts';
import { bringBack, changedSince, setAside } from './source-rows.ts';
import { refuseIfUsedElsewhere } from './used-elsewhere.ts';

type Step = { revision: number; label: string };

/** What follows from rows that a step has put in, changed or taken out, done in the same change. */
export type Follow = (change: Change, diff: Diff) => Promise<void>;

/** The caller's newest change that is not undone yet, and the one that a redo would do again. */
export async function stepsOf(caller: PlanCaller): Promise<{ undo: Step | null; redo: Step | null }> {
  const mine = `plan_id = $1 and workspace_id = $2 and actor_id = $3 and kind = 'edit' and undoable`;
  const bind = [caller.plan, caller.workspace, caller.actor];
  const [undo] = await select<Step>(
    caller.database,
    `select revision, label from changes where ${mine} and not undone order by revision desc limit 1`,
    bind,
  );
  const [redo] = await select<Step>(
    caller.database,
    `select revision, label from changes where ${mine} and undone and revision > $4 order by revision limit 1`,
    [...bind, undo?.revision ?? 0],
  );
  return { undo: undo ?? null, redo: redo ?? null };
}

export async function undo(caller: PlanCaller, force: boolean, follow: Follow): Promise<Changed<string>> {
  const { undo: step } = await stepsOf(caller);
  if (!step) throw new SprigFailure('invalid', 'There is nothing to undo.');
  return apply(caller, step, 'undo', force, follow);
}

export async function redo(caller: PlanCaller, force: boolean, follow: Follow): Promise<Changed<string>> {
  const { redo: step } = await stepsOf(caller);
  if (!step) throw new SprigFailure('invalid', 'There is nothing to redo.');
  return apply(caller, step, 'redo', force, follow);
}

/** Takes one change back, whoever made it. */
export async function undoOne(
  caller: PlanCaller,
  revision: number,
  force: boolean,
  follow: Follow,
): Promise<Changed<string>> {
  const [step] = await select<Step & { undoable: boolean; undone: boolean }>(
    caller.database,
    `select revision, label, undone, undoable and kind = 'edit' as undoable from changes
     where plan_id = $1 and workspace_id = $2 and revision = $3`,
    [caller.plan, caller.workspace, revision],
  );
  if (!step) throw notFound('change');
  if (step.undone) throw new SprigFailure('conflict', 'This was undone already.');
  if (!step.undoable) throw new SprigFailure('blocked', 'This can not be undone by itself.');
  return apply(caller, step, 'undo', force, follow);
}

async function apply(
  caller: PlanCaller,
  step: Step,
  kind: 'undo' | 'redo',
  force: boolean,
  follow: Follow,
): Promise<Changed<string>> {
  return inChange(
    caller,
    step.label,
    async (change) => {
      const [logged] = await change.find('changes', {
        columns: ['diff', 'undone'],
        where: { revision: step.revision },
        lock: true,
      });
      if (!logged || logged.undone !== (kind === 'redo'))
        throw new SprigFailure('conflict', 'This was just done in another window.');
      const done = settled(unpackDiff(logged.diff));
      const diff = kind === 'undo' ? reversed(done) : done;
      if (!force) await refuseIfChangedSince(change, diff, step);
      await refuseIfUsedElsewhere(change, diff);
      await refuseSecond(change, diff);
      await applyDiff(change, diff, force);
      await follow(change, diff);
      const { revision } = step;
      await patchRows(caller, 'changes', { revision }, { undone: kind === 'undo' }, change.transaction);
      return step.label;
    },
    { kind, undoable: false },
  );
}

/** Puts a diff into effect, in the order in which collections refer to each other. */
async function applyDiff(change: Change, logged: Diff, force: boolean): Promise<void> {
  // What is put back over what others did since is no longer alike: row by row then.
  const diff = force ? rowByRow(logged) : logged;
  for (const source of diff.came ?? []) await bringBack(change, source);
  await applyRows(change, diff, force);
  for (const source of diff.went ?? []) await setAside(change, source);
}

function rowByRow(diff: Diff): Diff {
  const rows: Diff = { ...diff };
  for (const [name, part] of collectionsIn(diff)) rows[name] = unfolded(part);
  return rows;
}

async function applyRows(change: Change, diff: Diff, force: boolean): Promise<void> {
  for (const name of [...collectionNames].reverse()) {
    const { removed = [], removedAlike = [] } = diff[name] ?? {};
    await change.remove(name, await removable(change, name, removed));
    if (name === 'mentions') await change.removeAlike(name, removedAlike);
  }
  for (const name of collectionNames) {
    const { inserted = [], changed = [], insertedAlike = [] } = diff[name] ?? {};
    await putIn(change, name, await insertable(change, name, inserted), force);
    if (name === 'mentions') await change.insertAlike(name, await ofKeywordsThere(change, insertedAlike));
    for (const list of byFields(changed.filter((one) => !isAlike(one))))
      await change.updateRows(
        name,
        list.map(({ key, after }) => ({ ...key, ...after })),
        Object.keys(list[0]?.after ?? {}),
      );
    if (name === 'keywords' || name === 'mentions') await change.updateAlike(name, changed.filter(isAlike));
  }
}

/** Puts rows in; `force`: in the place of what stands under their keys. */
async function putIn(change: Change, name: CollectionName, rows: readonly Row[], force: boolean) {
  const nameOf = nameIn(name);
  const there = new Set(force ? (await storedAs(change, name, rows)).map(nameOf) : []);
  await change.insertRows(
    name,
    rows.filter((row) => !there.has(nameOf(row))),
  );
  const { key, columns } = collectionOf(name);
  await change.updateRows(
    name,
    rows.filter((row) => there.has(nameOf(row))),
    columns.flatMap((column) => (key.includes(column.name) ? [] : [column.name])),
  );
}

/** Rows that change the same fields go in one statement. */
function byFields(changed: readonly RowChange[]): RowChange[][] {
  const lists = new Map<string, RowChange[]>();
  for (const change of changed) {
    const fields = Object.keys(change.after).join();
    const list = lists.get(fields);
    if (list) list.push(change);
    else lists.set(fields, [change]);
  }
  return [...lists.values()];
}

const keysOf = (name: CollectionName, rows: readonly Row[]): Row[] =>
  rows.map((row) => Object.fromEntries(collectionOf(name).key.map((column) => [column, row[column]])));

/** A keyword that another source has brought since stays. */
async function removable(change: Change, name: CollectionName, rows: readonly Row[]): Promise<Row[]> {
  const keys = keysOf(name, rows);
  if (name !== 'keywords' || keys.length === 0) return keys;
  return change.rows<Row>(
    `select id from keywords k where plan_id = $1 and id = any($2::int[])
       and not exists (select from mentions m where m.plan_id = k.plan_id and m.keyword_id = k.id)`,
    [keys.map(({ id }) => id)],
  );
}

/** A keyword whose text has come back by another way since is not put in twice. */
async function insertable(
  change: Change,
  name: CollectionName,
  rows: readonly Row[],
): Promise<readonly Row[]> {
  if (rows.length === 0 || (name !== 'keywords' && name !== 'mentions')) return rows;
  if (name === 'keywords') {
    const taken = await change.find('keywords', {
      columns: ['norm'],
      where: { norm: rows.map(({ norm }) => norm as string) },
    });
    const norms = new Set(taken.map(({ norm }) => norm));
    return rows.filter(({ norm }) => !norms.has(norm as string));
  }
  const there = await keywordsThere(
    change,
    rows.map(({ keyword_id }) => keyword_id as number),
  );
  return rows.filter(({ keyword_id }) => there.has(keyword_id as number));
}

async function ofKeywordsThere(change: Change, alike: readonly AlikeRows[]): Promise<AlikeRows[]> {
  const all = alike.flatMap(({ values }) => values);
  if (all.length === 0) return [];
  const there = await keywordsThere(change, all);
  return alike.map((one) => ({ ...one, values: one.values.filter((id) => there.has(id)) }));
}

async function keywordsThere(change: Change, ids: readonly number[]): Promise<Set<number>> {
  const rows = await change.rows<{ id: number }>(
    'select id from keywords where plan_id = $1 and id = any($2::int[])',
    [ints(ids)],
  );
  return new Set(rows.map(({ id }) => id));
}

/** Of these a plan has one source each, made when something is first said so. */
const ONE_EACH = ['hand', 'estimates'];

/** Keywords would be said two things by hand, of which one or the other would hold. */
async function refuseSecond(change: Change, diff: Diff): Promise<void> {
  for (const { id, kind, name } of diff.sources?.inserted ?? []) {
    if (!ONE_EACH.includes(kind as string)) continue;
    const there = await change.rows('select id from sources where plan_id = $1 and kind = $2 and id <> $3', [
      kind,
      id,
    ]);
    if (there.length === 0) continue;
    throw new SprigFailure(
      'conflict',
      `The source “${name}”, which this step made, was made anew since by another. Do by hand what this step did.`,
    );
  }
}

/** Somebody else may have worked on the same rows since: then say so instead of writing over it. */
async function refuseIfChangedSince(change: Change, diff: Diff, { label, revision }: Step): Promise<void> {
  let differing = 0;
  for (const source of diff.went ?? []) differing += await changedSince(change, source, revision);
  for (const name of collectionNames) {
    const {
      inserted = [],
      removed = [],
      changed = [],
      insertedAlike = [],
      removedAlike = [],
    } = diff[name] ?? {};
    const expected = [
      ...removed.map((row) => ({ row, fields: row })),
      ...changed.flatMap((one) => (isAlike(one) ? [] : [{ row: one.key, fields: one.before }])),
    ];
    differing += await countDiffering(change, name, expected);
    // What is put in again may have come by somebody else's hand meanwhile.
    differing += (await storedAs(change, name, inserted)).length;
    if (name === 'mentions') differing += await change.countThere(name, insertedAlike);
    if (name === 'keywords' || name === 'mentions')
      differing += await change.countUnlike(name, [...removedAlike, ...changed.filter(isAlike)]);
  }
  if (differing === 0) return;
  const rows = differing === 1 ? 'One value' : `${differing.toLocaleString('en')} values`;
  throw new SprigFailure('conflict', `${rows} of “${label}” changed since. Step back all the same?`, {
    at: 'force',
  });
}

async function countDiffering(
  change: Change,
  name: CollectionName,
  expected: readonly { row: Row; fields: Row }[],
): Promise<number> {
  if (expected.length === 0) return 0;
  const current = await storedAs(
    change,
    name,
    expected.map(({ row }) => row),
  );
  const nameOf = nameIn(name);
  const byKey = new Map(current.map((row) => [nameOf(row), row]));
  return expected.filter(({ row, fields }) => {
    const now = byKey.get(nameOf(row));
    return !now || Object.entries(fields).some(([field, value]) => !sameValue(now[field], value));
  }).length;
}

/** What stands now under the keys of rows, where anything does. */
async function storedAs(change: Change, name: CollectionName, rows: readonly Row[]): Promise<Row[]> {
  if (rows.length === 0) return [];
  const { key, columns } = collectionOf(name);
  const shape = columns.filter((column) => key.includes(column.name));
  const scope = scopeOf(name) === 'plan_id' ? '$1' : '(select workspace_id from plans where id = $1)';
  const current = await change.rows<{ row: Row }>(
    `select to_jsonb(t) as row from ${name} t
     join jsonb_to_recordset($2::jsonb) as r(${shapeOf(shape)})
       on ${key.map((column) => `t.${column} = r.${column}`).join(' and ')} where t.${scopeOf(name)} = ${scope}`,
    [JSON.stringify(keysOf(name, rows))],
  );
  return current.map(({ row }) => row);
}

/** Times come back from the log as text in another form than the database prints. */
const sameValue = (now: unknown, then: unknown): boolean =>
  isDeepStrictEqual(now ?? null, then ?? null) ||
  (typeof now === 'string' &&
    typeof then === 'string' &&
    /^\d{4}-\d\d-\d\dT/.test(now) &&
    Date.parse(now) === Date.parse(then));
