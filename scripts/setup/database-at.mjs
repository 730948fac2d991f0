import { resolve } from 'node:path';
import { demoRunningFrom } from './claim.mjs';
import { programs, runningPostgres, startPostgres } from './postgres.mjs';
import { SetupFailure } from './stop-with.mjs';

/**
 * The database of `DATABASE_URL`, or that of the data folder, started for as long as `work` takes where it does not run.
 * `isAlone`: nobody else may use it meanwhile.
 */
export async function withDatabase(folder, { isAlone = false }, work) {
  const url = process.env.DATABASE_URL;
  if (url) return work({ url, bin: programs() });
  const place = resolve(folder);
  const demo = demoRunningFrom(place);
  if (demo && isAlone)
    throw new SetupFailure(`Green Sprig runs from ${place} (process ${demo}). Stop it first.`);
  const running = runningPostgres(place);
  if (running) return work(running);
  const started = await startPostgres(place);
  try {
    return await work(started);
  } finally {
    started.stop();
  }
}
