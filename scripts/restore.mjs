import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { nameOfCopy, readCopy, writeCopy } from './setup/copies.mjs';
import { withDatabase } from './setup/database-at.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { root } from './setup/root.mjs';
import { main, SetupFailure } from './setup/stop-with.mjs';

/** Puts a copy in the place of all plans there are, which are copied first: `npm run restore FILE`. */
await main(async () => {
  const [file] = process.argv.slice(2);
  if (!file) throw new SetupFailure('Say which copy to take back: npm run restore FILE');
  const source = resolve(process.env.INIT_CWD ?? '.', file);
  if (!existsSync(source)) throw new SetupFailure(`There is no file ${source}.`);
  ensurePackages();
  const folder = resolve(process.env.SPRIG_DATA_DIR ?? join(root, '.data'));
  await withDatabase(folder, { isAlone: true }, async ({ url, bin }) => {
    await assertAlone(url);
    const before = nameOfCopy(folder, 'before-restore');
    writeCopy(bin, url, before);
    readCopy(bin, url, source, folder);
    console.log(`${source} is taken back. What was there before is in ${before}.`);
  });
});

/** A server that goes on would write what it remembers over what comes back. */
async function assertAlone(url) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query(
    `select count(*)::int as others from pg_stat_activity where datname = current_database() and application_name like 'sprig%'`,
  );
  await client.end();
  if (rows[0].others > 0)
    throw new SetupFailure('A server of Green Sprig uses this database. Stop it first.');
}
