import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { takeTurn } from './one-at-a-time.mjs';
import { root } from './root.mjs';
import { SetupFailure } from './stop-with.mjs';

/** Installs the npm packages by `npm ci`, unless those of this lock file are there already. */
export function ensurePackages() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new SetupFailure(
      `Node ${process.versions.node} is too old. Green Sprig needs Node 20.19 or later.`,
    );
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const mark = join(root, 'node_modules', '.sprig-lock');
  const isThere = () => existsSync(mark) && readFileSync(mark, 'utf8') === lock;
  if (isThere()) return;
  const done = takeTurn('packages');
  try {
    if (!isThere()) install(mark, lock);
  } finally {
    done();
  }
}

function install(mark, lock) {
  console.log('Installing npm packages …');
  const run = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: 'inherit',
  });
  if (run.status !== 0)
    throw new SetupFailure(
      'npm could not install the packages. Check the connection and the free disk space, then run this again.',
    );
  writeFileSync(mark, lock);
}
