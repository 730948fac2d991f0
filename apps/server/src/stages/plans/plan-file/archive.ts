import type { Readable } from 'node:stream';
import { MOST_UPLOAD_BYTES } from '@sprig/contracts';
import { Unzip, UnzipInflate } from 'fflate';
import { SprigFailure } from '../../../platform/failure.ts';

/** A plan file unpacks to no more than this. */
const MOST_UNPACKED = 3_000_000_000;
const PIECE = 65_536;

export const unsound = (what: string) =>
  new SprigFailure('invalid', `This plan file can’t be opened: ${what}`);

/** The bytes of a plan file as they come in, up to what an upload may weigh. */
export async function bytesOf(stream: Readable): Promise<Uint8Array> {
  const pieces: Buffer[] = [];
  let weight = 0;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    weight += piece.length;
    if (weight > MOST_UPLOAD_BYTES)
      throw new SprigFailure('too-large', `A plan file may weigh ${MOST_UPLOAD_BYTES / 1_000_000} MB.`);
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

/** What a plan file unpacks to, over all that is read of it. */
export class Unpacking {
  private bytes = 0;

  constructor(private readonly archive: Uint8Array) {}

  /**
   * The pieces of one file of the archive; none where it is not there. What comes out is counted, whatever the archive says
   * of its sizes.
   */
  async *file(name: string): AsyncGenerator<Uint8Array> {
    const ready: Uint8Array[] = [];
    let isThere = false;
    let isWhole = false;
    const unzip = new Unzip((entry) => {
      if (entry.name !== name || isThere) return;
      isThere = true;
      entry.ondata = (error, data, isLast) => {
        if (error) throw error;
        this.bytes += data.length;
        if (this.bytes > MOST_UNPACKED) throw unsound('it unpacks to more than any plan.');
        ready.push(data);
        isWhole ||= isLast;
      };
      entry.start();
    });
    unzip.register(UnzipInflate);
    for (let at = 0; at < this.archive.length && !isWhole; at += PIECE) {
      push(unzip, this.archive.subarray(at, at + PIECE));
      yield* ready.splice(0);
      // Others have their turn.
      await new Promise((go) => setImmediate(go));
    }
    if (isThere && !isWhole) throw unsound(`${name} in it is cut short.`);
  }

  async text(name: string, most: number): Promise<string | null> {
    const decoder = new TextDecoder();
    let text = '';
    let isThere = false;
    for await (const piece of this.file(name)) {
      isThere = true;
      text += decoder.decode(piece, { stream: true });
      if (text.length > most) throw unsound(`${name} in it is longer than it can be.`);
    }
    return isThere ? text + decoder.decode() : null;
  }
}

function push(unzip: Unzip, piece: Uint8Array): void {
  try {
    unzip.push(piece);
  } catch (error) {
    throw error instanceof SprigFailure ? error : unsound('it is no archive that can be read.');
  }
}
