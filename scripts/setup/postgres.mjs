import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import {
  accessSync,
  chmodSync,
  chownSync,
  constants,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statfsSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { installDebian } from './debian.mjs';
import { freePort } from './free-port.mjs';
import { SetupFailure } from './stop-with.mjs';

const isRoot = process.getuid?.() === 0;
const USER = 'sprig';
/** Less than this free, and a first start would end half-way. What is there already can be opened with less. */
const LEAST_FREE_MB = 300;
/** Less than this free, and what a crash is mended from is kept short. */
const AMPLE_FREE_MB = 4_000;

/** PostgreSQL's own folder of programs, the newest version; null where there is none. */
export function programsHere() {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base)
    ? readdirSync(base)
        .map(Number)
        .filter((version) => version >= 15)
    : [];
  const newest = versions
    .sort((a, b) => b - a)
    .find((version) => existsSync(join(base, String(version), 'bin/initdb')));
  return newest === undefined ? null : join(base, String(newest), 'bin');
}

/** The same; installs Debian's package where there is none. */
export function programs() {
  const there = programsHere();
  if (there) return there;
  installDebian(['postgresql'], 'PostgreSQL');
  const installed = programsHere();
  if (!installed)
    throw new SetupFailure('PostgreSQL was installed, but its programs are not in /usr/lib/postgresql.');
  return installed;
}

/** PostgreSQL refuses to run as root, so there its programs run as the user that its package makes. */
const asOwner = (program, args) =>
  isRoot ? ['runuser', ['-u', 'postgres', '--', program, ...args]] : [program, args];

function run(program, args, options = {}) {
  const [file, list] = asOwner(program, args);
  return spawnSync(file, list, { cwd: '/', encoding: 'utf8', ...options });
}

function isAlive(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('postgres');
  } catch {
    return false;
  }
}

const freeMbIn = (folder) => {
  const { bavail, bsize } = statfsSync(folder);
  return Math.floor((bavail * bsize) / 1_000_000);
};

/** Makes the data folder, and says plainly why it can't be used. */
function prepareFolder(folder, free, isNew) {
  try {
    mkdirSync(folder, { recursive: true, mode: 0o755 });
    accessSync(folder, constants.W_OK);
  } catch (error) {
    throw new SetupFailure(
      `The data folder ${folder} can not be written (${error.code}). Set SPRIG_DATA_DIR to another.`,
    );
  }
  const room = free(folder);
  if (isNew && room < LEAST_FREE_MB)
    throw new SetupFailure(
      `Only ${room} MB are free where ${folder} is; at least ${LEAST_FREE_MB} MB are needed. Make room, or set SPRIG_DATA_DIR to another place.`,
    );
  if (room < LEAST_FREE_MB)
    console.error(
      `Only ${room} MB are free where ${folder} is. All that is there can be read; make room before you change much.`,
    );
  if (!isRoot) return;
  for (let at = folder; at !== '/'; at = dirname(at)) {
    if (statSync(at).mode & 0o001) continue;
    throw new SetupFailure(
      `PostgreSQL runs as the user postgres, who may not pass through ${at}. Set SPRIG_DATA_DIR to a folder outside of it, such as /var/tmp/green-sprig.`,
    );
  }
}

function postgresIds() {
  const id = (flag) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }));
  return [id('-u'), id('-g')];
}

/** Makes a cluster beside its place and moves it there when it is whole: a start that was cut off leaves none. */
function createCluster(bin, folder, cluster) {
  const making = `${cluster}.new`;
  rmSync(making, { recursive: true, force: true });
  mkdirSync(making, { mode: 0o700 });
  const password = randomBytes(18).toString('base64url');
  const secret = join(folder, 'password');
  writeFileSync(secret, password, { mode: 0o600 });
  const handed = `${making}.password`;
  writeFileSync(handed, password, { mode: 0o600 });
  if (isRoot) {
    const [uid, gid] = postgresIds();
    chownSync(making, uid, gid);
    chownSync(handed, uid, gid);
  }
  chmodSync(making, 0o700);
  const made = run(join(bin, 'initdb'), [
    '-D',
    making,
    '-U',
    USER,
    `--pwfile=${handed}`,
    '--auth=scram-sha-256',
    '--locale=C.UTF-8',
    '--encoding=UTF8',
    '--no-instructions',
  ]);
  rmSync(handed, { force: true });
  if (made.status !== 0) {
    rmSync(making, { recursive: true, force: true });
    throw new SetupFailure(`The database could not be made in ${folder}:\n${made.stderr || made.error}`);
  }
  renameSync(making, cluster);
}

/** What an earlier start that was killed has left: a server without a master, or only its note. */
function clearLeftovers(bin, cluster) {
  const note = noteOf(cluster);
  if (!existsSync(note)) return;
  const pid = Number(readFileSync(note, 'utf8').split('\n')[0]);
  if (isAlive(pid)) run(join(bin, 'pg_ctl'), ['stop', '-D', cluster, '-m', 'fast', '-w']);
  else rmSync(note, { force: true });
}

/** A cluster of one machine's own: nothing replicates it, and lists of a million keywords go through it. */
const OURS = [
  'wal_level=minimal',
  'max_wal_senders=0',
  'max_wal_size=2GB',
  'checkpoint_timeout=15min',
  'shared_buffers=256MB',
  'work_mem=16MB',
];

const noteOf = (cluster) => join(cluster, 'postmaster.pid');
const LOOK_MS = 500;

/** When the process is gone. */
async function gone(pid) {
  while (isAlive(pid)) await delay(LOOK_MS, undefined, { ref: false });
  return 'its process is gone';
}

const addressAt = (folder, port) => (database) =>
  `postgres://${USER}:${readFileSync(join(folder, 'password'), 'utf8')}@127.0.0.1:${port}/${database}`;

/** The database of a data folder that runs already; null: none does. */
export function runningPostgres(folder) {
  const note = noteOf(join(folder, 'postgres'));
  if (!existsSync(note)) return null;
  const [pid, , , port] = readFileSync(note, 'utf8').split('\n');
  return isAlive(Number(pid)) ? { url: addressAt(folder, port)('postgres'), bin: programs() } : null;
}

/** Has the database stopped when this process ends, however it does. */
function guard(bin, cluster, pid) {
  const [file, args] = asOwner(join(bin, 'pg_ctl'), ['stop', '-D', cluster, '-m', 'fast', '-w']);
  const script = fileURLToPath(new URL('./guard.mjs', import.meta.url));
  const child = spawn(process.execPath, [script, cluster, String(pid), file, ...args], {
    stdio: ['pipe', 'ignore', 'ignore'],
    detached: true,
  });
  child.unref();
  child.stdin.unref();
}

/**
 * Starts a PostgreSQL of our own on a free loopback port, or on `port`, and answers its address, how to stop it and its
 * end. The folder holds the cluster in `postgres/` and its password in `password`. `free` tells the megabytes that are
 * free where a folder is.
 */
export async function startPostgres(dataFolder, { settings = [], port: wanted, free = freeMbIn } = {}) {
  const bin = programs();
  const folder = resolve(dataFolder);
  const cluster = join(folder, 'postgres');
  const isNew = !existsSync(cluster);
  prepareFolder(folder, free, isNew);
  if (isNew) createCluster(bin, folder, cluster);
  else if (!existsSync(join(cluster, 'PG_VERSION')) || !existsSync(join(folder, 'password')))
    throw new SetupFailure(
      `${cluster} is there, but it is no whole database. Move it away, or set SPRIG_DATA_DIR to another folder.`,
    );
  const version = readFileSync(join(cluster, 'PG_VERSION'), 'utf8').trim();
  if (!bin.includes(`/${version}/`))
    throw new SetupFailure(
      `${cluster} was made by PostgreSQL ${version}, but ${bin} is here. Install postgresql-${version}, or set SPRIG_DATA_DIR to another folder.`,
    );
  clearLeftovers(bin, cluster);
  const port = wanted ?? (await freePort());
  const short = free(folder) < AMPLE_FREE_MB ? ['max_wal_size=128MB', 'min_wal_size=32MB'] : [];
  const options = [
    `-h 127.0.0.1 -k '' -p ${port}`,
    ...[...OURS, ...short, ...settings].map((setting) => `-c ${setting}`),
  ].join(' ');
  const started = run(
    join(bin, 'pg_ctl'),
    ['start', '-D', cluster, '-w', '-t', '60', '-l', join(cluster, 'server.log'), '-o', options],
    { stdio: ['ignore', 'ignore', 'pipe'] },
  );
  if (started.status !== 0) {
    const tail = spawnSync('tail', ['-n', '5', join(cluster, 'server.log')], { encoding: 'utf8' }).stdout;
    throw new SetupFailure(`The database in ${cluster} did not start:\n${tail || started.stderr}`);
  }
  const pid = Number(readFileSync(noteOf(cluster), 'utf8').split('\n')[0]);
  guard(bin, cluster, pid);
  const address = addressAt(folder, port);
  return {
    url: address('postgres'),
    address,
    port,
    pid,
    bin,
    exited: gone(pid),
    stop: () => run(join(bin, 'pg_ctl'), ['stop', '-D', cluster, '-m', 'fast', '-w']),
  };
}
