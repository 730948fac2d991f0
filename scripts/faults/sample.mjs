import { execFileSync, spawnSync } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { ensurePackages } from '../setup/packages.mjs';
import { startPostgres } from '../setup/postgres.mjs';
import { root } from '../setup/root.mjs';
import { main, SetupFailure } from '../setup/stop-with.mjs';
import { faults } from './faults.mjs';

const TYPED = { packages: 'packages/core', 'apps/server': 'apps/server', 'apps/web': 'apps/web' };
const MINUTES = 10;

/**
 * Puts faults into a copy of the project, one at a time, and prints which of them no check and no test of Vitest sees.
 * `npm run faults:sample -- outlet` takes those whose name or file has the word.
 */
await main(async () => {
  ensurePackages();
  const word = process.argv[2] ?? '';
  const chosen = faults.filter(({ name, file }) => `${name} ${file}`.includes(word));
  const folder = mkdtempSync(join(tmpdir(), 'sprig-faults-'));
  chmodSync(folder, 0o711);
  const database = await startPostgres(folder, {
    settings: ['fsync=off', 'synchronous_commit=off', 'full_page_writes=off'],
  });
  try {
    const copy = copied(join(folder, 'copy'));
    const run = runnerIn(copy, database.url);
    const survived = [];
    for (const [at, fault] of chosen.entries()) {
      const caught = tried(copy, fault, run);
      if (!caught) survived.push(fault);
      console.log(`${at + 1}/${chosen.length} ${caught ? `caught by ${caught}` : 'SURVIVED'}: ${fault.name}`);
    }
    console.log(`\n${chosen.length - survived.length} of ${chosen.length} faults caught.`);
    for (const { name, file } of survived) console.log(`survived: ${name} (${file})`);
    if (survived.length > 0) process.exitCode = 1;
  } finally {
    database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});

/** The project's own files; packages from the registry are those of the project, its rooms those of the copy. */
function copied(copy) {
  const names = execFileSync('git', ['ls-files', '-co', '--exclude-standard', '-z'], { cwd: root })
    .toString()
    .split('\0')
    .filter(Boolean);
  for (const name of names) {
    mkdirSync(dirname(join(copy, name)), { recursive: true });
    cpSync(join(root, name), join(copy, name));
  }
  mkdirSync(join(copy, 'node_modules', '@sprig'), { recursive: true });
  for (const name of readdirSync(join(root, 'node_modules')))
    if (name !== '@sprig') symlinkSync(join(root, 'node_modules', name), join(copy, 'node_modules', name));
  for (const room of ['packages', 'apps'])
    for (const name of readdirSync(join(copy, room))) {
      const { name: called } = JSON.parse(readFileSync(join(copy, room, name, 'package.json'), 'utf8'));
      symlinkSync(join(copy, room, name), join(copy, 'node_modules', called));
    }
  return copy;
}

function runnerIn(cwd, url) {
  const env = { ...process.env, TEST_DATABASE_URL: url, LOG_LEVEL: 'fatal', NO_COLOR: '1' };
  return (command, args) =>
    spawnSync(command, args, { cwd, env, stdio: 'ignore', timeout: MINUTES * 60_000, killSignal: 'SIGKILL' })
      .status === 0;
}

/** What catches a fault first: the linter, the types, or a test; null where nothing does. */
function tried(copy, { name, file, find, put }, run) {
  const path = join(copy, file);
  const sound = readFileSync(path, 'utf8');
  if (sound.split(find).length !== 2)
    throw new SetupFailure(
      `“${name}”: what it changes stands ${sound.split(find).length - 1} times in ${file}.`,
    );
  writeFileSync(
    path,
    sound.replace(find, () => put),
  );
  try {
    const [, part] = Object.entries(TYPED).find(([begin]) => file.startsWith(begin));
    const bin = join('node_modules', '.bin');
    if (!run(join(bin, 'biome'), ['lint', file])) return 'the linter';
    if (!run('node', ['node_modules/typescript-7/bin/tsc', '-p', part])) return 'the types';
    const tests = (...more) => run(join(bin, 'vitest'), ['related', '--run', '--bail=1', ...more, file]);
    if (!tests('--project=unit', '--project=web', '--project=web-mocking')) return 'a test';
    return tests('--project=server') ? null : 'a test of the server';
  } finally {
    writeFileSync(path, sound);
  }
}
