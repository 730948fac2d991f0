import { eastAsianWidth } from 'get-east-asian-width';

const ASCII = /^[\0-\x7f]*$/;

/**
 * Length for an outlet's limits: code points of the NFC text, East Asian wide and full-width ones counting 2.
 * `lengthOf('Kayak')` is 5, `lengthOf('東京')` is 4.
 */
export function lengthOf(text: string): number {
  if (ASCII.test(text)) return text.length;
  let length = 0;
  for (const character of text.normalize('NFC')) {
    length += eastAsianWidth(character.codePointAt(0) ?? 0) === 2 ? 2 : 1;
  }
  return length;
}

/**
 * `text` cut to at most `limit`, at the end of a word where one fits, else within the first word.
 * `cutAtWord('inflatable sea kayak', 15)` is `inflatable sea`.
 */
export function cutAtWord(text: string, limit: number): string {
  if (lengthOf(text) <= limit) return text;
  let length = 0;
  let end = 0;
  for (const character of text) {
    length += lengthOf(character);
    if (length > limit) break;
    end += character.length;
  }
  const cut = text.slice(0, end);
  if (text[end] === ' ') return cut.trimEnd();
  const space = cut.lastIndexOf(' ');
  return (space > 0 ? cut.slice(0, space) : cut).trimEnd();
}
