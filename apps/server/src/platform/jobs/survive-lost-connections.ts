import { isConnectionLost } from '../failure.ts';
import { log } from '../log.ts';

/**
 * The queue lets some of its own statements go unwatched; one that fails because the database went away is no reason for
 * the process to die: what it did not say is found and done again. Anything else that nobody waits for ends it, as always.
 */
export function surviveLostConnections(): void {
  process.on('unhandledRejection', (error) => {
    if (!isConnectionLost(error)) throw error;
    log.warn({ error }, 'a statement was lost with its connection');
  });
}
