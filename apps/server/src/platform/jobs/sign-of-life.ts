import { randomInt } from 'node:crypto';
import { LastingConnection } from '../../db/lasting-connection.ts';
import { locks } from '../../db/locks.ts';

const AGAIN_MS = 250;

/**
 * A lock of the database that a runner holds as long as it lives, under a number of its own. Where the connection is lost
 * it is opened again, as often as it takes: the number stays.
 */
export async function signOfLife(url: string): Promise<{ number: number; end: () => Promise<void> }> {
  const number = randomInt(1, 2 ** 31 - 1);
  const connection = new LastingConnection(url, {
    name: 'a runner',
    againMs: AGAIN_MS,
    begin: (client) => client.query('select pg_advisory_lock($1, $2)', [locks.runner, number]),
  });
  await connection.open();
  return { number, end: () => connection.end() };
}
