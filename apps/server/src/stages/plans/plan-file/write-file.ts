import { Zip, ZipDeflate } from 'fflate';
import { Transaction } from 'sequelize';
import { execute, select } from '../../../db/connect.ts';
import type { Column } from '../../../db/tables/index.ts';
import type { PlanCaller } from '../../../platform/caller.ts';
import { ZIP_TIME } from '../../../platform/zip-files.ts';
import { csvLine } from './cells.ts';
import { type FileTable, FORMAT, fileTables, type Head, pathOf, VERSION } from './tables.ts';

/** So many rows are read at once. */
const AT_ONCE = 5_000;

/** The numbers that shared lists have in the file. */
type Numbers = { lists: ReadonlyMap<number, number>; words: ReadonlyMap<number, number> };
type Row = Record<string, unknown>;

/** Writes a plan with all that people decided, what it uses of its workspace, and its receipts, as one zip. */
export async function writePlanFile(
  { database, plan, workspace }: PlanCaller,
  out: (chunk: Uint8Array) => Promise<void>,
): Promise<void> {
  await database.transaction(
    { isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ },
    async (transaction) => {
      await execute(database, 'set transaction read only', [], { transaction });
      const rows = <T extends object>(sql: string, bind: unknown[] = [plan]) =>
        select<T>(database, sql, bind, { transaction });
      const ready: Uint8Array[] = [];
      const zip = new Zip((error, chunk) => {
        if (error) throw error;
        ready.push(chunk);
      });
      const flush = async () => {
        for (const chunk of ready.splice(0)) await out(chunk);
      };
      const encoder = new TextEncoder();
      const entry = async (name: string, texts: AsyncIterable<string>) => {
        const file = new ZipDeflate(name, { level: 6 });
        file.mtime = ZIP_TIME;
        zip.add(file);
        for await (const text of texts) {
          file.push(encoder.encode(text), false);
          await flush();
        }
        file.push(new Uint8Array(), true);
        await flush();
      };
      const numbers = await numbersOf(rows, plan);
      const head = await headOf(rows, plan, workspace);
      await entry('plan.json', one(`${JSON.stringify(head, null, 1)}\n`));
      for (const table of fileTables) {
        if (head.rows[table.name] === 0) continue;
        await execute(
          database,
          `declare plan_file no scroll cursor for ${queryOf(table, plan, workspace)}`,
          [],
          {
            transaction,
          },
        );
        await entry(
          pathOf(table),
          csvOf(table, numbers, () => rows<{ row: unknown[] }>(`fetch ${AT_ONCE} from plan_file`, [])),
        );
        await execute(database, 'close plan_file', [], { transaction });
      }
      zip.end();
      await flush();
    },
  );
}

async function* one(text: string): AsyncGenerator<string> {
  yield text;
}

async function* csvOf(
  { name, columns }: FileTable,
  numbers: Numbers,
  next: () => Promise<{ row: unknown[] }[]>,
): AsyncGenerator<string> {
  yield csvLine(columns.map((column) => column.name));
  for (;;) {
    const page = await next();
    if (page.length === 0) return;
    yield page
      .map(({ row }) => {
        const fields: Row = Object.fromEntries(columns.map((column, at) => [column.name, row[at]]));
        renumber(name, fields, numbers);
        return csvLine(columns.map((column) => fields[column.name]));
      })
      .join('');
  }
}

type Rows = <T extends object>(sql: string) => Promise<T[]>;

/** Shared lists that the plan uses are numbered by their names. */
async function numbersOf(rows: Rows, plan: number): Promise<Numbers> {
  const numbered = async (name: 'shared_lists' | 'word_lists') => {
    const used = await rows<{ id: number }>(
      `select t.id from ${name} t join plans p on p.id = $1 and p.workspace_id = t.workspace_id
       where ${usedBy(name, plan)} order by lower(t.name), t.id`,
    );
    return new Map(used.map(({ id }, at) => [id, at + 1]));
  };
  return { lists: await numbered('shared_lists'), words: await numbered('word_lists') };
}

/** Numbers of shared lists as the file has them, wherever a row speaks of one. */
function renumber(table: string, row: Row, { lists, words }: Numbers): void {
  const word = (id: unknown) => words.get(Number(id)) ?? 0;
  if (table === 'shared_lists') row.id = lists.get(Number(row.id));
  if (table === 'shared_negatives' || table === 'attached_lists')
    row.list_id = lists.get(Number(row.list_id));
  if (table === 'word_lists')
    Object.assign(row, { id: word(row.id), takes: (row.takes as number[]).map(word) });
  if (table === 'recipes') row.body = JSON.stringify(withLists(JSON.parse(String(row.body)), word));
}

/** A recipe whose shared lists have other numbers. */
export function withLists(body: unknown, numberOf: (id: number) => number): unknown {
  const recipe = body as { lists: { kind: string; list?: number; takes?: number[] }[] };
  const lists = recipe.lists.map((list) => {
    if (list.kind === 'shared') return { ...list, list: numberOf(list.list ?? 0) };
    return list.takes ? { ...list, takes: list.takes.map(numberOf) } : list;
  });
  return { ...recipe, lists };
}

async function headOf(rows: Rows, plan: number, workspace: number): Promise<Head> {
  const [{ next_id: nextId } = { next_id: 1 }] = await rows<{ next_id: number }>(
    'select next_id from plans where id = $1',
  );
  const counts: Record<string, number> = {};
  for (const table of fileTables) {
    const [found] = await rows<{ count: number }>(
      `select count(*)::int as count ${sourceOf(table, plan, workspace)} and $1 > 0`,
    );
    counts[table.name] = found?.count ?? 0;
  }
  return { format: FORMAT, version: VERSION, nextId, rows: counts };
}

function value({ name, type }: Column): string {
  if (type === 'bytea') return `replace(encode(t.${name}, 'base64'), E'\\n', '')`;
  // As text, so that a null within JSON is not taken for no value.
  return type === 'jsonb' ? `t.${name}::text` : `t.${name}`;
}

/** Where a table's rows of the plan come from. Plan and workspace are numbers of ours. */
function sourceOf({ name, folder, columns }: FileTable, plan: number, workspace: number): string {
  if (folder === 'shared')
    return `from ${name} t where t.workspace_id = ${Number(workspace)} and ${usedBy(name, Number(plan))}`;
  const own = `plan_id = ${Number(plan)}`;
  if (!columns.some((column) => column.name === 'set')) return `from ${name} t where t.${own}`;
  const sets = `(select id, row_number() over (order by outlet, n)::int as set from sheet_sets where ${own})`;
  return `from ${name} t join ${sets} s on s.id = t.${name === 'sheet_sets' ? 'id' : 'set_id'} where true`;
}

/** A table's rows of the plan, each as one list of values. */
function queryOf(table: FileTable, plan: number, workspace: number): string {
  const list = table.columns.map((column) => (column.name === 'set' ? 's.set' : value(column)));
  const order = table.order.split(', ').map((column) => (column === 'set' ? 's.set' : `t.${column}`));
  const by = orderOfShared(table.name, order.join(', '));
  return `select json_build_array(${list.join(', ')}) as row ${sourceOf(table, plan, workspace)} order by ${by}`;
}

/** What of a shared table the plan uses. */
function usedBy(name: string, plan: number): string {
  if (name === 'shared_lists') return `t.id in (select list_id from attached_lists where plan_id = ${plan})`;
  if (name === 'shared_negatives')
    return `t.list_id in (select list_id from attached_lists where plan_id = ${plan})`;
  if (name === 'outlets') return `t.key in (select outlet from plan_outlets where plan_id = ${plan})`;
  return `t.id in (with recursive used as (
      select (list->>'list')::int as id from recipes r, jsonb_array_elements(r.body->'lists') list
        where r.plan_id = ${plan} and list->>'kind' = 'shared'
      union select taken::int from recipes r, jsonb_array_elements(r.body->'lists') list,
          jsonb_array_elements_text(coalesce(list->'takes', '[]')) taken where r.plan_id = ${plan}
      union select unnest(w.takes) from used u join word_lists w on w.id = u.id and w.workspace_id = t.workspace_id)
    select id from used)`;
}

function orderOfShared(name: string, by: string): string {
  if (name === 'shared_lists' || name === 'word_lists') return 'lower(t.name), t.id';
  if (name === 'shared_negatives')
    return '(select lower(l.name) from shared_lists l where l.workspace_id = t.workspace_id and l.id = t.list_id), t.list_id, t.match_type, t.norm';
  return by;
}
