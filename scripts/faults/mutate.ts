import { seeded } from '@sprig/core/text';

/** What breaks readers: marks of every reader's notation, bytes that no text has, and things without an end. */
const TOKENS: readonly string[] = [
  ...[
    '"',
    '""',
    '","',
    '\t',
    ';',
    '|',
    '\r',
    '\n',
    '\r\n',
    '\n\n',
    '\0',
    '\u0085',
    '\u2028',
    '\ufeff',
    '\u200b',
    '\u202e',
  ],
  ...[
    '[',
    ']',
    '+',
    '-',
    '@',
    '@keyword',
    '{',
    '}',
    '=cmd()',
    '\\',
    '$1',
    '%',
    '%00',
    '€',
    '“',
    '－',
    '１',
    'ß',
    'İ',
    '👩‍👩‍👧',
  ],
  ...[
    '9'.repeat(400),
    '-1',
    '1e309',
    '0x10',
    '1,300.50',
    '1.300,50',
    'NaN',
    'null',
    '\ud800',
    '\udc00',
    'a\u0301'.repeat(50),
  ],
  ...['Keyword', 'Total', 'Campaign', '<c r="A1">', '</row>', '&amp;', '&#0;', '<!--', ']]>', '<![CDATA['],
  ...['x'.repeat(5_000), ','.repeat(5_000), '"'.repeat(999), '(a+)+b'],
];
const encoder = new TextEncoder();

/** Mutations of samples by a seed: the same seed gives the same ones. */
export class Mutations {
  private readonly random: () => number;

  constructor(seed: number) {
    this.random = seeded(seed);
  }

  private below = (most: number): number => Math.floor(this.random() * most);

  pick<T>(list: readonly T[]): T {
    return list[this.below(list.length)] as T;
  }

  /** One of the samples, changed at one to six places. */
  bytes(samples: readonly Uint8Array[]): Uint8Array {
    let bytes = this.pick(samples);
    for (let times = 1 + this.below(6); times > 0; times--) bytes = this.changed(bytes, samples);
    return bytes;
  }

  private changed(bytes: Uint8Array, samples: readonly Uint8Array[]): Uint8Array {
    const at = this.below(bytes.length + 1);
    const end = Math.min(bytes.length, at + this.below(this.below(2) ? 8 : 400));
    const part = bytes.subarray(at, end);
    switch (this.below(8)) {
      case 0: {
        const flipped = bytes.slice();
        if (at < flipped.length) flipped[at] = this.below(256);
        return flipped;
      }
      case 1:
        return joined(bytes.subarray(0, at), bytes.subarray(end));
      case 2:
        return joined(
          bytes.subarray(0, at),
          ...Array.from({ length: 1 + this.below(20) }, () => part),
          bytes.subarray(end),
        );
      case 3:
        return bytes.slice(0, at);
      case 4: {
        const other = this.pick(samples);
        const from = this.below(other.length + 1);
        return joined(
          bytes.subarray(0, at),
          other.subarray(from, from + this.below(600)),
          bytes.subarray(end),
        );
      }
      case 5:
        return bytes.map((byte, place) => (place >= at && place < end ? byte ^ (1 << this.below(8)) : byte));
      default:
        return joined(bytes.subarray(0, at), encoder.encode(this.pick(TOKENS)), bytes.subarray(at));
    }
  }
}

function joined(...parts: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}
