import { isDeepStrictEqual } from 'node:util';
import { type ChangeDetails, HISTORY_PAGE, type HistoryEntry } from '@sprig/contracts';
import { select } from '../../db/connect.ts';
import { findOne } from '../../db/rows.ts';
import { collectionsIn, sizesOf, unfolded, unpackDiff } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';

type Which = { before?: number | undefined; by?: number | undefined };

/** A page of what was done to a plan, newest first, of all or of one; and all who did something. */
export async function history(caller: PlanCaller, { before, by }: Which) {
  const { database, plan, workspace } = caller;
  const changes = await select<HistoryEntry>(
    database,
    `select c.revision, c.label, c.kind, a.name as actor, c.actor_id as by, c.at, c.undone,
       c.undoable and c.kind = 'edit' and not c.undone as undoable
     from changes c join actors a on a.id = c.actor_id
     where c.plan_id = $1 and c.workspace_id = $2 and ($3::int is null or c.revision < $3) and ($4::int is null or c.actor_id = $4)
     order by c.revision desc limit ${HISTORY_PAGE}`,
    [plan, workspace, before ?? null, by ?? null],
  );
  const people = await select<{ by: number; actor: string }>(
    database,
    `select a.id as by, a.name as actor from actors a where a.workspace_id = $2
       and exists (select from changes c where c.plan_id = $1 and c.actor_id = a.id) order by lower(a.name), a.id`,
    [plan, workspace],
  );
  return { changes, people };
}

const SAMPLES = 50;
const LONGEST = 300;

/** What one change did, by its log. */
export async function changeDetails(caller: PlanCaller, revision: number): Promise<ChangeDetails> {
  const logged = await findOne(caller, 'changes', { columns: ['diff'], where: { revision } });
  if (!logged) throw notFound('change');
  const diff = unpackDiff(logged.diff);
  const { came = [], went = [] } = diff;
  const tables = collectionsIn(diff);
  const parts = tables.map(([table, part]) => ({ table, ...sizesOf(part) }));
  const samples: ChangeDetails['samples'] = [];
  for (const [table, part] of tables) {
    const { inserted, removed, changed } = unfolded(part, SAMPLES);
    for (const { key, before, after } of changed.slice(0, SAMPLES))
      samples.push({ table, row: rowText(key), fields: fieldsOf(before, after), how: 'changed' });
    for (const row of inserted.slice(0, SAMPLES))
      samples.push({ table, row: rowText(row), fields: null, how: 'inserted' });
    for (const row of removed.slice(0, SAMPLES))
      samples.push({ table, row: rowText(row), fields: null, how: 'removed' });
  }
  return {
    came: await sourceNames(caller, came),
    went: await sourceNames(caller, went),
    parts,
    samples: samples.slice(0, SAMPLES),
  };
}

/** Of sources that are gone for good the number is all that is left. */
async function sourceNames({ database, plan }: PlanCaller, ids: readonly number[]): Promise<string[]> {
  if (ids.length === 0) return [];
  const rows = await select<{ id: number; name: string }>(
    database,
    'select id, name from sources where plan_id = $1 and id = any($2::int[])',
    [plan, ids],
  );
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  return ids.map((id) => names.get(id) ?? `source ${id}`);
}

const cut = (text: string): string => (text.length > LONGEST ? `${text.slice(0, LONGEST)} …` : text);

/** A value as it is read: text as it is, all else as JSON. */
const valueText = (value: unknown): string => {
  if (value === null || value === undefined) return '–';
  return cut(typeof value === 'string' ? value : JSON.stringify(value));
};

/** What a row is called: by its text or name, else by what it says. */
function rowText(row: Record<string, unknown>): string {
  const { text, name, body } = row;
  const own = text ?? name ?? (body as { name?: unknown } | null | undefined)?.name;
  if (typeof own === 'string') return cut(own);
  return cut(
    Object.entries(row)
      .map(([field, value]) => `${field} ${valueText(value)}`)
      .join(', '),
  );
}

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** The fields that differ; of a document those of its own. */
function fieldsOf(before: Record<string, unknown>, after: Record<string, unknown>) {
  return Object.keys(after).flatMap((field): { field: string; before: string; after: string }[] => {
    const [old, now] = [before[field], after[field]];
    if (isDeepStrictEqual(old, now)) return [];
    if (isObject(old) && isObject(now))
      return [...new Set([...Object.keys(old), ...Object.keys(now)])].flatMap((inner) =>
        isDeepStrictEqual(old[inner], now[inner])
          ? []
          : [{ field: inner, before: valueText(old[inner]), after: valueText(now[inner]) }],
      );
    return [{ field, before: valueText(old), after: valueText(now) }];
  });
}
