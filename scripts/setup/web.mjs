import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './root.mjs';
import { SetupFailure } from './stop-with.mjs';

const SOURCES = [
  'apps/web',
  'packages/core/src',
  'packages/contracts/src',
  'packages/market/src',
  'package-lock.json',
];

/** Names and contents of everything that the web application is built from. */
function fingerprint() {
  const hash = createHash('sha256');
  const add = (path) => {
    for (const entry of readdirSync(join(root, path), { withFileTypes: true }).sort((a, b) =>
      a.name < b.name ? -1 : 1,
    )) {
      const inner = `${path}/${entry.name}`;
      if (entry.name === 'dist' || entry.name === 'node_modules' || entry.name.endsWith('.test.ts')) continue;
      if (entry.isDirectory()) add(inner);
      else hash.update(inner).update(readFileSync(join(root, inner)));
    }
  };
  for (const source of SOURCES) {
    if (source.includes('.json')) hash.update(readFileSync(join(root, source)));
    else add(source);
  }
  return hash.digest('hex');
}

/** Builds the web application unless what is built is of these very sources. */
export function ensureWeb() {
  const mark = join(root, 'apps/web/dist/.sprig-built');
  const now = fingerprint();
  if (existsSync(mark) && readFileSync(mark, 'utf8') === now) return;
  console.log('Building the web application …');
  const built = spawnSync('npx', ['vite', 'build', '--logLevel', 'warn'], {
    cwd: join(root, 'apps/web'),
    stdio: 'inherit',
  });
  if (built.status !== 0) throw new SetupFailure('The web application could not be built.');
  writeFileSync(mark, now);
}
