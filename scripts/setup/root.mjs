import { fileURLToPath } from 'node:url';

/** The checkout's own folder. */
export const root = fileURLToPath(new URL('../..', import.meta.url));
