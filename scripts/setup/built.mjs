import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { takeTurn } from './one-at-a-time.mjs';
import { root } from './root.mjs';

/** Folders of sources that everything which is built is made of, and the packages' versions. */
export const SHARED_SOURCES = [
  'packages/core/src',
  'packages/contracts/src',
  'packages/market/src',
  'package-lock.json',
];

const isSource = (name) => name !== 'dist' && name !== 'node_modules' && !/\.test\.tsx?$/.test(name);

/** Names and contents of all that lies in the given files and folders, tests and what is built left out. */
function fingerprint(sources) {
  const hash = createHash('sha256');
  const add = (path) => {
    const at = join(root, path);
    if (!statSync(at).isDirectory()) return hash.update(path).update(readFileSync(at));
    for (const name of readdirSync(at).sort()) if (isSource(name)) add(`${path}/${name}`);
  };
  for (const source of sources) add(source);
  return hash.digest('hex');
}

/** Builds into `folder` unless what is there was built of these very sources. */
export async function ensureBuilt({ folder, sources, build }) {
  const mark = join(root, folder, '.sprig-built');
  const now = fingerprint(sources);
  const isThere = () => existsSync(mark) && readFileSync(mark, 'utf8') === now;
  if (isThere()) return;
  const done = takeTurn(folder.replaceAll('/', '-'));
  try {
    if (isThere()) return;
    await build();
    mkdirSync(dirname(mark), { recursive: true });
    writeFileSync(mark, now);
  } finally {
    done();
  }
}
