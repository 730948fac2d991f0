/** Builds the web application where it is not of these sources. */
export function ensureWeb(): Promise<void>;
