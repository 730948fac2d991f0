import type { Model, ModelStatic, Order, Transaction, UpsertOptions, WhereOptions } from 'sequelize';
import type { Caller, PlanCaller } from '../platform/caller.ts';
import { modelOf } from './models.ts';
import { type InputName, type TableName, type TableRow, tableOf } from './tables/index.ts';

type ColumnOf<N extends TableName> = keyof TableRow<N> & string;

/** What tells rows: values of columns, or lists of them. */
type Which<N extends TableName> = {
  [Name in ColumnOf<N>]?: TableRow<N>[Name] | readonly TableRow<N>[Name][];
};

/** Whose rows a caller has to do with. */
const placeOf = (caller: Caller | PlanCaller, name: TableName): Record<string, number> => {
  const { scope } = tableOf(name);
  if (scope === 'workspace') return { workspace_id: caller.workspace };
  if (scope === 'plan' && 'plan' in caller) return { plan_id: caller.plan, workspace_id: caller.workspace };
  throw new Error(`Rows of ${name} are for a plan, or go with the row that they hang on.`);
};

export type Find<N extends TableName, C extends ColumnOf<N>> = {
  columns: readonly C[];
  /** A list finds rows that have one of its values. */
  where?: Which<N>;
  order?: readonly ColumnOf<N>[];
  limit?: number;
  /** Nobody else changes the rows before the transaction ends. */
  lock?: boolean;
};

/** The model of a table, of which one sees the caller's rows alone: those of the plan, or of the workspace. */
const scoped = (caller: Caller | PlanCaller, name: TableName): ModelStatic<Model> =>
  modelOf(caller.database, name).scope({ method: ['of', placeOf(caller, name)] });

/** A caller's rows of a table: those of the plan, or of the workspace that shares them. */
export async function find<N extends TableName, C extends ColumnOf<N>>(
  caller: Caller | PlanCaller,
  name: N,
  { columns, where = {}, order = [], limit, lock = false }: Find<N, C>,
  transaction: Transaction | null = null,
): Promise<Pick<TableRow<N>, C>[]> {
  const rows: unknown = await scoped(caller, name).findAll({
    attributes: [...columns],
    where: where as WhereOptions,
    order: [...order] as Order,
    transaction,
    lock,
    raw: true,
    ...(limit === undefined ? {} : { limit }),
  });
  return rows as Pick<TableRow<N>, C>[];
}

/** The first of them, or null. */
export async function findOne<N extends TableName, C extends ColumnOf<N>>(
  caller: Caller | PlanCaller,
  name: N,
  options: Find<N, C>,
  transaction: Transaction | null = null,
): Promise<Pick<TableRow<N>, C> | null> {
  return (await find(caller, name, { ...options, limit: 1 }, transaction))[0] ?? null;
}

/** Puts a row in, or in the place of the one that has its key. Not for inputs of a plan: those go through a change. */
export async function keepRow<N extends Exclude<TableName, InputName>>(
  caller: Caller | PlanCaller,
  name: N,
  row: Partial<TableRow<N>>,
  transaction: Transaction | null = null,
): Promise<void> {
  const { identity, scope, key } = tableOf(name);
  const place = placeOf(caller, name);
  const holder = scope === 'plan' ? 'plan_id' : 'workspace_id';
  const fields = Object.keys(row).filter((column) => !key.includes(column));
  await modelOf(caller.database, name).upsert({ ...place, ...row }, {
    conflictFields: identity === 'own' ? [...key] : [holder, ...key],
    fields,
    transaction,
    returning: false,
  } as UpsertOptions);
}

/** Changes fields of the caller's rows, and answers how many there were. Not for inputs of a plan. */
export async function patchRows<N extends Exclude<TableName, InputName>>(
  caller: Caller | PlanCaller,
  name: N,
  where: Which<N>,
  patch: Partial<TableRow<N>>,
  transaction: Transaction | null = null,
): Promise<number> {
  const [count] = await scoped(caller, name).update(patch, { where: where as WhereOptions, transaction });
  return count;
}

/** Removes the caller's rows. Not for inputs of a plan. */
export const removeRows = <N extends Exclude<TableName, InputName>>(
  caller: Caller | PlanCaller,
  name: N,
  where: Which<N>,
  transaction: Transaction | null = null,
): Promise<number> => scoped(caller, name).destroy({ where: where as WhereOptions, transaction });
