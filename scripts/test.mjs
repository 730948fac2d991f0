import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureChromium } from './setup/chromium.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { startPostgres } from './setup/postgres.mjs';
import { root } from './setup/root.mjs';
import { main } from './setup/stop-with.mjs';
import { ensureWeb } from './setup/web.mjs';

/** Every check there is, each on its own; ends with one line that counts them all. */
main(async () => {
  ensurePackages();
  ensureChromium();
  const folder = mkdtempSync(join(tmpdir(), 'sprig-test-'));
  chmodSync(folder, 0o711);
  // A database that is thrown away needs no care for a power cut.
  const database = await startPostgres(folder, {
    settings: ['fsync=off', 'synchronous_commit=off', 'full_page_writes=off'],
  });
  const env = { ...process.env, TEST_DATABASE_URL: database.url, LOG_LEVEL: 'fatal', NO_COLOR: '1' };
  const run = (command, args) => spawnSync(command, args, { cwd: root, env, stdio: 'inherit' }).status === 0;
  const tally = { passed: 0, failed: 0 };
  const check = (name, passes) => {
    console.log(`${passes ? '✓' : '✗'} ${name}`);
    tally[passes ? 'passed' : 'failed']++;
  };
  try {
    check('formatting and lint', run('npx', ['biome', 'check', '--colors=off', '--error-on-warnings', '.']));
    for (const part of [
      'packages/core',
      'packages/contracts',
      'packages/market',
      'apps/server',
      'apps/web',
      '.',
    ])
      check(`types of ${part}`, run('npx', ['tsc', '-p', join(part, 'tsconfig.json')]));
    check(
      'dependency directions',
      run('npx', ['depcruise', '--config', '.dependency-cruiser.cjs', 'packages', 'apps']),
    );
    const unit = join(folder, 'vitest.json');
    run('npx', ['vitest', 'run', '--reporter=dot', '--reporter=json', `--outputFile.json=${unit}`]);
    add(tally, unit, (report) => [
      report.numPassedTests,
      report.numFailedTests + report.numPendingTests,
      report.success,
    ]);
    ensureWeb();
    const e2e = join(folder, 'playwright.json');
    env.PLAYWRIGHT_JSON_OUTPUT_NAME = e2e;
    // A slow machine now and then lets a click come too early: such a test is tried once more, and told.
    run('npx', ['playwright', 'test', '--retries=1', '--reporter=list,json']);
    add(tally, e2e, ({ stats }) => {
      if (stats.flaky > 0) console.log(`${stats.flaky} end-to-end tests passed only at the second try.`);
      return [stats.expected + stats.flaky, stats.unexpected + stats.skipped, stats.unexpected === 0];
    });
  } finally {
    database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
  console.log(`\n${tally.passed} passed, ${tally.failed} failed`);
  if (tally.failed > 0) process.exitCode = 1;
});

/** A runner that left no report has failed; a test that was skipped counts as failed. */
function add(tally, file, countsOf) {
  try {
    const [passed, failed, success] = countsOf(JSON.parse(readFileSync(file, 'utf8')));
    tally.passed += passed;
    tally.failed += failed > 0 || success ? failed : 1;
    if (passed === 0) tally.failed++;
  } catch (error) {
    console.error(`No report of the tests: ${error.message}`);
    tally.failed++;
  }
}
