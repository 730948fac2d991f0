import { Unzip, UnzipInflate, unzipSync } from 'fflate';

/** What a reader may take: bytes as they are really unpacked, cells, and time. */
export type Limits = { bytes: number; cells: number; ms: number };

/** More is no list of keywords, or is made to fill the memory. */
export const MOST_READ: Limits = { bytes: 400_000_000, cells: 20_000_000, ms: 90_000 };

/** It is more than is read: told, never cut off in silence. */
export class TooMuch extends Error {}

/** Counts what a reader takes, and ends it where that is too much. */
export class Meter {
  private bytes = 0;
  private cells = 0;
  private readonly until: number;
  private rested = performance.now();

  constructor(private readonly limits: Limits) {
    this.until = performance.now() + limits.ms;
  }

  spend(bytes: number, cells = 0): void {
    this.bytes += bytes;
    this.cells += cells;
    if (this.bytes > this.limits.bytes || this.cells > this.limits.cells) throw new TooMuch();
  }

  /** Lets others have their turn every now and then. */
  async rest(): Promise<void> {
    const now = performance.now();
    if (now > this.until) throw new TooMuch();
    if (now - this.rested < REST_EVERY_MS) return;
    await new Promise((go) => setTimeout(go));
    this.rested = performance.now();
  }
}

const REST_EVERY_MS = 40;
const PIECE = 65_536;

/** The names of what an archive holds; null where it is none, or is cut short. */
export function namesIn(bytes: Uint8Array): string[] | null {
  const names: string[] = [];
  try {
    unzipSync(bytes, {
      filter: ({ name }) => {
        names.push(name);
        return false;
      },
    });
  } catch {
    return null;
  }
  return names;
}

type Taker = (data: Uint8Array, isLast: boolean) => void;

/**
 * Unpacks those of an archive's files that `takerOf` has a taker for, piece by piece. What an archive says of sizes is
 * not believed: what comes out is counted. Throws `TooMuch`, and what a taker or the unpacking throws.
 */
export async function unpackEach(
  bytes: Uint8Array,
  takerOf: (name: string) => Taker | null,
  meter: Meter,
): Promise<void> {
  const archive = new Unzip((entry) => {
    const take = takerOf(entry.name);
    if (!take) return;
    entry.ondata = (error, data, isLast) => {
      if (error) throw error;
      meter.spend(data.length);
      take(data, isLast);
    };
    entry.start();
  });
  archive.register(UnzipInflate);
  for (let at = 0; at < bytes.length; at += PIECE) {
    archive.push(bytes.subarray(at, at + PIECE), at + PIECE >= bytes.length);
    await meter.rest();
  }
}

export type ArchiveAnswer =
  | { files: { name: string; body: Blob }[] }
  | { problem: 'no-archive' | 'too-large' | 'no-sheets' | 'too-many'; count: number };

/** Files that may be sheets; what a system keeps for itself is none. */
const isSheet = (name: string) => /\.(csv|tsv|txt|xlsx)$/i.test(name) && !name.startsWith('__');

/** The sheets and workbooks in an archive, each as a whole. */
export async function openArchive(
  bytes: Uint8Array,
  most: number,
  limits: Limits = MOST_READ,
): Promise<ArchiveAnswer> {
  const names = namesIn(bytes);
  if (names === null) return { problem: 'no-archive', count: 0 };
  const wanted = new Set(names.filter(isSheet));
  if (wanted.size === 0) return { problem: 'no-sheets', count: 0 };
  if (wanted.size > most) return { problem: 'too-many', count: wanted.size };
  const files: { name: string; body: Blob }[] = [];
  try {
    await unpackEach(bytes, (name) => (wanted.delete(name) ? kept(name, files) : null), new Meter(limits));
  } catch (error) {
    return { problem: error instanceof TooMuch ? 'too-large' : 'no-archive', count: 0 };
  }
  return wanted.size === 0 ? { files } : { problem: 'no-archive', count: 0 };
}

function kept(name: string, files: { name: string; body: Blob }[]): Taker {
  const pieces: Uint8Array<ArrayBuffer>[] = [];
  return (data, isLast) => {
    pieces.push(data.slice());
    if (isLast) files.push({ name: name.split('/').at(-1) ?? name, body: new Blob(pieces) });
  };
}
