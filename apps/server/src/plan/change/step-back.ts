import { isDeepStrictEqual } from 'node:util';
import { select } from '../../db/connect.ts';
import { patchRows } from '../../db/rows.ts';
import { shapeOf } from '../../db/tables/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import type { Change } from './change.ts';
import { type CollectionName, collectionNames, collectionOf, scopeOf } from './collections.ts';
import { type Diff, type Row, type RowChange, reversed, unpackDiff } from './diff.ts';
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
      const diff = kind === 'undo' ? reversed(unpackDiff(logged.diff)) : unpackDiff(logged.diff);
      if (!force) await refuseIfChangedSince(change, diff, step);
      await refuseIfUsedElsewhere(change, diff);
      await applyDiff(change, diff);
      await follow(change, diff);
      const { revision } = step;
      await patchRows(caller, 'changes', { revision }, { undone: kind === 'undo' }, change.transaction);
      return step.label;
    },
    { kind, undoable: false },
  );
}

/** Puts a diff into effect, in the order in which collections refer to each other. */
async function applyDiff(change: Change, diff: Diff): Promise<void> {
  for (const source of diff.came ?? []) await bringBack(change, source);
  await applyRows(change, diff);
  for (const source of diff.went ?? []) await setAside(change, source);
}

async function applyRows(change: Change, diff: Diff): Promise<void> {
  for (const name of [...collectionNames].reverse()) {
    const removed = diff[name]?.removed ?? [];
    await change.remove(name, await removable(change, name, removed));
  }
  for (const name of collectionNames) {
    const { inserted = [], changed = [] } = diff[name] ?? {};
    await change.insertRows(name, await insertable(change, name, inserted));
    for (const list of byFields(changed))
      await change.updateRows(
        name,
        list.map(({ key, after }) => ({ ...key, ...after })),
        Object.keys(list[0]?.after ?? {}),
      );
  }
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
  const there = await change.find('keywords', {
    columns: ['id'],
    where: { id: rows.map(({ keyword_id }) => keyword_id as number) },
  });
  const ids = new Set(there.map(({ id }) => id));
  return rows.filter(({ keyword_id }) => ids.has(keyword_id as number));
}

/** Somebody else may have worked on the same rows since: then say so instead of writing over it. */
async function refuseIfChangedSince(change: Change, diff: Diff, { label, revision }: Step): Promise<void> {
  let differing = 0;
  for (const source of diff.went ?? []) differing += await changedSince(change, source, revision);
  for (const name of collectionNames) {
    const { removed = [], changed = [] } = diff[name] ?? {};
    const expected = [
      ...removed.map((row) => ({ row, fields: row })),
      ...changed.map(({ key, before }) => ({ row: key, fields: before })),
    ];
    differing += await countDiffering(change, name, expected);
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
  const { key } = collectionOf(name);
  const shape = collectionOf(name).columns.filter((column) => key.includes(column.name));
  const scope = scopeOf(name) === 'plan_id' ? '$1' : '(select workspace_id from plans where id = $1)';
  const current = await change.rows<{ row: Row }>(
    `select to_jsonb(t) as row from ${name} t
     join jsonb_to_recordset($2::jsonb) as r(${shapeOf(shape)})
       on ${key.map((column) => `t.${column} = r.${column}`).join(' and ')} where t.${scopeOf(name)} = ${scope}`,
    [
      JSON.stringify(
        keysOf(
          name,
          expected.map(({ row }) => row),
        ),
      ),
    ],
  );
  const nameOf = (row: Row) => key.map((column) => row[column]).join(':');
  const byKey = new Map(current.map(({ row }) => [nameOf(row), row]));
  return expected.filter(({ row, fields }) => {
    const now = byKey.get(nameOf(row));
    return !now || Object.entries(fields).some(([field, value]) => !sameValue(now[field], value));
  }).length;
}

/** Times come back from the log as text in another form than the database prints. */
const sameValue = (now: unknown, then: unknown): boolean =>
  isDeepStrictEqual(now ?? null, then ?? null) ||
  (typeof now === 'string' &&
    typeof then === 'string' &&
    /^\d{4}-\d\d-\d\dT/.test(now) &&
    Date.parse(now) === Date.parse(then));
