import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureChromium } from './setup/chromium.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { startPostgres } from './setup/postgres.mjs';
import { root } from './setup/root.mjs';
import { ensureServer } from './setup/server-bundle.mjs';
import { main, SetupFailure } from './setup/stop-with.mjs';
import { ensureWeb } from './setup/web.mjs';

const TYPED = ['packages/core', 'packages/contracts', 'packages/market', 'apps/server', 'apps/web', '.'];

/** What each part runs, in this order. Without a name on the command line all of them run. */
const PARTS = {
  check: async (run) => {
    run.check(
      'formatting and lint',
      await run('npx', ['biome', 'check', '--colors=off', '--error-on-warnings', '.']),
    );
    for (const part of TYPED) {
      const typed = await run('node', [
        'node_modules/typescript-7/bin/tsc',
        '-p',
        join(part, 'tsconfig.json'),
      ]);
      run.check(`types of ${part}`, typed);
    }
    run.check(
      'dependency directions',
      await run('npx', ['depcruise', '--config', '.dependency-cruiser.cjs', 'packages', 'apps']),
    );
    run.check('no dead files and exports', await run('npx', ['knip', '--no-config-hints']));
  },
  unit: (run) => vitest(run, 'unit', 'web', 'web-mocking'),
  server: (run) => vitest(run, 'server'),
  e2e: async (run) => {
    const report = join(run.folder, 'e2e.json');
    run.env.PLAYWRIGHT_JSON_OUTPUT_NAME = report;
    // A slow machine now and then lets a click come too early: such a test is tried once more, and told.
    await run('npx', ['playwright', 'test', '--retries=1', '--reporter=list,json']);
    run.add(report, ({ stats }) => {
      if (stats.flaky > 0) console.log(`${stats.flaky} end-to-end tests passed only at the second try.`);
      return [stats.expected + stats.flaky, stats.unexpected + stats.skipped, stats.unexpected === 0];
    });
  },
};

async function vitest(run, ...projects) {
  const report = join(run.folder, `${projects[0]}.json`);
  await run('npx', [
    'vitest',
    'run',
    ...projects.map((project) => `--project=${project}`),
    '--reporter=dot',
    '--reporter=json',
    `--outputFile.json=${report}`,
  ]);
  run.add(report, (told) => [told.numPassedTests, told.numFailedTests + told.numPendingTests, told.success]);
}

/** Every check there is, or those of the parts that are named; ends with one line that counts them all. */
await main(async () => {
  const named = process.argv.slice(2);
  const parts = named.length > 0 ? named : Object.keys(PARTS);
  const unknown = parts.find((part) => !(part in PARTS));
  if (unknown)
    throw new SetupFailure(`There is no part “${unknown}”. The parts are ${Object.keys(PARTS).join(', ')}.`);
  const has = (...some) => some.some((part) => parts.includes(part));
  ensurePackages();
  const folder = mkdtempSync(join(tmpdir(), 'sprig-test-'));
  chmodSync(folder, 0o711);
  // A database that is thrown away needs no care for a power cut.
  const database = has('server', 'e2e')
    ? await startPostgres(folder, {
        settings: ['fsync=off', 'synchronous_commit=off', 'full_page_writes=off'],
      })
    : null;
  const tally = { passed: 0, failed: 0 };
  try {
    const run = runner(folder, tally, database?.url);
    // What the end-to-end tests need is made ready on one core while the checks have the other.
    const ready = has('e2e') ? prepared() : null;
    for (const part of parts) {
      const from = performance.now();
      if (part === 'e2e') {
        const failure = await ready;
        if (failure) throw failure;
      }
      await PARTS[part](run);
      console.log(`${part}: ${Math.round((performance.now() - from) / 1_000)} s`);
    }
    await ready;
  } finally {
    database?.stop();
    rmSync(folder, { recursive: true, force: true });
  }
  console.log(`\n${tally.passed} passed, ${tally.failed} failed`);
  if (tally.failed > 0) process.exitCode = 1;
});

/** Answers what went wrong, so that nobody need wait for it at once. */
async function prepared() {
  try {
    ensureChromium();
    await ensureServer();
    await ensureWeb();
    return null;
  } catch (error) {
    return error;
  }
}

/** Runs commands for the parts, and counts what they tell. */
function runner(folder, tally, databaseUrl) {
  const env = { ...process.env, LOG_LEVEL: 'fatal', NO_COLOR: '1' };
  if (databaseUrl) env.TEST_DATABASE_URL = databaseUrl;
  const run = async (command, args) => {
    const [status] = await once(
      spawn(command, args, { cwd: root, env, stdio: ['ignore', 'inherit', 'inherit'] }),
      'exit',
    );
    return status === 0;
  };
  return Object.assign(run, {
    folder,
    env,
    check(name, passes) {
      console.log(`${passes ? '✓' : '✗'} ${name}`);
      tally[passes ? 'passed' : 'failed']++;
    },
    /** Of a runner's report. One that left none has failed; a test that was skipped counts as failed. */
    add(file, countsOf) {
      try {
        const [passed, failed, success] = countsOf(JSON.parse(readFileSync(file, 'utf8')));
        tally.passed += passed;
        tally.failed += failed > 0 || success ? failed : 1;
        if (passed === 0) tally.failed++;
      } catch (error) {
        console.error(`No report of the tests: ${error.message}`);
        tally.failed++;
      }
    },
  });
}
