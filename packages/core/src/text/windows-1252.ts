/** What Windows-1252 has in the place of the control characters from 0x80 on; 0: nothing. */
export const WINDOWS: readonly number[] = [
  0x20ac, 0, 0x201a, 0x0192, 0x201e, 0x2026, 0x2020, 0x2021, 0x02c6, 0x2030, 0x0160, 0x2039, 0x0152, 0,
  0x017d, 0, 0, 0x2018, 0x2019, 0x201c, 0x201d, 0x2022, 0x2013, 0x2014, 0x02dc, 0x2122, 0x0161, 0x203a,
  0x0153, 0, 0x017e, 0x0178,
];

const PIECE = 8_192;
const codeOf = (byte: number): number => (byte < 0x80 || byte > 0x9f ? byte : WINDOWS[byte - 0x80] || byte);

/** The text of bytes in Windows-1252; a byte that stands for nothing becomes the control character of its number. O(length). */
export function windowsText(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < bytes.length; at += PIECE)
    text += String.fromCharCode(...Array.from(bytes.subarray(at, at + PIECE), codeOf));
  return text;
}
