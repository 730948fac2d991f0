export const encodings = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const;
export type Encoding = (typeof encodings)[number];

export type EncodingGuess =
  | { status: 'text'; encoding: Encoding; bomLength: number }
  | { status: 'problem'; code: 'empty-file' | 'binary-file' };

const SAMPLE = 65_536;

/**
 * The encoding of a list's bytes: by its byte order mark, by the zero bytes of UTF-16, by whether it is sound
 * UTF-8, else Windows-1252. A file with other zero bytes, or many control characters, is no list.
 * Reads at most the first 64 kB but for the check of UTF-8, which `isUtf8` makes over the whole.
 */
export function guessEncoding(bytes: Uint8Array, isUtf8: (bytes: Uint8Array) => boolean): EncodingGuess {
  if (bytes.length === 0) return { status: 'problem', code: 'empty-file' };
  const [a, b, c] = bytes;
  if (a === 0xef && b === 0xbb && c === 0xbf) return { status: 'text', encoding: 'utf-8', bomLength: 3 };
  if (a === 0xff && b === 0xfe) return { status: 'text', encoding: 'utf-16le', bomLength: 2 };
  if (a === 0xfe && b === 0xff) return { status: 'text', encoding: 'utf-16be', bomLength: 2 };
  const shape = byteShape(bytes);
  if (shape.evenZeros + shape.oddZeros > 0) return guessWide(shape);
  if (shape.controls > shape.read / 100) return { status: 'problem', code: 'binary-file' };
  return { status: 'text', encoding: isUtf8(bytes) ? 'utf-8' : 'windows-1252', bomLength: 0 };
}

type ByteShape = { read: number; evenZeros: number; oddZeros: number; controls: number };

function byteShape(bytes: Uint8Array): ByteShape {
  const read = Math.min(bytes.length, SAMPLE);
  const shape: ByteShape = { read, evenZeros: 0, oddZeros: 0, controls: 0 };
  for (let at = 0; at < read; at++) {
    const byte = bytes[at] ?? 0;
    if (byte === 0) {
      if (at & 1) shape.oddZeros++;
      else shape.evenZeros++;
    } else if (byte < 32 && byte !== 9 && byte !== 10 && byte !== 13) shape.controls++;
  }
  return shape;
}

/** UTF-16 of mostly Latin text has a zero in every second byte and nearly none in the others. */
function guessWide({ read, evenZeros, oddZeros, controls }: ByteShape): EncodingGuess {
  const half = read / 2;
  if (controls <= half / 50 && oddZeros > half * 0.4 && evenZeros < half * 0.05)
    return { status: 'text', encoding: 'utf-16le', bomLength: 0 };
  if (controls <= half / 50 && evenZeros > half * 0.4 && oddZeros < half * 0.05)
    return { status: 'text', encoding: 'utf-16be', bomLength: 0 };
  // A few stray NUL bytes in a text are dropped with the other invisible characters.
  if (evenZeros + oddZeros <= Math.max(2, read / 500) && controls <= read / 100)
    return { status: 'text', encoding: 'utf-8', bomLength: 0 };
  return { status: 'problem', code: 'binary-file' };
}
