/** Bundles the server where what is bundled is not of these sources. */
export function ensureServer(): Promise<void>;
