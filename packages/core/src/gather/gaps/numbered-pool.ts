import { countAt, float64At, int32At, itemAt, uint32At } from '../../access/index.ts';
import { type LanguagePack, rememberingFold } from '../../text/index.ts';
import { NO_CLASS } from './classes.ts';
import { type ContextIndex, LEAST_MEMBERS, mixed, type NumberedWords, P, Q } from './contexts.ts';
import { KeyTable } from './key-table.ts';

/** A context is filled by most of a class. */
export const MOST_OF_CLASS = 0.5;

/** The keywords that gaps are looked for in, in normal form; all of them, whatever their state. */
export type GapPool = { length: number; normOf: (row: number) => string };

/** The pool's words as numbers, and whole texts by their hashes. */
export class NumberedPool implements NumberedWords {
  readonly tokens: Uint32Array;
  readonly starts: Uint32Array;
  readonly texts: string[] = [];
  /** What each word is in the singular, and whether it is a function word. */
  readonly foldOf: Uint32Array;
  readonly isFunction: Uint8Array;
  private readonly numbers = new Map<string, number>();
  private readonly whole: KeyTable;
  private readonly twins: KeyTable;

  constructor(pool: GapPool, pack: LanguagePack) {
    const { numbers } = this;
    const tokens: number[] = [];
    this.starts = new Uint32Array(pool.length + 1);
    for (let row = 0; row < pool.length; row++) {
      for (const word of pool.normOf(row).split(' ')) {
        let number = numbers.get(word);
        if (number === undefined) {
          number = this.texts.push(word) - 1;
          numbers.set(word, number);
        }
        tokens.push(number);
      }
      this.starts[row + 1] = tokens.length;
    }
    this.tokens = Uint32Array.from(tokens);
    const fold = rememberingFold(pack.numberFold);
    const folds = new Map<string, number>();
    this.foldOf = Uint32Array.from(this.texts, (text) => {
      const folded = fold(text);
      const known = folds.get(folded) ?? folds.size;
      folds.set(folded, known);
      return known;
    });
    this.isFunction = Uint8Array.from(this.texts, (text) => (pack.functionWords.has(text) ? 1 : 0));
    this.whole = new KeyTable(pool.length);
    this.twins = new KeyTable(pool.length);
    for (let row = 0; row < pool.length; row++) {
      const line = this.tokens.subarray(uint32At(this.starts, row), uint32At(this.starts, row + 1));
      this.whole.add(...this.keyOf(line, line.length));
      this.twins.add(...this.twinKeyOf(line, line.length));
    }
  }

  numberOf = (word: string): number => this.numbers.get(word) ?? -1;

  keyOf(line: ArrayLike<number>, length: number): [number, number] {
    let [a, b] = [0x1357, 0x2468];
    for (let at = 0; at < length; at++) {
      a = mixed(a, countAt(line, at), P);
      b = mixed(b, countAt(line, at), Q);
    }
    return [a, b];
  }

  /** A key that texts share which differ in number, order or function words alone. */
  private twinKeyOf(line: ArrayLike<number>, length: number): [number, number] {
    let [a, b] = [0, 0];
    for (let at = 0; at < length; at++) {
      const word = countAt(line, at);
      if (this.isFunction[word] === 1) continue;
      a = (a + mixed(0x51, uint32At(this.foldOf, word), P)) | 0;
      b = (b + mixed(0x52, uint32At(this.foldOf, word), Q)) | 0;
    }
    return [a, b];
  }

  has = (line: ArrayLike<number>, length: number): boolean =>
    this.whole.find(...this.keyOf(line, length)) >= 0;
  hasTwin = (line: ArrayLike<number>, length: number): boolean =>
    this.twins.find(...this.twinKeyOf(line, length)) >= 0;

  /** A content word twice makes no keyword. */
  repeats(line: ArrayLike<number>, length: number): boolean {
    for (let at = 1; at < length; at++) {
      const word = countAt(line, at);
      if (this.isFunction[word] === 1) continue;
      for (let before = 0; before < at; before++)
        if (this.foldOf[countAt(line, before)] === this.foldOf[word]) return true;
    }
    return false;
  }

  textOf = (line: ArrayLike<number>, from: number, to: number): string => {
    let text = '';
    for (let at = from; at < to; at++) text += `${at > from ? ' ' : ''}${this.texts[countAt(line, at)]}`;
    return text;
  };
}

/** What is proposed, in columns: the chance that none of its contexts is right, and the fullest one. */
export type Proposals = {
  count: number;
  wrong: Float64Array;
  best: Float64Array;
  context: Uint32Array;
  filler: Uint32Array;
  isTwin: Uint8Array;
  there: Uint32Array;
};

export function proposals(
  words: NumberedPool,
  index: ContextIndex,
  classOf: Int32Array,
  sizes: Uint32Array,
): Proposals {
  const { members, starts } = index;
  const ofClass: number[][] = Array.from(sizes, () => []);
  classOf.forEach((one, filler) => {
    if (one !== NO_CLASS) ofClass[one]?.push(filler);
  });
  const keys = new KeyTable(16_384);
  let room = 16_384;
  let out: Proposals = room0(room);
  const stamp = new Int32Array(index.fillers).fill(-1);
  const line = new Uint32Array(32);
  const counts = new Map<number, number>();
  for (let context = 0; context < starts.length - 1; context++) {
    counts.clear();
    for (let at = uint32At(starts, context); at < uint32At(starts, context + 1); at++) {
      const filler = uint32At(members, at);
      stamp[filler] = context;
      const one = int32At(classOf, filler);
      if (one !== NO_CLASS) counts.set(one, (counts.get(one) ?? 0) + 1);
    }
    for (const [one, there] of counts) {
      const size = uint32At(sizes, one);
      if (there < LEAST_MEMBERS || there === size || there <= size * MOST_OF_CLASS) continue;
      const fill = there / size;
      for (const filler of itemAt(ofClass, one)) {
        if (stamp[filler] === context) continue;
        const length = lineOf(words, index, context, filler, line);
        if (words.has(line, length) || words.repeats(line, length)) continue;
        const number = keys.add(...words.keyOf(line, length));
        if (number === out.count) {
          if (number === room) {
            room *= 2;
            out = larger(out, room);
          }
          out.count++;
          out.wrong[number] = 1;
          out.isTwin[number] = words.hasTwin(line, length) ? 1 : 0;
        }
        out.wrong[number] = float64At(out.wrong, number) * (1 - fill);
        if (fill <= float64At(out.best, number)) continue;
        out.best[number] = fill;
        out.context[number] = context;
        out.filler[number] = filler;
        out.there[number] = there;
      }
    }
  }
  return out;
}

const room0 = (room: number): Proposals => ({
  count: 0,
  wrong: new Float64Array(room),
  best: new Float64Array(room),
  context: new Uint32Array(room),
  filler: new Uint32Array(room),
  isTwin: new Uint8Array(room),
  there: new Uint32Array(room),
});

function larger(old: Proposals, room: number): Proposals {
  const next = room0(room);
  next.count = old.count;
  for (const name of ['wrong', 'best', 'context', 'filler', 'isTwin', 'there'] as const)
    (next[name] as Float64Array).set(old[name] as Float64Array);
  return next;
}

/** Writes the words of a context with its hole filled; answers how many they are. */
export function lineOf(
  { tokens, starts }: NumberedWords,
  { contextAt, fillerAt }: ContextIndex,
  context: number,
  filler: number,
  line: Uint32Array,
): number {
  const row = uint32At(contextAt, context * 2);
  const hole = uint32At(contextAt, context * 2 + 1);
  const from = uint32At(starts, row);
  const holeAt = from + (hole >> 3);
  const behind = holeAt + (hole & 7);
  let length = 0;
  for (let at = from; at < holeAt; at++) line[length++] = uint32At(tokens, at);
  const run = uint32At(fillerAt, filler * 2 + 1);
  const runAt = uint32At(starts, uint32At(fillerAt, filler * 2)) + (run >> 3);
  for (let at = runAt; at < runAt + (run & 7); at++) line[length++] = uint32At(tokens, at);
  for (let at = behind; at < uint32At(starts, row + 1); at++) line[length++] = uint32At(tokens, at);
  return length;
}

/** Whether a number is among sorted ones, from one place up to another. */
export function holds(sorted: Uint32Array, from: number, to: number, value: number): boolean {
  let low = from;
  let high = to;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (uint32At(sorted, middle) < value) low = middle + 1;
    else high = middle;
  }
  return low < to && sorted[low] === value;
}
