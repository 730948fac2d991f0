import type { Model, ModelStatic, Order, Transaction, WhereOptions } from 'sequelize';
import type { Caller, PlanCaller } from '../platform/caller.ts';
import { modelOf } from './models.ts';
import { type TableName, type TableRow, tableOf } from './tables/index.ts';

type ColumnOf<N extends TableName> = keyof TableRow<N> & string;

export type Find<N extends TableName, C extends ColumnOf<N>> = {
  columns: readonly C[];
  /** A list finds rows that have one of its values. */
  where?: { [Name in ColumnOf<N>]?: TableRow<N>[Name] | readonly TableRow<N>[Name][] };
  order?: readonly ColumnOf<N>[];
  limit?: number;
  /** Nobody else changes the rows before the transaction ends. */
  lock?: boolean;
};

/** The model of a table, of which one sees the caller's rows alone: those of the plan, or of the workspace. */
function scoped(caller: Caller | PlanCaller, name: TableName): ModelStatic<Model> {
  const { scope } = tableOf(name);
  const model = modelOf(caller.database, name);
  if (scope === 'workspace') return model.scope({ method: ['workspace', caller.workspace] });
  if (scope === 'plan' && 'plan' in caller)
    return model.scope({ method: ['plan', caller.plan, caller.workspace] });
  throw new Error(`Rows of ${name} are read for a plan, or with the row that they hang on.`);
}

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
