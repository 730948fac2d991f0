import { ListedWords, lengthOf } from '../text/index.ts';

/** A stretch of a text: a name that stands in it, or what stands around. */
export type NamedPart = { text: string; isName: boolean };

/** A line of somebody else's ad: as it reads, and as a line of ours to start from. */
export type RivalLine = {
  parts: NamedPart[];
  /** As a pattern's line: a gap where a name stood, and no token that was not meant. */
  line: string;
  isLong: boolean;
};

/** More lines of one note are left out. */
export const MOST_RIVAL_LINES = 60;
/** What is longer than this is no headline. */
const HEADLINE = 34;
/** Words that one name may have. */
const MOST_WORDS = 6;

const ADDRESS = /^(?:https?:\/\/)?(?:[\p{L}\p{N}-]+\.)+\p{L}{2,}(?:\/\S*)?$/iu;
/** What stands between the headlines of an ad that was copied as one line. */
const BETWEEN = /\s+[|·•–—]\s+/u;

/** The lines of a pasted ad, each once, headlines that stood in one line apart; addresses are left out. */
export function rivalLines(text: string, names: readonly string[]): RivalLine[] {
  const listed = new ListedWords(names);
  const lines = new Set(
    text
      .split(/\r?\n/)
      .flatMap((line) => (line.length <= 120 ? line.split(BETWEEN) : [line]))
      .map((line) => line.replace(/\s+/g, ' ').trim())
      .filter((line) => line !== '' && !ADDRESS.test(line)),
  );
  return [...lines].slice(0, MOST_RIVAL_LINES).map((line) => {
    const parts = namedParts(line, listed);
    return {
      parts,
      line: parts
        .map((part) => (part.isName ? '@gap(your own name)' : part.text.replaceAll('@', '')))
        .join(''),
      isLong: lengthOf(line) > HEADLINE,
    };
  });
}

/** A text with the listed names in it told apart, however they are written there. */
export function namedParts(text: string, listed: ListedWords): NamedPart[] {
  const words = [...text.matchAll(/[\p{L}\p{M}\p{N}'’.-]+|&/gu)].map(({ index, 0: word }) => ({
    from: index,
    to: index + word.length,
  }));
  const has = (first: number, last: number) =>
    listed.in(text.slice(words[first]?.from, words[last]?.to)) !== null;
  const parts: NamedPart[] = [];
  let end = 0;
  const put = (to: number, isName: boolean) => {
    if (to > end) parts.push({ text: text.slice(end, to), isName });
    end = Math.max(end, to);
  };
  for (let at = 0; at < words.length; at++) {
    let last = at;
    while (last < words.length && last < at + MOST_WORDS && !has(at, last)) last++;
    // A name begins with its first word.
    if (last >= words.length || last >= at + MOST_WORDS || (last > at && has(at + 1, last))) continue;
    put(words[at]?.from ?? 0, false);
    put(words[last]?.to ?? 0, true);
    at = last;
  }
  put(text.length, false);
  return parts;
}
