import { type ChildProcess, fork } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';

/** A runner as a process of its own, once it takes jobs. It was bundled before the tests began. */
export async function startRunnerProcess(databaseUrl: string): Promise<ChildProcess> {
  const script = fileURLToPath(new URL('./dist/runner-process.mjs', import.meta.url));
  const child = fork(script, [databaseUrl], {
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  await once(child, 'message');
  return child;
}
