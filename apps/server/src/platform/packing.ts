import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';

/** Packed fast: what is packed is read again far less often than it is written. */
export const LEVEL = { level: 1 };

type Gzip = (data: Uint8Array | string, options: typeof LEVEL) => Promise<Buffer>;
const zip = promisify(gzip) as Gzip;

export const pack = (data: Uint8Array | string): Promise<Buffer> => zip(data, LEVEL);
export const unpack = promisify(gunzip) as (data: Uint8Array) => Promise<Buffer>;
