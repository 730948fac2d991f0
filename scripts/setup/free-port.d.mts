/** A port of this machine that nobody listens on. */
export function freePort(): Promise<number>;
