import type { SheetEncoding } from '../outlets/index.ts';
import { WINDOWS } from '../text/index.ts';

const WINDOWS_BYTES = new Map(
  WINDOWS.flatMap((code, at) => (code === 0 ? [] : [[code, 0x80 + at] as const])),
);

export const BYTE_ORDER_MARKS: Record<SheetEncoding, readonly number[]> = {
  'utf-8': [0xef, 0xbb, 0xbf],
  'utf-16le': [0xff, 0xfe],
  'windows-1252': [],
};

/** What every encoding carries: told by one scan. */
const PLAIN = /^[\t\n\r -~]*$/;

/** The first character that an encoding can not carry, and where it stands; null where it carries the whole. */
export function firstNotCarried(
  text: string,
  encoding: SheetEncoding,
): { character: string; at: number } | null {
  if (PLAIN.test(text)) return null;
  if (encoding === 'windows-1252') {
    for (let at = 0; at < text.length; at++) {
      const code = text.codePointAt(at) as number;
      if (byteOf(code) === undefined) return { character: String.fromCodePoint(code), at };
    }
    return null;
  }
  // Half of a pair is no character: neither UTF-8 nor UTF-16 can tell it.
  const half = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/.exec(text);
  return half ? { character: half[0], at: half.index } : null;
}

const byteOf = (code: number): number | undefined =>
  code < 0x80 || (code >= 0xa0 && code < 0x100) ? code : WINDOWS_BYTES.get(code);

/** The bytes of a text. What the encoding can not carry is a `?`; ask `firstNotCarried` before. `utf8` is the platform's. */
export function encodeText(
  text: string,
  encoding: SheetEncoding,
  utf8: (text: string) => Uint8Array,
): Uint8Array {
  if (encoding === 'utf-8') return utf8(text);
  if (encoding === 'utf-16le') {
    const bytes = new Uint8Array(text.length * 2);
    for (let at = 0; at < text.length; at++) {
      const code = text.charCodeAt(at);
      bytes[at * 2] = code & 0xff;
      bytes[at * 2 + 1] = code >> 8;
    }
    return bytes;
  }
  const bytes: number[] = [];
  for (const character of text) bytes.push(byteOf(character.codePointAt(0) as number) ?? 0x3f);
  return Uint8Array.from(bytes);
}
