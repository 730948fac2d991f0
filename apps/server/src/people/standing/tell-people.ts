import type { Sequelize, Transaction } from 'sequelize';
import { execute } from '../../db/connect.ts';

/** On which servers hear that somebody may do more or less than before. */
export const PEOPLE_CHANNEL = 'sprig_people';

/** Tells every server that these may do something else now, or are signed out somewhere: their streams are opened anew. */
export async function tellOfActors(
  database: Sequelize,
  transaction: Transaction | null,
  actors: readonly number[],
): Promise<void> {
  if (actors.length > 0)
    await execute(database, 'select pg_notify($1, $2)', [PEOPLE_CHANNEL, JSON.stringify(actors)], {
      transaction,
    });
}

/** The same of all that somebody is, in every workspace. */
export async function tellOfPerson(
  database: Sequelize,
  transaction: Transaction | null,
  person: number,
): Promise<void> {
  await execute(
    database,
    `select pg_notify($1, jsonb_agg(id)::text) from actors where person_id = $2 having count(*) > 0`,
    [PEOPLE_CHANNEL, person],
    { transaction },
  );
}
