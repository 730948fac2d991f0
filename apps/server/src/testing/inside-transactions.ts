import { AsyncLocalStorage } from 'node:async_hooks';
import { Sequelize } from 'sequelize';

/** Whether what runs now was called within a transaction's work. */
const within = new AsyncLocalStorage<true>();
const WRITES = /^\s*(?:with\b[\s\S]*?\b)?(?:insert\s+into|update|delete\s+from)\s+(\w+)/i;
/** How far a job is, and its signs of life, are to be seen while its transaction is still open. */
const APART: ReadonlySet<string> = new Set(['jobs']);

/**
 * From here on a statement that writes within a transaction's work, but not on the transaction, fails: it would stay where
 * the work is undone.
 */
export function heedTransactions(): void {
  const { query, transaction } = Sequelize.prototype;
  Sequelize.prototype.query = function (this: Sequelize, sql: never, options: never) {
    const text = typeof sql === 'string' ? sql : ((sql as { query?: string }).query ?? '');
    const table = WRITES.exec(text)?.[1] ?? '';
    const isStray =
      within.getStore() && table !== '' && !(options as { transaction?: unknown } | undefined)?.transaction;
    if (isStray && !APART.has(table))
      throw new Error(`Written outside of the transaction around it: ${text.slice(0, 200)}`);
    return query.call(this, sql, options);
  } as never;
  Sequelize.prototype.transaction = function (this: Sequelize, ...args: unknown[]) {
    const work = args.at(-1);
    if (typeof work !== 'function') return transaction.apply(this, args as never);
    const inside = (open: unknown) => within.run(true, () => work(open));
    return transaction.apply(this, [...args.slice(0, -1), inside] as never);
  } as never;
}
