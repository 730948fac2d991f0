import { int32At, itemAt, numberAt, uint8At, uint32At } from '../access/index.ts';
import {
  type CompiledMix,
  type CompiledPattern,
  type CompiledSlot,
  compileMix,
  contentWords,
  type MixInput,
} from './compile.ts';
import { placeOf, type TextIndex, tableSize } from './hash.ts';
import type { Piece } from './never-together.ts';

/** Why a combination is dropped, in the order in which they are looked at. */
export const dropReasons = [
  'empty',
  'repeated-word',
  'never-together',
  'alone',
  'made-before',
  'too-long',
] as const;
export type DropReason = (typeof dropReasons)[number];

const eachReason = <T>(of: () => T): Record<DropReason, T> =>
  Object.fromEntries(dropReasons.map((reason) => [reason, of()])) as Record<DropReason, T>;

/** How many dropped combinations of each reason are kept to be listed. */
const LISTED = 500;

/**
 * What a recipe makes. A combination is known by its place among all of them, dropped ones included: patterns one
 * after another, each in its own order and then, with flip, in reverse. Texts are put together when they are asked for.
 */
export type Mixture = {
  compiled: CompiledMix;
  /** The places of the combinations that are made, rising. */
  made: Uint32Array;
  /** The first place of each pattern, and at the end the number of places. */
  bases: number[];
  /** How many of those made are of each pattern. */
  madeBy: number[];
  dropped: Record<DropReason, number>;
  /** Places of the first dropped ones of each reason. */
  listed: Record<DropReason, number[]>;
  /** Hashes of the texts made, for looking them up elsewhere. */
  hashA: Int32Array;
  hashB: Int32Array;
};

/**
 * Makes every combination of a recipe: leftmost slot slowest, an optional slot's nothing last, each text once. The
 * work for one combination does not grow with its length, but for its last slot. O(combinations).
 */
export function mix(input: MixInput | CompiledMix): Mixture {
  const compiled = 'patterns' in input ? input : compileMix(input);
  return new ProductWalk(compiled).run();
}

class ProductWalk {
  private readonly mixture: Mixture;
  private readonly table: Int32Array;
  private readonly seen: Uint8Array;
  private readonly sideCount: Int32Array;
  private size = 0;
  private base = 0;
  private slots: readonly CompiledSlot[] = [];
  private straddles = false;
  /** Levels above that already repeat a word, or hold a pair that is never together. */
  private repeating = 0;
  private meeting = 0;
  /** Levels above that bring something, and those of them that make no keyword by themselves. */
  private brought = 0;
  private lonely = 0;

  constructor(private readonly compiled: CompiledMix) {
    const places = compiled.patterns.map(placesOf);
    const total = places.reduce((sum, count) => sum + count, 0);
    const bases = [0];
    for (const count of places) bases.push(numberAt(bases, bases.length - 1) + count);
    this.table = new Int32Array(tableSize(total));
    this.seen = new Uint8Array(compiled.contentWords);
    this.sideCount = new Int32Array(compiled.pairs.sides.length);
    this.mixture = {
      compiled,
      made: new Uint32Array(total),
      bases,
      madeBy: [],
      dropped: eachReason(() => 0),
      listed: eachReason(() => []),
      hashA: new Int32Array(total),
      hashB: new Int32Array(total),
    };
  }

  run(): Mixture {
    const { mixture } = this;
    this.compiled.patterns.forEach((pattern, at) => {
      const before = this.size;
      this.turn(pattern.slots, numberAt(mixture.bases, at));
      if (pattern.flip) this.turn(pattern.slots.toReversed(), numberAt(mixture.bases, at) + pattern.once);
      mixture.madeBy.push(this.size - before);
    });
    mixture.made = mixture.made.slice(0, this.size);
    mixture.hashA = mixture.hashA.slice(0, this.size);
    mixture.hashB = mixture.hashB.slice(0, this.size);
    return mixture;
  }

  private turn(slots: readonly CompiledSlot[], base: number) {
    this.slots = slots;
    this.base = base;
    const { pairs } = this.compiled;
    this.straddles = pairs.any && pairs.canStraddle(slots.flatMap(({ texts }) => texts));
    this.descend(0, 0, 0, 0, 0, 0, 0);
  }

  /** Every option of one level, on what the levels before it have brought together. */
  private descend(
    level: number,
    a: number,
    b: number,
    length: number,
    words: number,
    contents: number,
    index: number,
  ) {
    const slot = itemAt(this.slots, level);
    if (level === this.slots.length - 1) return this.leaves(slot, a, b, length, words, contents, index);
    const { size, optional, lengths, wordCounts, starts } = slot;
    for (let option = 0; option < size; option++) {
      const next = index * size + option;
      if (optional && option === size - 1) {
        this.descend(level + 1, a, b, length, words, contents, next);
        continue;
      }
      const isFirst = words === 0;
      const nextA = isFirst
        ? slot.firstA[option]
        : (Math.imul(a, int32At(slot.stepA, option)) + int32At(slot.nextA, option)) | 0;
      const nextB = isFirst
        ? slot.firstB[option]
        : (Math.imul(b, int32At(slot.stepB, option)) + int32At(slot.nextB, option)) | 0;
      const repeats = this.enter(slot, option);
      this.descend(
        level + 1,
        nextA as number,
        nextB as number,
        length + int32At(lengths, option) + (isFirst ? 0 : 1),
        words + int32At(wordCounts, option),
        contents + int32At(starts, option + 1) - int32At(starts, option),
        next,
      );
      this.leave(slot, option, repeats);
    }
  }

  /** The last level: the only loop that runs once for each combination. */
  private leaves(
    slot: CompiledSlot,
    a: number,
    b: number,
    length: number,
    words: number,
    contents: number,
    index: number,
  ) {
    const { size, optional, lengths, wordCounts, starts, contents: ids, doubled } = slot;
    const { limits, recipe } = this.compiled.input;
    const { seen } = this;
    const repeatsAllowed = recipe.repeats;
    const anyPairs = this.compiled.pairs.any;
    const isFirst = words === 0;
    const gap = isFirst ? 0 : 1;
    const last = optional ? size - 1 : size;
    const from = this.base + index * size;
    for (let option = 0; option < last; option++) {
      const place = from + option;
      const start = int32At(starts, option);
      const end = int32At(starts, option + 1);
      if (!repeatsAllowed) {
        let repeats = this.repeating > 0 || doubled[option] === 1;
        for (let at = start; at < end && !repeats; at++) repeats = seen[int32At(ids, at)] !== 0;
        if (!repeats && contents === 0 && start === end) repeats = this.repeatsFunctionWord(place);
        if (repeats) {
          this.drop('repeated-word', place);
          continue;
        }
      }
      if (anyPairs && this.neverTogether(slot, option, place)) {
        this.drop('never-together', place);
        continue;
      }
      if (isFirst && slot.lonely[option] === 1) {
        this.drop('alone', place);
        continue;
      }
      const hashA = isFirst
        ? int32At(slot.firstA, option)
        : (Math.imul(a, int32At(slot.stepA, option)) + int32At(slot.nextA, option)) | 0;
      const hashB = isFirst
        ? int32At(slot.firstB, option)
        : (Math.imul(b, int32At(slot.stepB, option)) + int32At(slot.nextB, option)) | 0;
      const tooLong =
        words + int32At(wordCounts, option) > limits.words ||
        length + gap + int32At(lengths, option) > limits.length;
      this.keep(place, hashA, hashB, tooLong);
    }
    if (last < size) this.without(from + last, a, b, length, words, contents);
  }

  /** The last slot left out. */
  private without(place: number, a: number, b: number, length: number, words: number, contents: number) {
    const { limits, recipe } = this.compiled.input;
    if (words === 0) return this.drop('empty', place);
    if (!recipe.repeats && (this.repeating > 0 || (contents === 0 && this.repeatsFunctionWord(place))))
      return this.drop('repeated-word', place);
    if (this.compiled.pairs.any && (this.meeting > 0 || (this.straddles && this.readsTogether(place))))
      return this.drop('never-together', place);
    if (this.brought === 1 && this.lonely === 1) return this.drop('alone', place);
    this.keep(place, a, b, words > limits.words || length > limits.length);
  }

  /** Takes an option's words and sides in; answers whether one of its words was there already. */
  private enter(slot: CompiledSlot, option: number): boolean {
    const { starts, contents, doubled, sides } = slot;
    let repeats = doubled[option] === 1;
    for (let at = int32At(starts, option); at < int32At(starts, option + 1); at++) {
      const id = int32At(contents, at);
      if (this.seen[id] !== 0) repeats = true;
      this.seen[id] = uint8At(this.seen, id) + 1;
    }
    if (repeats) this.repeating++;
    this.brought++;
    this.lonely += uint8At(slot.lonely, option);
    if (this.compiled.pairs.any) {
      if (this.meetsAbove(slot, option)) this.meeting++;
      for (const side of itemAt(sides, option)) this.sideCount[side] = int32At(this.sideCount, side) + 1;
    }
    return repeats;
  }

  private leave(slot: CompiledSlot, option: number, repeats: boolean) {
    const { starts, contents, sides } = slot;
    for (let at = int32At(starts, option); at < int32At(starts, option + 1); at++)
      this.seen[int32At(contents, at)] = uint8At(this.seen, int32At(contents, at)) - 1;
    if (repeats) this.repeating--;
    this.brought--;
    this.lonely -= uint8At(slot.lonely, option);
    if (this.compiled.pairs.any) {
      for (const side of itemAt(sides, option)) this.sideCount[side] = int32At(this.sideCount, side) - 1;
      if (this.meetsAbove(slot, option)) this.meeting--;
    }
  }

  private neverTogether(slot: CompiledSlot, option: number, place: number): boolean {
    if (this.meeting > 0 || this.meetsAbove(slot, option)) return true;
    return this.straddles && this.readsTogether(place);
  }

  /** Whether the option has a side whose partner stands in a slot before it, or both words of a pair by itself. */
  private meetsAbove(slot: CompiledSlot, option: number): boolean {
    const own = itemAt(slot.sides, option);
    const { partners, isWord } = this.compiled.pairs;
    for (const side of own)
      for (const partner of itemAt(partners, side))
        if (
          int32At(this.sideCount, partner) > 0 ||
          (partner !== side && isWord[side] && isWord[partner] && own.includes(partner))
        )
          return true;
    return false;
  }

  private readsTogether(place: number): boolean {
    return this.compiled.pairs.meets(piecesAt(this.mixture, place));
  }

  /** A combination of function words alone counts all its words as content. */
  private repeatsFunctionWord(place: number): boolean {
    const { fold, input } = this.compiled;
    const words = contentWords(textAt(this.mixture, place).split(' '), input.pack).map(fold);
    return new Set(words).size < words.length;
  }

  private keep(place: number, a: number, b: number, tooLong: boolean) {
    const { made, hashA, hashB } = this.mixture;
    const mask = this.table.length - 1;
    let slot = placeOf(a, b, mask);
    for (let entry = int32At(this.table, slot); entry !== 0; entry = int32At(this.table, slot)) {
      const at = entry - 1;
      if (hashA[at] === a && hashB[at] === b && this.isSame(uint32At(made, at), place))
        return this.drop('made-before', place);
      slot = (slot + 1) & mask;
    }
    if (tooLong) return this.drop('too-long', place);
    made[this.size] = place;
    hashA[this.size] = a;
    hashB[this.size] = b;
    this.table[slot] = ++this.size;
  }

  private isSame(one: number, other: number): boolean {
    return textAt(this.mixture, one) === textAt(this.mixture, other);
  }

  private drop(reason: DropReason, place: number) {
    const { dropped, listed } = this.mixture;
    dropped[reason]++;
    if (listed[reason].length < LISTED) listed[reason].push(place);
  }
}

const placesOf = ({ once, flip }: CompiledPattern): number => (flip ? once * 2 : once);

/** The pattern (its place among those compiled) that a combination is of. */
export function patternAt({ bases }: Mixture, place: number): number {
  let low = 0;
  let high = bases.length - 2;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (numberAt(bases, middle) <= place) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** For each slot of a combination's pattern, as the pattern is written, which option it has. */
export function optionsAt(
  mixture: Mixture,
  place: number,
): { pattern: CompiledPattern; options: number[]; flipped: boolean } {
  const at = patternAt(mixture, place);
  const pattern = itemAt(mixture.compiled.patterns, at);
  let rest = place - numberAt(mixture.bases, at);
  const flipped = rest >= pattern.once;
  if (flipped) rest -= pattern.once;
  const { slots } = pattern;
  const options = new Array<number>(slots.length);
  for (let step = slots.length - 1; step >= 0; step--) {
    const slot = flipped ? slots.length - 1 - step : step;
    const { size } = itemAt(slots, slot);
    options[slot] = rest % size;
    rest = Math.floor(rest / size);
  }
  return { pattern, options, flipped };
}

/** The pieces of a combination in the order in which they are read; those left out are not there. */
export function piecesAt(mixture: Mixture, place: number): Piece[] {
  const { pattern, options, flipped } = optionsAt(mixture, place);
  const pieces = pattern.slots.flatMap(({ texts, list }, slot) => {
    const text = texts[numberAt(options, slot)];
    return text === undefined ? [] : [{ text, list }];
  });
  return flipped ? pieces.reverse() : pieces;
}

/** The text of a combination. Read from its last slot to its first, which is how its place falls apart. */
export function textAt(mixture: Mixture, place: number): string {
  const at = patternAt(mixture, place);
  const { slots, once } = itemAt(mixture.compiled.patterns, at);
  let rest = place - numberAt(mixture.bases, at);
  const flipped = rest >= once;
  if (flipped) rest -= once;
  let text = '';
  for (let step = slots.length - 1; step >= 0; step--) {
    const { size, texts } = itemAt(slots, flipped ? slots.length - 1 - step : step);
    const next = Math.floor(rest / size);
    const piece = texts[rest - next * size];
    rest = next;
    if (piece !== undefined) text = text === '' ? piece : `${piece} ${text}`;
  }
  return text;
}

/** Every text that is made, in order. */
export function* textsOf(mixture: Mixture): Generator<string> {
  for (const place of mixture.made) yield textAt(mixture, place);
}

/** Where each text made stands in an index of others; -1 where it does not. */
export function lookUpAll(mixture: Mixture, index: TextIndex): Int32Array {
  const { made, hashA, hashB } = mixture;
  const found = new Int32Array(made.length);
  for (let at = 0; at < made.length; at++)
    found[at] = index.find(int32At(hashA, at), int32At(hashB, at), () => textAt(mixture, uint32At(made, at)));
  return found;
}
