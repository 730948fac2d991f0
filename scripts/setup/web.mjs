import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { ensureBuilt, SHARED_SOURCES } from './built.mjs';
import { root } from './root.mjs';
import { SetupFailure } from './stop-with.mjs';

/** Builds the web application unless what is built is of these very sources. */
export const ensureWeb = () =>
  ensureBuilt({
    folder: 'apps/web/dist',
    sources: ['apps/web', ...SHARED_SOURCES],
    build: async () => {
      console.log('Building the web application …');
      const vite = spawn('npx', ['vite', 'build', '--logLevel', 'warn'], {
        cwd: join(root, 'apps/web'),
        stdio: 'inherit',
      });
      const [status] = await once(vite, 'exit');
      if (status !== 0) throw new SetupFailure('The web application could not be built.');
    },
  });
