import { itemAt, stringAt, uint32At } from '../access/index.ts';
import { grown, type LanguagePack } from '../text/index.ts';
import type { KeywordState } from './sift.ts';

/** The pool in columns, as Sort reads it: by row. `searchesOf` and `cpcOf` give -1 for no figure. */
export type SortPool = {
  length: number;
  isIn: (row: number) => boolean;
  /** For sifting what is out; only keywords that are in have themes. */
  stateOf?: (row: number) => KeywordState;
  normOf: (row: number) => string;
  searchesOf: (row: number) => number;
  cpcOf?: (row: number) => number;
  sourcesOf?: (row: number) => readonly number[];
};

/**
 * The words of a pool, each with the rows that hold it. `tokens` has the words of all rows one after another, those of
 * a row from `starts[row]` to `starts[row + 1]`; `rows` likewise has the rows of each word, in order and each once. A
 * fold is what words have in common that are the same but for their number. O(total words).
 */
export class PoolWords {
  readonly texts: string[] = [];
  readonly tokens: Uint32Array;
  readonly starts: Uint32Array;
  /** The fold of each word. */
  readonly foldOf: Uint32Array;
  readonly foldTexts: string[] = [];
  /** The words of each fold. */
  readonly wordsOfFold: number[][] = [];
  private readonly numbers = new Map<string, number>();
  private readonly folds = new Map<string, number>();
  private readonly rows: Uint32Array;
  private readonly rowStarts: Uint32Array;
  private sorted: Uint32Array | null = null;

  constructor(
    readonly pool: SortPool,
    readonly pack: LanguagePack,
  ) {
    const { length } = pool;
    this.starts = new Uint32Array(length + 1);
    let tokens = new Uint32Array(Math.max(16, length * 5));
    let end = 0;
    for (let row = 0; row < length; row++) {
      const norm = pool.normOf(row);
      for (let from = 0; from <= norm.length; ) {
        const space = norm.indexOf(' ', from);
        const to = space < 0 ? norm.length : space;
        if (end === tokens.length) tokens = grown(tokens);
        tokens[end++] = this.numberOf(norm.slice(from, to));
        from = to + 1;
      }
      this.starts[row + 1] = end;
    }
    this.tokens = tokens.subarray(0, end);
    this.foldOf = Uint32Array.from(this.texts, (text, word) => this.foldFor(pack.numberFold(text), word));
    const posted = this.post();
    this.rows = posted.rows;
    this.rowStarts = posted.starts;
  }

  /** The number of a word as typed; undefined where no keyword holds it. */
  wordNumber = (word: string): number | undefined => this.numbers.get(word);
  /** The number of a fold, of a word in any number. */
  foldNumber = (word: string): number | undefined => this.folds.get(this.pack.numberFold(word));

  /** The rows that hold a word, in order, each once. */
  rowsOf(word: number): Uint32Array {
    return this.rows.subarray(uint32At(this.rowStarts, word), uint32At(this.rowStarts, word + 1));
  }

  /** The word of a fold that most keywords have. */
  usualWord(fold: number): string {
    const words = itemAt(this.wordsOfFold, fold);
    const usual = words.reduce((best, word) => (this.countOf(word) > this.countOf(best) ? word : best));
    return stringAt(this.texts, usual);
  }

  countOf = (word: number): number => uint32At(this.rowStarts, word + 1) - uint32At(this.rowStarts, word);

  /** The words that begin with `stem`. */
  beginningWith(stem: string): number[] {
    this.sorted ??= Uint32Array.from(this.texts.keys()).sort((a, b) =>
      stringAt(this.texts, a) < stringAt(this.texts, b) ? -1 : 1,
    );
    const found: number[] = [];
    for (let at = firstNotBefore(this.sorted, this.texts, stem); at < this.sorted.length; at++) {
      const word = uint32At(this.sorted, at);
      if (!stringAt(this.texts, word).startsWith(stem)) break;
      found.push(word);
    }
    return found;
  }

  private numberOf(word: string): number {
    const known = this.numbers.get(word);
    if (known !== undefined) return known;
    const number = this.texts.push(word) - 1;
    this.numbers.set(word, number);
    return number;
  }

  private foldFor(text: string, word: number): number {
    const known = this.folds.get(text);
    if (known !== undefined) {
      this.wordsOfFold[known]?.push(word);
      return known;
    }
    const fold = this.foldTexts.push(text) - 1;
    this.folds.set(text, fold);
    this.wordsOfFold.push([word]);
    return fold;
  }

  /** Goes through all tokens twice: to count, and to put each row in its place. */
  private post(): { rows: Uint32Array; starts: Uint32Array } {
    const { tokens, starts } = this;
    const words = this.texts.length;
    const last = new Int32Array(words).fill(-1);
    const ends = new Uint32Array(words + 1);
    const eachOnce = (visit: (word: number, row: number) => void) => {
      last.fill(-1);
      for (let row = 0; row < starts.length - 1; row++)
        for (let at = uint32At(starts, row); at < uint32At(starts, row + 1); at++) {
          const word = uint32At(tokens, at);
          if (last[word] === row) continue;
          last[word] = row;
          visit(word, row);
        }
    };
    eachOnce((word) => {
      ends[word + 1] = uint32At(ends, word + 1) + 1;
    });
    for (let word = 0; word < words; word++) ends[word + 1] = uint32At(ends, word + 1) + uint32At(ends, word);
    const next = ends.slice(0, words);
    const rows = new Uint32Array(uint32At(ends, words));
    eachOnce((word, row) => {
      rows[uint32At(next, word)] = row;
      next[word] = uint32At(next, word) + 1;
    });
    return { rows, starts: ends };
  }
}

function firstNotBefore(sorted: Uint32Array, texts: readonly string[], text: string): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (stringAt(texts, uint32At(sorted, middle)) < text) low = middle + 1;
    else high = middle;
  }
  return low;
}
