import { spawnSync } from 'node:child_process';
import {
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { SetupFailure } from './stop-with.mjs';

/** The address without its password, which everybody on the machine would see, and the environment that has it. */
export function withoutPassword(url) {
  const address = new URL(url);
  const PGPASSWORD = decodeURIComponent(address.password);
  address.password = '';
  return { address: address.href, env: PGPASSWORD === '' ? process.env : { ...process.env, PGPASSWORD } };
}

/** Runs one of PostgreSQL's own programs; a failure tells what it said. */
function runProgram(bin, name, args, { input, output, doing, env = process.env }) {
  const stdin = input === undefined ? 'ignore' : openSync(input, 'r');
  const stdout = output === undefined ? 'ignore' : openSync(output, 'w', 0o600);
  const done = spawnSync(join(bin, name), args, { stdio: [stdin, stdout, 'pipe'], encoding: 'utf8', env });
  for (const file of [stdin, stdout]) if (typeof file === 'number') closeSync(file);
  if (done.status === 0) return;
  const words = done.error ? done.error.message : done.stderr.trim().split('\n').slice(-5).join('\n');
  throw new SetupFailure(`${doing} did not work:\n${words}`);
}

/** Writes a whole database into one file, in the custom format of pg_dump: the file is there when it is whole. */
export function writeCopy(bin, url, file) {
  const target = resolve(file);
  if (existsSync(target)) throw new SetupFailure(`${target} is there already. Choose another name.`);
  mkdirSync(dirname(target), { recursive: true });
  const part = `${target}.part`;
  const { address, env } = withoutPassword(url);
  try {
    runProgram(bin, 'pg_dump', ['--format=custom', '--no-owner', '--no-privileges', address], {
      output: part,
      env,
      doing: 'The copy',
    });
    renameSync(part, target);
  } finally {
    rmSync(part, { force: true });
  }
  return statSync(target).size;
}

/** What stands in the database before a copy takes its place. */
const EMPTY =
  'drop schema if exists graphile_worker cascade; drop schema public cascade; create schema public;';

/** Puts a copy in the place of all that the database holds: all of it, or nothing is changed. */
export function readCopy(bin, url, file, folder) {
  const script = join(folder, `restore-${process.pid}.sql`);
  mkdirSync(folder, { recursive: true });
  try {
    // Written out whole before anything is touched: a copy that is cut short is found out here.
    runProgram(bin, 'pg_restore', ['--no-owner', '--no-privileges', '--file=-'], {
      input: file,
      output: script,
      doing: `Reading ${file}`,
    });
    const inOne = ['--single-transaction', '--set=ON_ERROR_STOP=1', '--quiet', '--no-psqlrc'];
    const { address, env } = withoutPassword(url);
    runProgram(bin, 'psql', [...inOne, '--output=/dev/null', '--command', EMPTY, '--file', script, address], {
      env,
      doing: `Taking ${file} back`,
    });
  } finally {
    rmSync(script, { force: true });
  }
}

const MOST_COPIES = 5;

/** A name of a copy that is made by itself, in `backups/` of the data folder; the oldest of its kind go. */
export function nameOfCopy(folder, why) {
  const place = join(folder, 'backups');
  mkdirSync(place, { recursive: true });
  const kept = readdirSync(place)
    .filter((name) => name.startsWith(`${why}-`) && name.endsWith('.dump'))
    .sort();
  for (const name of kept.slice(0, Math.max(0, kept.length - MOST_COPIES + 1))) rmSync(join(place, name));
  return join(place, `${why}-${new Date().toISOString().replace(/[:.]/g, '-')}.dump`);
}
