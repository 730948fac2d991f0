import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { createServer } from 'node:net';
import { root } from './root.mjs';
import { ensureServer } from './server-bundle.mjs';
import { SetupFailure } from './stop-with.mjs';

/** Fails with what to do where another program has the port. */
export async function assertPortFree(port) {
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new SetupFailure(`PORT is “${process.env.PORT}”, which is no port. Use a number from 1 to 65535.`);
  const server = createServer();
  server.listen(port, '127.0.0.1');
  try {
    await once(server, 'listening');
  } catch (error) {
    const why = error.code === 'EACCES' ? 'may not be used by this user' : 'is taken by another program';
    throw new SetupFailure(
      `Port ${port} ${why}. Choose another, for example:\n\n  PORT=${port + 1} npm run demo`,
    );
  }
  server.close();
  await once(server, 'close');
}

/** A young generation of 8 MB: the server's memory is what its work needs, not what garbage is let lie. */
const MEMORY = '--max-semi-space-size=8';

/** How sources are run as they are. */
export const NODE_ARGS = [MEMORY, '--import', 'tsx'];

/** How the bundled server is run. */
const BUNDLED_SERVER = [MEMORY, '--enable-source-maps', 'apps/server/dist/start.mjs'];

/** Starts the server as a process and waits until it answers. `stop` ends it and waits. */
export async function startServer(env, { watch = false, quiet = false } = {}) {
  if (!watch) await ensureServer();
  const args = watch
    ? ['--watch', '--watch-preserve-output', ...NODE_ARGS, 'apps/server/src/start.ts']
    : BUNDLED_SERVER;
  const child = spawn(process.execPath, args, {
    cwd: root,
    // Nobody who was signed in before is known again, unless it is told the same secret.
    env: { SPRIG_SECRET: randomBytes(32).toString('base64url'), ...process.env, ...env },
    stdio: ['ignore', quiet ? 'ignore' : 'inherit', 'inherit', 'ipc'],
  });
  const exited = once(child, 'exit');
  if (!watch) {
    const ready = await Promise.race([once(child, 'message').then(() => true), exited.then(() => false)]);
    if (!ready) throw new SetupFailure('The server did not start. What it printed above says why.');
  }
  return {
    pid: child.pid,
    exited: exited.then(([code, signal]) => signal ?? `code ${code}`),
    stop: async () => {
      if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM');
      await exited;
    },
  };
}
