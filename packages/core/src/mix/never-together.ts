import { itemAt } from '../access/index.ts';
import { normalise } from '../text/index.ts';
import type { NeverPair, Side } from './recipe.ts';

/** A piece of a combination: the text of one slot, and its list; null for a joining word. */
export type Piece = { text: string; list: number | null };

type CompiledSide = { key: string; list: number | null; words: string[] };

/**
 * Pairs that are never together. A word or run of words is met where its words, plural or not, stand in a row in the
 * combination; a list where a slot of it brings something. A list and a word, or two lists, must be met in different
 * slots: `tallowby bay` of the list Places is not kept from itself by the word `bay`.
 */
export class Pairs {
  /** For each side the sides that it is never together with. */
  readonly partners: number[][] = [];
  /** A side may stand together with another one inside one slot: both are words. */
  readonly isWord: boolean[];

  constructor(
    readonly sides: readonly CompiledSide[],
    readonly pairs: readonly (readonly [number, number])[],
    private readonly fold: (word: string) => string,
  ) {
    this.isWord = sides.map(({ list }) => list === null);
    this.partners = sides.map(() => []);
    for (const [one, other] of pairs) {
      this.partners[one]?.push(other);
      if (one !== other) this.partners[other]?.push(one);
    }
  }

  get any(): boolean {
    return this.pairs.length > 0;
  }

  /** The sides that one slot's text has by itself. */
  sidesOf(text: string, list: number | null): number[] {
    if (!this.any) return [];
    const words = this.folded(text);
    return this.sides.flatMap((side, at) => {
      const met = side.list === null ? runAt(words, side.words, 0) >= 0 : side.list === list;
      return met ? [at] : [];
    });
  }

  /** True where a run of words could be made of the ends of several slots' texts, so that the whole must be read. */
  canStraddle(texts: Iterable<string>): boolean {
    const runs = this.sides.filter(({ words }) => words.length > 1);
    if (runs.length === 0) return false;
    const before = new Set(runs.flatMap(({ words }) => words.slice(0, -1)));
    const after = new Set(runs.flatMap(({ words }) => words.slice(1)));
    let ends = false;
    let begins = false;
    for (const text of texts) {
      const words = this.folded(text);
      ends ||= before.has(words.at(-1) ?? '');
      begins ||= after.has(words[0] ?? '');
    }
    return ends && begins;
  }

  /** Whether a pair meets in a combination, by its pieces as a whole. */
  meets(pieces: readonly Piece[]): boolean {
    const words: string[] = [];
    const slots: number[] = [];
    pieces.forEach(({ text }, slot) => {
      for (const word of this.folded(text)) {
        words.push(word);
        slots.push(slot);
      }
    });
    return this.pairs.some(([one, other]) =>
      meetings(itemAt(this.sides, one), pieces, words, slots).some((left) =>
        meetings(itemAt(this.sides, other), pieces, words, slots).some(
          (right) =>
            (this.isWord[one] && this.isWord[other] && one !== other) || left.join() !== right.join(),
        ),
      ),
    );
  }

  private folded(text: string): string[] {
    return text === '' ? [] : text.split(' ').map(this.fold);
  }
}

/** The places in which a side is met, each as the slots that it covers. */
function meetings(
  { list, words: run }: CompiledSide,
  pieces: readonly Piece[],
  words: readonly string[],
  slots: readonly number[],
): number[][] {
  if (list !== null) return pieces.flatMap((piece, slot) => (piece.list === list ? [[slot]] : []));
  const found: number[][] = [];
  for (let at = runAt(words, run, 0); at >= 0; at = runAt(words, run, at + 1))
    found.push([...new Set(slots.slice(at, at + run.length))]);
  return found;
}

/** Where a run of words begins among others, from a place on; -1 where it does not. */
function runAt(words: readonly string[], run: readonly string[], from: number): number {
  if (run.length === 0) return -1;
  for (let at = from; at + run.length <= words.length; at++)
    if (run.every((word, next) => words[at + next] === word)) return at;
  return -1;
}

export function compilePairs(pairs: readonly NeverPair[], fold: (word: string) => string): Pairs {
  const sides: CompiledSide[] = [];
  const places = new Map<string, number>();
  const placeOf = (side: Side) => {
    const words = side.kind === 'word' ? normalise(side.text).split(' ').filter(Boolean).map(fold) : [];
    const list = side.kind === 'list' ? side.list : null;
    const key = list === null ? `word ${words.join(' ')}` : `list ${list}`;
    const place = places.get(key) ?? sides.push({ key, list, words }) - 1;
    places.set(key, place);
    return place;
  };
  const compiled = pairs.map(([one, other]) => [placeOf(one), placeOf(other)] as const);
  return new Pairs(sides, compiled, fold);
}
