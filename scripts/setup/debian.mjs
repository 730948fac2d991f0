import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { SetupFailure } from './stop-with.mjs';

/** Installs Debian packages where we may, else says with which command the user can. */
export function installDebian(names, what) {
  const command = `sudo apt-get update && sudo apt-get install -y --no-install-recommends ${names.join(' ')}`;
  const isRoot = process.getuid?.() === 0;
  if (!existsSync('/usr/bin/apt-get') || !isRoot)
    throw new SetupFailure(`${what} is missing. Install it with:\n\n  ${command}\n\nthen run this again.`);
  console.log(`Installing ${what} from Debian's packages …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const apt = (...args) =>
    spawnSync('apt-get', args, { env, stdio: ['ignore', 'ignore', 'inherit'] }).status === 0;
  if (!(apt('-q', 'update') && apt('-q', 'install', '-y', '--no-install-recommends', ...names)))
    throw new SetupFailure(`${what} could not be installed. Try by hand:\n\n  ${command}`);
}
