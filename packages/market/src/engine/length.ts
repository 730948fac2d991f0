const WIDE =
  /[\u1100-\u115f\u2e80-\u303e\u3041-\ua4cf\ua960-\ua97c\uac00-\ud7a3\uf900-\ufaff\ufe30-\ufe6f\uff01-\uff60\uffe0-\uffe6]|\p{Emoji_Presentation}|[\u{20000}-\u{3fffd}]/u;

/** How many places a text takes: composed characters, wide ones two. */
export function textLength(text: string): number {
  let length = 0;
  for (const character of text.normalize('NFC'))
    length += character > '\u10ff' && WIDE.test(character) ? 2 : 1;
  return length;
}
