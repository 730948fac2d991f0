import { existsSync } from 'node:fs';
import { installDebian } from './debian.mjs';

/** Debian's Chromium without a window, for the end-to-end tests and the pictures. */
export function ensureChromium() {
  if (!existsSync('/usr/bin/chromium-headless-shell'))
    installDebian(['chromium-headless-shell'], 'headless Chromium');
}
