import type { PlanEvent } from '@sprig/contracts';
import type { Sequelize, Transaction } from 'sequelize';
import { execute } from '../../db/connect.ts';

export const CHANNEL = 'sprig_events';

/** Tells every server's open windows; inside a transaction only once it is committed. */
export async function notify(
  database: Sequelize,
  transaction: Transaction | null,
  event: PlanEvent,
): Promise<void> {
  await execute(database, 'select pg_notify($1, $2)', [CHANNEL, JSON.stringify(event)], { transaction });
}
