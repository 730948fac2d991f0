import { countAt, int32At, numberAt, uint32At } from '../../access/index.ts';
import { grown } from '../../text/index.ts';
import { KeyTable } from './key-table.ts';

/** The longest run of words that fills a context. */
const LONGEST_FILLER = 3;
const LONGEST_KEYWORD = 8;
/** A context tells something from so many fillers on. */
export const LEAST_MEMBERS = 3;

/** The words of a pool's keywords as numbers: those of a keyword from `starts[row]` to `starts[row + 1]`. */
export type NumberedWords = { tokens: Uint32Array; starts: Uint32Array };

/**
 * Which runs of words stand in which contexts: `cast iron _`, `_ for sale`. Only contexts that at least three runs
 * fill, by number: the members of a context from `starts[context]` to `starts[context + 1]`, each once, ascending.
 * O(total words × runs of a keyword).
 */
export type ContextIndex = {
  members: Uint32Array;
  starts: Uint32Array;
  /** Where each context and each filler is first met; the place of a context is that of its hole. */
  contextAt: Uint32Array;
  fillerAt: Uint32Array;
  fillers: number;
  /** The number of a run of words as a filler; -1 where none is. */
  fillerOf: (run: ArrayLike<number>) => number;
};

/** Where a run stands: keyword, first word, length. A text is put together from it only when it is asked for. */
const packPlace = (row: number, at: number, length: number): [number, number] => [row, at * 8 + length];

export const P = 0x9e3779b1;
export const Q = 0x85ebca6b;
const FILLER: readonly [number, number] = [0x3456789, 0x9876543];
/** A word more in a hash of 32 bits; by `P` and by `Q` for the two halves of a key. */
export const mixed = (hash: number, word: number, by: number): number => {
  const next = Math.imul(hash ^ (word + 0x7f4a7c15), by);
  return next ^ (next >>> 15);
};

export function contextIndex({ tokens, starts }: NumberedWords): ContextIndex {
  const rows = starts.length - 1;
  const contexts = new KeyTable(tokens.length);
  const fillers = new KeyTable(tokens.length);
  let pairs = new Uint32Array(Math.max(64, tokens.length * 4));
  let count = 0;
  const contextAt: number[] = [];
  const fillerAt: number[] = [];
  const prefixA = new Int32Array(LONGEST_KEYWORD + 1);
  const prefixB = new Int32Array(LONGEST_KEYWORD + 1);
  const suffixA = new Int32Array(LONGEST_KEYWORD + 1);
  const suffixB = new Int32Array(LONGEST_KEYWORD + 1);
  for (let row = 0; row < rows; row++) {
    const from = uint32At(starts, row);
    const length = uint32At(starts, row + 1) - from;
    if (length < 2 || length > LONGEST_KEYWORD) continue;
    prefixA[0] = 0x1234567;
    prefixB[0] = 0x7654321;
    for (let at = 0; at < length; at++) {
      prefixA[at + 1] = mixed(int32At(prefixA, at), uint32At(tokens, from + at), P);
      prefixB[at + 1] = mixed(int32At(prefixB, at), uint32At(tokens, from + at), Q);
    }
    suffixA[length] = 0x2345678;
    suffixB[length] = 0x8765432;
    for (let at = length - 1; at >= 0; at--) {
      suffixA[at] = mixed(int32At(suffixA, at + 1), uint32At(tokens, from + at), P);
      suffixB[at] = mixed(int32At(suffixB, at + 1), uint32At(tokens, from + at), Q);
    }
    for (let at = 0; at < length; at++) {
      let [a, b] = FILLER;
      const most = Math.min(LONGEST_FILLER, length - at, length - 1);
      for (let size = 1; size <= most; size++) {
        a = mixed(a, uint32At(tokens, from + at + size - 1), P);
        b = mixed(b, uint32At(tokens, from + at + size - 1), Q);
        const filler = fillers.add(a, b);
        if (filler === fillerAt.length / 2) fillerAt.push(...packPlace(row, at, size));
        const context = contexts.add(
          mixed(int32At(prefixA, at), int32At(suffixA, at + size), P),
          mixed(int32At(prefixB, at), int32At(suffixB, at + size), Q),
        );
        if (context === contextAt.length / 2) contextAt.push(...packPlace(row, at, size));
        if (count + 2 > pairs.length) {
          pairs = grown(pairs);
        }
        pairs[count++] = context;
        pairs[count++] = filler;
      }
    }
  }
  return {
    ...gathered(pairs.subarray(0, count), contexts.length, contextAt, fillerAt),
    fillerOf: (run) => {
      let [a, b] = FILLER;
      for (let at = 0; at < run.length; at++) {
        a = mixed(a, countAt(run, at), P);
        b = mixed(b, countAt(run, at), Q);
      }
      return fillers.find(a, b);
    },
  };
}

/** Puts the pairs of contexts and fillers by context, and leaves out contexts with too few. */
function gathered(
  pairs: Uint32Array,
  contexts: number,
  contextAt: number[],
  fillerAt: number[],
): Omit<ContextIndex, 'fillerOf'> {
  const counts = new Uint32Array(contexts);
  for (let at = 0; at < pairs.length; at += 2) {
    const context = uint32At(pairs, at);
    counts[context] = uint32At(counts, context) + 1;
  }
  const numberOf = new Int32Array(contexts).fill(-1);
  const ends: number[] = [0];
  const places: number[] = [];
  let kept = 0;
  let total = 0;
  for (let context = 0; context < contexts; context++) {
    if (uint32At(counts, context) < LEAST_MEMBERS) continue;
    numberOf[context] = kept++;
    total += uint32At(counts, context);
    ends.push(total);
    places.push(numberAt(contextAt, context * 2), numberAt(contextAt, context * 2 + 1));
  }
  const starts = Uint32Array.from(ends);
  const next = starts.slice(0, kept);
  const members = new Uint32Array(total);
  for (let at = 0; at < pairs.length; at += 2) {
    const context = int32At(numberOf, uint32At(pairs, at));
    if (context < 0) continue;
    members[uint32At(next, context)] = uint32At(pairs, at + 1);
    next[context] = uint32At(next, context) + 1;
  }
  for (let context = 0; context < kept; context++)
    members.subarray(uint32At(starts, context), uint32At(starts, context + 1)).sort();
  return {
    members,
    starts,
    contextAt: Uint32Array.from(places),
    fillerAt: Uint32Array.from(fillerAt),
    fillers: fillerAt.length / 2,
  };
}
