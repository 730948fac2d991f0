import type { Sequelize, Transaction } from 'sequelize';
import type { PlanCaller } from '../caller.ts';
import { execute, select } from '../database/connect.ts';
import { copyInto, copyLine } from '../database/copy.ts';
import { type CollectionName, collectionOf, sqlType } from './collections.ts';
import type { CollectionDiff, Diff, Row } from './diff.ts';

/** Above this many rows COPY is faster than one statement. */
const COPY_FROM = 400;

/**
 * The one way to write a plan's inputs. Every method writes at once, on the change's transaction, and adds what it
 * did to the diff that the history keeps.
 */
export class Change {
  readonly diff: Diff = {};
  readonly database: Sequelize;

  constructor(
    readonly caller: PlanCaller,
    readonly transaction: Transaction,
    readonly revision: number,
    private nextId: number,
  ) {
    this.database = caller.database;
  }

  /** The first of `count` new ids of this plan, never given twice. */
  takeIds(count: number): number {
    const first = this.nextId;
    this.nextId += count;
    return first;
  }

  get idsTaken(): number {
    return this.nextId;
  }

  /** Rows of an input table of this plan, in the order of `orderBy`. */
  async rows<T extends object>(sql: string, bind: unknown[] = []): Promise<T[]> {
    return select<T>(this.database, sql, [this.caller.plan, ...bind], { transaction: this.transaction });
  }

  async insert(name: CollectionName, rows: readonly Row[]): Promise<void> {
    if (rows.length === 0) return;
    const columns = [...collectionOf(name).columns];
    const scope = ['plan_id', 'workspace_id', ...(name === 'keywords' ? ['changed_revision'] : [])];
    const values = [this.caller.plan, this.caller.workspace, ...(name === 'keywords' ? [this.revision] : [])];
    if (rows.length >= COPY_FROM) {
      const prefix = `${values.join('\t')}\t`;
      const lines = function* () {
        for (const row of rows)
          yield prefix +
            copyLine(
              columns,
              columns.map((column) => row[column.name]),
            );
      };
      await copyInto(this.transaction, name, [...scope, ...columns.map((column) => column.name)], lines());
    } else {
      const names = columns.map((column) => column.name).join(', ');
      const shape = columns.map((column) => `${column.name} ${sqlType(column)}`).join(', ');
      const places = values.map((_, at) => `$${at + 2}::int`).join(', ');
      await this.run(
        `insert into ${name} (${scope.join(', ')}, ${names}) select ${places}, ${names} from jsonb_to_recordset($1::jsonb) as r(${shape})`,
        [JSON.stringify(rows), ...values],
      );
    }
    push(this.part(name).inserted, rows);
    if (name === 'mentions') await this.touchKeywords(rows.map((row) => row.keyword_id as number));
  }

  /** What a keyword's sources are is shown with it, so it counts as changed with them. */
  private async touchKeywords(ids: number[]) {
    await this.run(
      'update keywords set changed_revision = $2 where plan_id = $1 and id = any($3::int[]) and changed_revision <> $2',
      [this.caller.plan, this.revision, ids],
    );
  }

  /** Sets the same fields on many rows by id, and logs only those that it changes. */
  async update(name: CollectionName, ids: readonly number[], patch: Row): Promise<number> {
    return this.updateEach(
      name,
      ids.map((id) => ({ id, ...patch })),
      Object.keys(patch),
    );
  }

  /** Sets `fields` of each row, which carries its key and those fields. Answers how many rows differ. */
  async updateEach(name: CollectionName, rows: readonly Row[], fields: readonly string[]): Promise<number> {
    if (rows.length === 0) return 0;
    const { key, columns } = collectionOf(name);
    const used = columns.filter((column) => key.includes(column.name) || fields.includes(column.name));
    const shape = used.map((column) => `${column.name} ${sqlType(column)}`).join(', ');
    const same = key.map((column) => `t.${column} = r.${column}`).join(' and ');
    const list = JSON.stringify(
      rows.map((row) => Object.fromEntries(used.map(({ name: field }) => [field, row[field]]))),
    );
    const differs = `(${fields.map((field) => `t.${field}`).join(', ')}) is distinct from (${fields.map((field) => `r.${field}`).join(', ')})`;
    const before = await this.rows<Row>(
      `select ${key.map((column) => `t.${column}`).join(', ')},
         json_build_object(${fields.map((field) => `'${field}', t.${field}`).join(', ')}) as before,
         json_build_object(${fields.map((field) => `'${field}', r.${field}`).join(', ')}) as after
       from ${name} t join jsonb_to_recordset($2::jsonb) as r(${shape}) on ${same}
       where t.plan_id = $1 and ${differs} for update of t`,
      [list],
    );
    if (before.length === 0) return 0;
    const track = name === 'keywords' ? `, changed_revision = ${Number(this.revision)}` : '';
    await this.run(
      `update ${name} t set ${fields.map((field) => `${field} = r.${field}`).join(', ')}${track}
       from jsonb_to_recordset($2::jsonb) as r(${shape}) where t.plan_id = $1 and ${same} and ${differs}`,
      [this.caller.plan, list],
    );
    const { changed } = this.part(name);
    for (const row of before)
      changed.push({
        key: Object.fromEntries(key.map((column) => [column, row[column]])),
        before: row.before as Row,
        after: row.after as Row,
      });
    return before.length;
  }

  /** Removes rows by their keys, and keeps them whole in the diff. */
  async remove(name: CollectionName, keys: readonly Row[]): Promise<number> {
    if (keys.length === 0) return 0;
    const { key, columns } = collectionOf(name);
    const shape = key.map((column) => `${column} int`).join(', ');
    const same = key.map((column) => `t.${column} = r.${column}`).join(' and ');
    const removed = await this.rows<Row>(
      `with gone as (delete from ${name} t using jsonb_to_recordset($2::jsonb) as r(${shape})
         where t.plan_id = $1 and ${same} returning t.*)
       select to_jsonb(gone) as row from gone`,
      [JSON.stringify(keys)],
    );
    const names = columns.map((column) => column.name);
    push(
      this.part(name).removed,
      removed.map(({ row }) => Object.fromEntries(names.map((column) => [column, (row as Row)[column]]))),
    );
    if (name === 'mentions')
      await this.touchKeywords(removed.map(({ row }) => (row as Row).keyword_id as number));
    if (name === 'keywords' && removed.length > 0)
      await this.noteRemoved(removed.map(({ row }) => (row as Row).id as number));
    return removed.length;
  }

  private async noteRemoved(ids: number[]) {
    await this.run(
      `insert into removed_keywords (plan_id, revision, workspace_id, keyword_id) select $1, $2, $3, unnest($4::int[])`,
      [this.caller.plan, this.revision, this.caller.workspace, ids],
    );
  }

  private async run(sql: string, bind: unknown[]) {
    await execute(this.database, sql, bind, { transaction: this.transaction });
  }

  private part(name: CollectionName): CollectionDiff {
    const part = this.diff[name] ?? { inserted: [], removed: [], changed: [] };
    this.diff[name] = part;
    return part;
  }
}

function push<T>(list: T[], more: readonly T[]) {
  for (const item of more) list.push(item);
}
