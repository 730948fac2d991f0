import type { Sequelize, Transaction } from 'sequelize';
import { countOf, execute, ints, select } from '../../db/connect.ts';
import { copyInto, copyLine } from '../../db/copy.ts';
import { locks } from '../../db/locks.ts';
import { type Find, find, findOne } from '../../db/rows.ts';
import { namesOf, shapeOf, type TableName, type TableRow } from '../../db/tables/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';
import { type CollectionName, collectionOf, type InputRow, scopeOf } from './collections.ts';
import {
  type AlikeChanges,
  type AlikeRows,
  type CollectionDiff,
  changesOf,
  type Diff,
  type Row,
  type RowChange,
  rowsOf,
} from './diff.ts';
import type { SharedNote } from './shared-note.ts';

/** Above this many rows COPY is faster than one statement. */
const COPY_FROM = 400;
/** Up to so many are looked up one by one. */
const MANY = 1_000;
/** From so many on, rows that are alike are worth a statement, and a line of the log, of their own. */
const ALIKE_FROM = 200;

/** The collections of which there are so many rows that what is alike in them is set and logged at once. */
export type Plentiful = 'keywords' | 'mentions';

/** What is read, and kept for a moment, within one transaction of a plan. */
export class Scratch {
  readonly database: Sequelize;

  constructor(
    readonly caller: PlanCaller,
    readonly transaction: Transaction,
  ) {
    this.database = caller.database;
  }

  /** Rows of an input table of this plan, in the order of `orderBy`. */
  async rows<T extends object>(sql: string, bind: unknown[] = []): Promise<T[]> {
    return this.read<T>(sql, [this.caller.plan, ...bind]);
  }

  /** The plan's rows of a table, or the workspace's where they are shared. */
  find<N extends TableName, C extends keyof TableRow<N> & string>(name: N, options: Find<N, C>) {
    return find(this.caller, name, options, this.transaction);
  }

  /** The first of them, or null. */
  findOne<N extends TableName, C extends keyof TableRow<N> & string>(name: N, options: Find<N, C>) {
    return findOne(this.caller, name, options, this.transaction);
  }

  protected read<T extends object>(sql: string, bind: unknown[]): Promise<T[]> {
    return select<T>(this.database, sql, bind, { transaction: this.transaction });
  }

  /** Writes that are not logged row by row, since they follow from what is; `$1` is the plan. */
  async derive(sql: string, bind: unknown[] = []): Promise<void> {
    await this.run(sql, sql.includes('$') ? [this.caller.plan, ...bind] : []);
  }

  /** A table that goes with the transaction; made empty where an earlier step of the same change had it. */
  async temporary(name: string, columns: string): Promise<void> {
    await this.run(`drop table if exists pg_temp.${name}`, []);
    await this.run(`create temporary table ${name} (${columns}) on commit drop`, []);
  }

  protected async run(sql: string, bind: unknown[]) {
    await execute(this.database, sql, bind, { transaction: this.transaction });
  }
}

/**
 * The one way to write a plan's inputs. Every method writes at once, on the change's transaction, and adds what it
 * did to the diff that the history keeps.
 */
export class Change extends Scratch {
  readonly diff: Diff = {};

  constructor(
    caller: PlanCaller,
    transaction: Transaction,
    readonly revision: number,
    private nextId: number,
  ) {
    super(caller, transaction);
  }

  /** The first of `count` new ids of this plan, never given twice. */
  takeIds(count: number): number {
    const first = this.nextId;
    this.nextId += count;
    return first;
  }

  /**
   * Before something that all plans of the workspace share is read to be changed: one such change at a time, so that none is
   * made on what another is about to change.
   */
  async lockShared(): Promise<void> {
    await this.run('select pg_advisory_xact_lock($1, $2)', [locks.shared, this.caller.workspace]);
  }

  /** Tells another plan, with this change or not at all, that something which it shares was changed. */
  async tell(plan: number, note: SharedNote): Promise<void> {
    await enqueue({ ...this.caller, plan }, this.transaction, 'follow', note);
  }

  /** New ids of rows that the workspace shares. */
  async takeSharedIds(count: number): Promise<number[]> {
    const rows = await this.rows<{ id: number }>(
      `select nextval('shared_ids')::int as id from generate_series(1, $2::int) where $1 > 0`,
      [count],
    );
    return rows.map(({ id }) => id);
  }

  /** A source's rows came in, or came back: they are logged by the source alone. */
  came(source: number): void {
    this.diff.came = [...(this.diff.came ?? []), source];
  }

  /** A source's rows were set aside. */
  went(source: number): void {
    this.diff.went = [...(this.diff.went ?? []), source];
  }

  get idsTaken(): number {
    return this.nextId;
  }

  /**
   * `derive` where as many as `rows` rows are held against as many others: at once and not one by one, whatever the
   * database expects of a plan that it has not looked at since they came.
   */
  async deriveMany(rows: number, sql: string, bind: unknown[] = []): Promise<void> {
    const isMany = rows > MANY;
    if (isMany) await this.run('set local enable_nestloop = off', []);
    await this.derive(sql, bind);
    if (isMany) await this.run('set local enable_nestloop = on', []);
  }

  /** New rows, each with every column. */
  async insert<N extends CollectionName>(name: N, rows: readonly InputRow<N>[]): Promise<void> {
    await this.insertRows(name, rows as readonly Row[]);
  }

  /** `insert` of rows as the log keeps them. */
  async insertRows(name: CollectionName, rows: readonly Row[]): Promise<void> {
    if (rows.length === 0) return;
    const columns = [...collectionOf(name).columns];
    const [scope, values] = this.placeOf(name);
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
      const names = namesOf(columns);
      const shape = shapeOf(columns);
      const places = values.map((_, at) => `$${at + 2}::int`).join(', ');
      await this.run(
        `insert into ${name} (${scope.join(', ')}, ${names}) select ${places}, ${names} from jsonb_to_recordset($1::jsonb) as r(${shape})`,
        [JSON.stringify(rows), ...values],
      );
    }
    push(this.part(name).inserted, rows);
    if (name === 'mentions') await this.touchKeywords(rows.map((row) => row.keyword_id as number));
  }

  /** The columns that place a new row, with their values. */
  private placeOf(name: CollectionName): [string[], number[]] {
    const { plan, workspace } = this.caller;
    if (scopeOf(name) === 'workspace_id') return [['workspace_id'], [workspace]];
    if (name === 'keywords')
      return [
        ['plan_id', 'workspace_id', 'changed_revision'],
        [plan, workspace, this.revision],
      ];
    return [
      ['plan_id', 'workspace_id'],
      [plan, workspace],
    ];
  }

  private scopeIdOf(name: CollectionName): number {
    return scopeOf(name) === 'plan_id' ? this.caller.plan : this.caller.workspace;
  }

  /** What a keyword's sources are is shown with it, so it counts as changed with them. */
  private async touchKeywords(ids: readonly number[]) {
    await this.run(
      'update keywords set changed_revision = $2 where plan_id = $1 and id = any($3::int[]) and changed_revision <> $2',
      [this.caller.plan, this.revision, ints(ids)],
    );
  }

  /** Sets the same fields on many rows by id, and logs only those that it changes. */
  async update<N extends CollectionName>(
    name: N,
    ids: readonly number[],
    patch: Partial<InputRow<N>>,
  ): Promise<number> {
    return this.updateRows(
      name,
      ids.map((id) => ({ id, ...patch })),
      Object.keys(patch),
    );
  }

  /** Sets `fields` of each row, which carries its key and those fields. Answers how many rows differ. */
  async updateEach<N extends CollectionName, F extends keyof InputRow<N> & string>(
    name: N,
    rows: readonly (Partial<InputRow<N>> & Pick<InputRow<N>, F>)[],
    fields: readonly F[],
  ): Promise<number> {
    return this.updateRows(name, rows as readonly Row[], fields);
  }

  /** `updateEach` of rows as the log keeps them. */
  async updateRows(name: CollectionName, rows: readonly Row[], fields: readonly string[]): Promise<number> {
    if (rows.length === 0) return 0;
    const { key } = collectionOf(name);
    const update = rowsToSet(name, rows, fields);
    const before = await this.read<Row>(
      `select ${key.map((column) => `t.${column}`).join(', ')},
         json_build_object(${fields.map((field) => `'${field}', t.${field}`).join(', ')}) as before,
         json_build_object(${fields.map((field) => `'${field}', r.${field}`).join(', ')}) as after
       from ${name} t join ${update.table} on ${update.differ} for update of t`,
      [this.scopeIdOf(name), update.list],
    );
    if (before.length === 0) return 0;
    await this.setRows(update);
    const { changed } = this.part(name);
    for (const row of before)
      changed.push({
        key: Object.fromEntries(key.map((column) => [column, row[column]])),
        before: row.before as Row,
        after: row.after as Row,
      });
    return before.length;
  }

  /**
   * `updateEach` of rows of which it was read within this change what they say, and which differ: that is not read again.
   * The plan's lock keeps everybody else from them.
   */
  async updateKnown(name: CollectionName, rows: readonly RowChange[]): Promise<void> {
    const [first] = rows;
    if (!first) return;
    const after = rows.map((row) => ({ ...row.key, ...row.after }));
    await this.setRows(rowsToSet(name, after, Object.keys(first.after)));
    push(this.part(name).changed, rows);
  }

  private async setRows({ name, fields, table, list, differ }: RowsToSet) {
    const track = name === 'keywords' ? `, changed_revision = ${Number(this.revision)}` : '';
    await this.run(
      `update ${name} t set ${fields.map((field) => `${field} = r.${field}`).join(', ')}${track}
       from ${table} where ${differ}`,
      [this.scopeIdOf(name), list],
    );
  }

  /**
   * `insert` of rows that are alike but for one column: as many as are alike are one statement and one line of the log.
   * The rows tell every column but `by`.
   */
  async insertAlike(name: 'mentions', alike: readonly AlikeRows[]): Promise<void> {
    await this.insertRows(
      name,
      few(alike).flatMap((one) => rowsOf(one)),
    );
    for (const one of many(alike)) {
      const { by, values, row } = one;
      const rest = collectionOf(name).columns.filter((column) => column.name !== by);
      const [scope, scopeValues] = this.placeOf(name);
      const places = scopeValues.map((_, at) => `$${at + 3}::int`).join(', ');
      await this.runFor(
        values.length,
        `insert into ${name} (${scope.join(', ')}, ${by}, ${namesOf(rest)})
         select ${places}, v, r.* from unnest($1::int[]) v, json_to_record($2::json) as r(${shapeOf(rest)})`,
        [ints(values), JSON.stringify(row), ...scopeValues],
      );
      const part = this.part(name);
      part.insertedAlike = [...(part.insertedAlike ?? []), one];
      await this.touchKeywords(values);
    }
  }

  /**
   * `updateEach` of rows of which it was read within this change that they are alike, in what they say and in what is set;
   * each list is one statement and one line of the log.
   */
  async updateAlike(name: Plentiful, alike: readonly AlikeChanges[]): Promise<void> {
    await this.updateKnown(
      name,
      few(alike).flatMap((one) => changesOf(one)),
    );
    for (const one of many(alike)) {
      const set = Object.keys(one.after).map((field) => `${field} = r.${field}`);
      if (name === 'keywords') set.push(`changed_revision = ${Number(this.revision)}`);
      const { from, where, bind } = this.alikeIn(name, one, one.after);
      await this.runFor(
        one.values.length,
        `update ${name} t set ${set.join(', ')} from ${from} where ${where}`,
        bind,
      );
      this.part(name).changed.push(one);
    }
  }

  /** Removes rows of which it was read within this change that they are all alike but for one column. */
  async removeAlike(name: 'mentions', alike: readonly AlikeRows[]): Promise<void> {
    for (const one of alike) {
      const { from, where, bind } = this.alikeIn(name, one, this.keyOf(name, one));
      await this.runFor(one.values.length, `delete from ${name} t using ${from} where ${where}`, bind);
      const part = this.part(name);
      part.removedAlike = [...(part.removedAlike ?? []), one];
      await this.touchKeywords(one.values);
    }
  }

  /** How many rows that are told as alike say no longer what is expected of them, or are gone. */
  async countUnlike(name: Plentiful, alike: readonly (AlikeRows | AlikeChanges)[]): Promise<number> {
    let differing = 0;
    for (const one of alike)
      differing += one.values.length - (await this.countAs(name, one, 'row' in one ? one.row : one.before));
    return differing;
  }

  /** How many rows stand already under the keys of rows that are alike. */
  async countThere(name: 'mentions', alike: readonly AlikeRows[]): Promise<number> {
    let there = 0;
    for (const one of alike) there += await this.countAs(name, one, this.keyOf(name, one));
    return there;
  }

  /** How many of the rows that are told as alike say what `fields` say. */
  private async countAs(name: Plentiful, one: AlikeRows | AlikeChanges, fields: Row): Promise<number> {
    const { from, where, bind } = this.alikeIn(name, one, fields);
    const of = (table: string) => Object.keys(fields).map((field) => `${table}.${field}`);
    const [found] = await this.read<{ rows: number }>(
      `select count(*)::int as rows from ${name} t, ${from} where ${where} and (${of('t')}) is not distinct from (${of('r')})`,
      bind,
    );
    return found?.rows ?? 0;
  }

  private keyOf(name: Plentiful, one: AlikeRows | AlikeChanges): Row {
    if (!('row' in one)) return one.key;
    const { key } = collectionOf(name);
    return Object.fromEntries(
      key.flatMap((column) => (column === one.by ? [] : [[column, one.row[column]]])),
    );
  }

  /** The rows t that are told as alike, and r, the one record of `fields` and of what their keys have in common. */
  private alikeIn(name: Plentiful, one: AlikeRows | AlikeChanges, fields: Row) {
    const key = this.keyOf(name, one);
    const record = { ...fields, ...key };
    const shape = collectionOf(name).columns.filter((column) => column.name in record);
    const same = Object.keys(key).map((column) => ` and t.${column} = r.${column}`);
    return {
      from: `json_to_record($3::json) as r(${shapeOf(shape)})`,
      where: `t.${scopeOf(name)} = $1 and t.${one.by} = any($2::int[])${same.join('')}`,
      bind: [this.scopeIdOf(name), ints(one.values), JSON.stringify(record)],
    };
  }

  /** Runs a statement that has to do with as many rows as `rows`; else what the log says of them would not be so. */
  private async runFor(rows: number, sql: string, bind: unknown[]): Promise<void> {
    const done = await countOf(this.database, sql, bind, { transaction: this.transaction });
    if (done !== rows) throw new Error(`${done} rows of ${rows} were written: ${sql}`);
  }

  /** Removes rows by their keys, and keeps them whole in the diff. */
  async remove(name: CollectionName, keys: readonly Row[]): Promise<number> {
    if (keys.length === 0) return 0;
    const { key, columns } = collectionOf(name);
    const shape = key.map((column) => `${column} int`).join(', ');
    const same = key.map((column) => `t.${column} = r.${column}`).join(' and ');
    const removed = await this.read<Row>(
      `with gone as (delete from ${name} t using jsonb_to_recordset($2::jsonb) as r(${shape})
         where t.${scopeOf(name)} = $1 and ${same} returning t.*)
       select to_jsonb(gone) as row from gone`,
      [this.scopeIdOf(name), JSON.stringify(keys)],
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

  private part(name: CollectionName): CollectionDiff {
    const part = this.diff[name] ?? { inserted: [], removed: [], changed: [] };
    this.diff[name] = part;
    return part;
  }
}

/**
 * Rows whose `fields` are to be set, in the parts of a statement: `list`, its `$2`, is told as the `table` r, of which the
 * rows of t are taken that `differ`; `$1` is the plan or the workspace.
 */
type RowsToSet = {
  name: CollectionName;
  fields: readonly string[];
  list: string;
  table: string;
  differ: string;
};

function rowsToSet(name: CollectionName, rows: readonly Row[], fields: readonly string[]): RowsToSet {
  const { key, columns } = collectionOf(name);
  const used = columns.filter((column) => key.includes(column.name) || fields.includes(column.name));
  const same = key.map((column) => `t.${column} = r.${column}`).join(' and ');
  const of = (table: string) => `(${fields.map((field) => `${table}.${field}`).join(', ')})`;
  return {
    name,
    fields,
    list: JSON.stringify(
      rows.map((row) => Object.fromEntries(used.map(({ name: field }) => [field, row[field]]))),
    ),
    table: `json_to_recordset($2::json) as r(${shapeOf(used)})`,
    differ: `t.${scopeOf(name)} = $1 and ${same} and ${of('t')} is distinct from ${of('r')}`,
  };
}

const many = <T extends { values: readonly number[] }>(alike: readonly T[]): T[] =>
  alike.filter(({ values }) => values.length >= ALIKE_FROM);
const few = <T extends { values: readonly number[] }>(alike: readonly T[]): T[] =>
  alike.filter(({ values }) => values.length < ALIKE_FROM);

function push<T>(list: T[], more: readonly T[]) {
  for (const item of more) list.push(item);
}
