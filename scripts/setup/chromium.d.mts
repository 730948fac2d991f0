/** Debian's Chromium, for the end-to-end tests and the pictures. */
export function ensureChromium(): void;
