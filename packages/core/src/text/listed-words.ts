import { decoded } from './decoded.ts';
import { lengthOf } from './length.ts';
import { normalise } from './normal-form.ts';
import { numberFold, rememberingFold } from './number-fold.ts';

const ASCII = /^[\0-\x7f]*$/;
/** A name as short as this is told apart only word for word: joined, it would be found within others. */
const SHORT = 3;
/** Two letters tell enough for a quick look, whatever a plural does to the end of a word. */
const HINT = 2;

type Named = { text: string; words: number; short: boolean };

/**
 * Listed names, such as rivals, brands and words not to use, found as look-alikes are: in any case and number, with or
 * without spaces, hyphens, marks and *and* between their words, joined as in an address, with an `'s` behind.
 * `Fathom & Reed` is found in `fathom and reed`, `fathom reeds` and `fathomandreed`; `Timberline` in `timber-lines`.
 * O(words of the text) for each look.
 */
export class ListedWords {
  /** By their words, folded and joined; and once more with the *and* in them. */
  private readonly names = new Map<string, Named>();
  private readonly longest: number;
  private readonly fold = rememberingFold(numberFold);
  /** Of an ASCII text: without a match nothing is in it. */
  private readonly hint: RegExp;

  constructor(list: readonly string[]) {
    for (const text of list) {
      const words = this.wordsOf(text);
      if (words.length === 0) continue;
      const whole = normalise(text)
        .replaceAll('&', 'and')
        .replace(/[^\p{L}\p{M}\p{N}]+/gu, '');
      for (const joined of [words.join(''), this.fold(whole)])
        if (!this.names.has(joined))
          this.names.set(joined, { text, words: words.length, short: lengthOf(joined) <= SHORT });
    }
    this.longest = Math.max(0, ...[...this.names.keys()].map((name) => name.length));
    const begins = new Set([...this.names.keys()].map((name) => name.slice(0, HINT)));
    this.hint = new RegExp([...begins].map((begin) => [...begin].map(escaped).join("['-]?")).join('|'), 'i');
  }

  get isEmpty(): boolean {
    return this.names.size === 0;
  }

  /** The first of the names in a text, path or address, as it stands on the list. */
  in(text: string): string | null {
    if (this.isEmpty || text === '') return null;
    if (ASCII.test(text) && !this.hint.test(text)) return null;
    const words = this.wordsOf(text);
    for (let at = 0; at < words.length; at++) {
      const found = this.beginningAt(words, at);
      if (found) return found.text;
    }
    return null;
  }

  /** All of the names in a text, each as it stands on the list; of names within each other only the longer one. */
  allIn(text: string): string[] {
    if (this.isEmpty || text === '' || (ASCII.test(text) && !this.hint.test(text))) return [];
    const words = this.wordsOf(text);
    const all: string[] = [];
    for (let at = 0; at < words.length; at++) {
      const found = this.beginningAt(words, at);
      if (!found) continue;
      all.push(found.text);
      at = found.end - 1;
    }
    return all;
  }

  /** The longest name that begins at a word, and where the words behind it begin. */
  private beginningAt(words: readonly string[], at: number): { text: string; end: number } | null {
    let found: { text: string; end: number } | null = null;
    let joined = '';
    for (let end = at; end < words.length; end++) {
      joined += words[end];
      if (joined.length > this.longest) break;
      const named = this.names.get(joined);
      if (named && (!named.short || named.words === end - at + 1)) found = { text: named.text, end: end + 1 };
    }
    return found;
  }

  /** Finds listed words in an address: its host may have the name joined with other words. */
  inAddress(address: string): string | null {
    const plain = decoded(address);
    const found = this.in(plain);
    if (found !== null) return found;
    const host = /^[a-z]+:\/\/([^/?#]*)/i.exec(plain)?.[1]?.toLowerCase() ?? '';
    for (const [joined, { text }] of this.names)
      if (joined.length > SHORT + 1 && host.includes(joined)) return text;
    return null;
  }

  private wordsOf = (text: string): string[] => spoken(text).map(this.fold);
}

const escaped = (character: string): string => character.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&');

/** The words of a text as one says them: without marks, an `and` for none, an `'s` off. */
function spoken(text: string): string[] {
  return normalise(text)
    .replace(/'s(?![\p{L}\p{N}])/gu, '')
    .replace(/'/g, '')
    .split(/[^\p{L}\p{M}\p{N}]+/u)
    .filter((word) => word !== '' && word !== 'and');
}
