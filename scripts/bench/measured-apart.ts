import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { connect, execute } from '../../apps/server/src/db/connect.ts';
import type { Entry } from './measure.ts';
import type { Figure } from './server.ts';

export type Measured = { entries: Entry[]; figures: Figure[] };

/**
 * Runs a part of the benchmarks in a process and a database of its own: jobs have a thread of their own too, and what was
 * measured before would leave its garbage, its compiled code and its tables to it.
 */
export async function measuredApart(part: string): Promise<Measured> {
  const base = process.env.DATABASE_URL ?? '';
  const name = `bench_${part}`;
  const admin = connect(base, { connections: 1 });
  await execute(admin, `create database ${name}`);
  await admin.close();
  const folder = mkdtempSync(join(tmpdir(), 'sprig-bench-'));
  const file = join(folder, 'measured.json');
  try {
    const script = fileURLToPath(new URL(`./${part}-part.ts`, import.meta.url));
    const { status } = spawnSync(process.execPath, [...process.execArgv, script, file], {
      env: { ...process.env, DATABASE_URL: base.replace(/\/[^/]*$/, `/${name}`) },
      stdio: 'inherit',
    });
    if (status !== 0) throw new Error(`The benchmarks of ${part} ended with ${status}.`);
    return JSON.parse(readFileSync(file, 'utf8')) as Measured;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
