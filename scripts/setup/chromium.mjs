import { existsSync } from 'node:fs';
import { installDebian } from './debian.mjs';

/** Debian's Chromium, for the end-to-end tests and the pictures. */
export function ensureChromium() {
  if (!existsSync('/usr/bin/chromium')) installDebian(['chromium'], 'Chromium');
}
