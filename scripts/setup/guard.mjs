import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/**
 * Stops a database when whoever started it is gone, however that ended: `node guard.mjs CLUSTER PID COMMAND …`. Its standard
 * input is a pipe from there, and closes with it. A database that was started again meanwhile is somebody else's.
 */
const [cluster, pid, command, ...args] = process.argv.slice(2);
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => {});
process.stdin.resume();
process.stdin.on('end', () => {
  const note = join(cluster, 'postmaster.pid');
  const isOurs = existsSync(note) && readFileSync(note, 'utf8').split('\n')[0] === pid;
  if (isOurs) spawnSync(command, args, { cwd: '/', stdio: 'ignore' });
  process.exit(0);
});
