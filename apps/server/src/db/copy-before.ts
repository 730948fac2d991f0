import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';

/** So many copies are kept. */
const MOST = 5;

/** There is no copy, so what is kept is not changed. It says by itself what to do. */
export class NoCopy extends Error {}

/**
 * Copies a database into one file of `folder` before migrations change it, with pg_dump of `programs`; `npm run restore`
 * takes it back. `after`: the last migration that the copy knows. Answers the file.
 */
export async function copyBefore(
  url: string,
  folder: string,
  programs: string,
  after: string,
): Promise<string> {
  const file = join(
    folder,
    `before-upgrade-from-${after}-${new Date().toISOString().replace(/[:.]/g, '-')}.dump`,
  );
  try {
    await mkdir(folder, { recursive: true });
    await dump(url, programs, `${file}.part`);
    await rename(`${file}.part`, file);
  } catch (error) {
    await rm(`${file}.part`, { force: true }).catch(() => {});
    throw new NoCopy(
      `A new version has to change how your plans are kept, and the copy that is made before could not be written to ${folder}: ${(error as Error).message}. Nothing was changed. Make room there, or make a copy yourself with npm run backup and start with SPRIG_NO_COPY=1.`,
    );
  }
  const kept = (await readdir(folder)).filter((name) => name.startsWith('before-upgrade-')).sort(byTime);
  for (const name of kept.slice(0, -MOST)) await rm(join(folder, name));
  return file;
}

/** Names end with the time at which the copy was made. */
const timeOf = (name: string) => name.slice(-'2026-01-01T00-00-00-000Z.dump'.length);
const byTime = (a: string, b: string) => (timeOf(a) < timeOf(b) ? -1 : 1);

async function dump(url: string, programs: string, file: string): Promise<void> {
  // Everybody on the machine sees what a program is called with: its password goes another way.
  const address = new URL(url);
  const password = decodeURIComponent(address.password);
  address.password = '';
  const args = ['--format=custom', '--no-owner', '--no-privileges', address.href];
  const child = spawn(join(programs, 'pg_dump'), args, {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: password === '' ? process.env : { ...process.env, PGPASSWORD: password },
  });
  let words = '';
  child.stderr.on('data', (said) => {
    words += said;
  });
  const ended = once(child, 'close') as Promise<[number | null]>;
  await Promise.all([pipeline(child.stdout, createWriteStream(file, { mode: 0o600 })), ended]);
  const [status] = await ended;
  if (status !== 0) throw new Error(words.trim().split('\n').at(-1) ?? `pg_dump ended with ${status}`);
}
