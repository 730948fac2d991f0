import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SetupFailure } from './stop-with.mjs';

const noteIn = (folder) => join(folder, 'demo.pid');

/** The process of the Green Sprig that runs from a data folder; null: none does. */
export function demoRunningFrom(folder) {
  const note = noteIn(folder);
  if (!existsSync(note)) return null;
  const pid = Number(readFileSync(note, 'utf8'));
  return isDemo(pid) ? pid : null;
}

/** One Green Sprig per data folder: a second start says so instead of taking the database away. */
export function claimFolder(folder) {
  const pid = demoRunningFrom(folder);
  if (pid)
    throw new SetupFailure(
      `Green Sprig already runs from ${folder} (process ${pid}). Stop it, or set SPRIG_DATA_DIR and PORT for a second one.`,
    );
  try {
    mkdirSync(folder, { recursive: true });
    writeFileSync(noteIn(folder), String(process.pid));
  } catch (error) {
    throw new SetupFailure(
      `The data folder ${folder} can not be written (${error.code}). Set SPRIG_DATA_DIR to another.`,
    );
  }
  return { release: () => rmSync(noteIn(folder), { force: true }) };
}

function isDemo(pid) {
  try {
    return pid !== process.pid && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('demo.mjs');
  } catch {
    return false;
  }
}
