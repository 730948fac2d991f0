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
  if (shape.evenZeros + shape.oddZeros > 0) return guessWide(shape, () => isUtf8(bytes));
  if (shape.controls > shape.read / 100) return { status: 'problem', code: 'binary-file' };
  return { status: 'text', encoding: isUtf8(bytes) ? 'utf-8' : 'windows-1252', bomLength: 0 };
}

/** `evenPairs`, `oddPairs`: zeros beside a plain character, where the two together are that character in UTF-16. */
type ByteShape = {
  read: number;
  evenZeros: number;
  oddZeros: number;
  evenPairs: number;
  oddPairs: number;
  controls: number;
};

const isPlain = (byte: number | undefined) =>
  byte !== undefined && (byte === 9 || byte === 10 || byte === 13 || (byte >= 32 && byte < 127));

function byteShape(bytes: Uint8Array): ByteShape {
  const read = Math.min(bytes.length, SAMPLE);
  const shape: ByteShape = { read, evenZeros: 0, oddZeros: 0, evenPairs: 0, oddPairs: 0, controls: 0 };
  for (let at = 0; at < read; at++) {
    const byte = bytes[at] ?? 0;
    if (byte === 0) {
      if (at & 1) {
        shape.oddZeros++;
        if (isPlain(bytes[at - 1])) shape.oddPairs++;
      } else {
        shape.evenZeros++;
        if (isPlain(bytes[at + 1])) shape.evenPairs++;
      }
    } else if (byte < 32 && byte !== 9 && byte !== 10 && byte !== 13) shape.controls++;
  }
  return shape;
}

/**
 * UTF-16 without a mark: in Latin text every second byte is zero; in any other script at least the spaces, the line
 * ends and the figures have one, each beside a byte that is such a character, and none stands elsewhere.
 */
function guessWide(
  { read, evenZeros, oddZeros, controls, evenPairs, oddPairs }: ByteShape,
  isSound: () => boolean,
): EncodingGuess {
  const half = read / 2;
  const isFew = controls <= half / 50;
  if (isFew && oddZeros > half * 0.4 && evenZeros < half * 0.05)
    return { status: 'text', encoding: 'utf-16le', bomLength: 0 };
  if (isFew && evenZeros > half * 0.4 && oddZeros < half * 0.05)
    return { status: 'text', encoding: 'utf-16be', bomLength: 0 };
  // The halves of letters of other scripts are control characters, or no sound UTF-8.
  const isForeign = () => controls > read / 10 || !isSound();
  if (evenZeros === 0 && oddPairs === oddZeros && oddZeros > half * LEAST_SPACES && isForeign())
    return { status: 'text', encoding: 'utf-16le', bomLength: 0 };
  if (oddZeros === 0 && evenPairs === evenZeros && evenZeros > half * LEAST_SPACES && isForeign())
    return { status: 'text', encoding: 'utf-16be', bomLength: 0 };
  // A few stray NUL bytes in a text are dropped with the other invisible characters.
  if (evenZeros + oddZeros <= Math.max(2, read / 500) && controls <= read / 100)
    return { status: 'text', encoding: 'utf-8', bomLength: 0 };
  return { status: 'problem', code: 'binary-file' };
}

/** A list has a line end, a tab or a space at least so often. */
const LEAST_SPACES = 0.02;
