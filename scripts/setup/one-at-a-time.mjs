import { createHash } from 'node:crypto';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from './root.mjs';

const AGAIN_MS = 250;
const pause = () => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, AGAIN_MS);

function lives(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
}

/**
 * Waits until no other process of this project does the same, and answers how to let the next one: two that install or
 * build at once would take it from under each other. What a process that died has left is passed over.
 */
export function takeTurn(name) {
  const of = createHash('sha256').update(root).digest('hex').slice(0, 12);
  const file = join(tmpdir(), `sprig-${of}-${name}.lock`);
  for (;;) {
    try {
      writeFileSync(file, String(process.pid), { flag: 'wx' });
      return () => rmSync(file, { force: true });
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
    }
    const pid = existsSync(file) ? Number(readFileSync(file, 'utf8')) : 0;
    if (pid > 0 && !lives(pid)) rmSync(file, { force: true });
    else pause();
  }
}
