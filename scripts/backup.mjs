import { join, resolve } from 'node:path';
import { writeCopy } from './setup/copies.mjs';
import { withDatabase } from './setup/database-at.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { root } from './setup/root.mjs';
import { main, SetupFailure } from './setup/stop-with.mjs';

/** Copies all plans into one file, also while Green Sprig runs: `npm run backup FILE`. */
await main(async () => {
  const [file] = process.argv.slice(2);
  if (!file) throw new SetupFailure('Say where the copy goes: npm run backup FILE');
  ensurePackages();
  const target = resolve(process.env.INIT_CWD ?? '.', file);
  const folder = process.env.SPRIG_DATA_DIR ?? join(root, '.data');
  await withDatabase(folder, {}, ({ url, bin }) => {
    const size = writeCopy(bin, url, target);
    console.log(`${target} is written: ${(size / 1_000_000).toFixed(1)} MB. npm run restore takes it back.`);
  });
});
