import { int32At, itemAt, numberAt, stringAt, uint8At, uint32At } from '../access/index.ts';
import { narrownessOf } from './match-type.ts';
import type { Matching, MatchType } from './types/index.ts';

/** A keyword row as the index needs it: `owner` is a number by which the caller knows its ad group. */
export type IndexedRow = { norm: string; type: MatchType; marks?: readonly number[]; owner: number };

/** A search taken apart: its words' folds in order, as numbers, and the stems that keywords may answer by. */
export type ReadSearch = {
  folds: Int32Array;
  /** What a keyword may answer by, rarest first. */
  stems: readonly number[];
  /** The stems of its own words; below zero where no keyword has them. */
  own: ReadonlySet<number>;
};

/** Room for a stem's number beside a node's in one key. */
const STEMS = 2 ** 22;
const UNKNOWN = -1;
const EXACT = narrownessOf('exact');
const PHRASE = narrownessOf('phrase');
const MODIFIED = narrownessOf('modified');

/**
 * Finds the keyword rows that can answer a search. Texts stand in a set trie: a path of the content stems of a text,
 * rarest first; of a search only those paths are walked whose stems it has. So a search costs what can answer it, and
 * a lookup for each stem at each step. O(total words) to build.
 */
export class AnswerIndex {
  private readonly words = new Map<string, number>();
  private readonly foldOfWord: number[] = [];
  private readonly stemOfWord: number[] = [];
  private readonly isFunction: boolean[] = [];
  private readonly folds = new Map<string, number>();
  private readonly stems = new Map<string, number>();
  private readonly texts = new Map<string, number>();
  readonly textNorms: string[] = [];
  private readonly foldsOfText: Int32Array[] = [];
  private readonly wordsOfText: Int32Array[] = [];
  private readonly stemsOfText: number[][] = [];
  private readonly rankOf: Int32Array;
  private readonly children = new Map<number, number>();
  private readonly textsOfNode: (number[] | undefined)[] = [undefined];
  /** Rows of a text: from `rowStarts[text]` to the next, in `rowsByText`. */
  private readonly rowsByText: Uint32Array;
  private readonly rowStarts: Uint32Array;
  readonly textOfRow: Uint32Array;
  readonly typeOfRow: Uint8Array;
  readonly ownerOfRow: Uint32Array;
  private readonly marksOfRow = new Map<number, readonly number[]>();
  private readonly synonyms: Map<number, number[]>;

  constructor(
    rows: readonly IndexedRow[],
    private readonly matching: Matching,
  ) {
    const { length } = rows;
    this.textOfRow = new Uint32Array(length);
    this.typeOfRow = new Uint8Array(length);
    this.ownerOfRow = new Uint32Array(length);
    for (let at = 0; at < length; at++) {
      const row = itemAt(rows, at);
      this.textOfRow[at] = this.numberOfText(row.norm);
      this.typeOfRow[at] = narrownessOf(row.type);
      this.ownerOfRow[at] = row.owner;
      if (row.type === 'modified' && row.marks && row.marks.length > 0) this.marksOfRow.set(at, row.marks);
    }
    const posted = this.postRows();
    this.rowsByText = posted.rows;
    this.rowStarts = posted.starts;
    this.rankOf = this.rankStems();
    for (let text = 0; text < this.textNorms.length; text++) this.insert(text);
    this.synonyms = this.knownSynonyms();
  }

  get length(): number {
    return this.textOfRow.length;
  }

  numberOf = (norm: string): number | undefined => this.texts.get(norm);

  normOfRow = (row: number): string => stringAt(this.textNorms, uint32At(this.textOfRow, row));
  marksOf = (row: number): readonly number[] => this.marksOfRow.get(row) ?? [];

  /** The stems of all words of a row's text, each once. */
  stemSetOf = (row: number): ReadonlySet<number> =>
    new Set(
      Array.from(itemAt(this.wordsOfText, uint32At(this.textOfRow, row)), (word) =>
        numberAt(this.stemOfWord, word),
      ),
    );

  rowsOfText(text: number): Uint32Array {
    return this.rowsByText.subarray(uint32At(this.rowStarts, text), uint32At(this.rowStarts, text + 1));
  }

  read(search: string): ReadSearch {
    const words = search.split(' ');
    const folds = new Int32Array(words.length);
    const own = new Set<number>();
    const able = new Set<number>();
    words.forEach((word, at) => {
      const known = this.words.get(word);
      folds[at] = known === undefined ? this.foldOfUnknown(word) : numberAt(this.foldOfWord, known);
      const stem =
        known === undefined
          ? (this.stems.get(this.matching.pack.stem(word)) ?? this.strangerTo(word))
          : numberAt(this.stemOfWord, known);
      own.add(stem);
      if (stem >= 0) able.add(stem);
      for (const other of this.synonymsOf(word, stem)) able.add(other);
    });
    const stems = [...able].sort((a, b) => int32At(this.rankOf, a) - int32At(this.rankOf, b));
    return { folds, stems, own };
  }

  /** The text of a keyword as a search: faster, since it has been taken apart before. */
  readText(text: number): ReadSearch {
    const words = itemAt(this.wordsOfText, text);
    const folds = itemAt(this.foldsOfText, text);
    const own = new Set<number>();
    const stems: number[] = [];
    const add = (stem: number) => {
      if (!stems.includes(stem)) stems.push(stem);
    };
    for (const word of words) {
      const stem = numberAt(this.stemOfWord, word);
      own.add(stem);
      add(stem);
      if (this.synonyms.size > 0) this.synonyms.get(stem)?.forEach(add);
    }
    stems.sort((a, b) => int32At(this.rankOf, a) - int32At(this.rankOf, b));
    return { folds, stems, own };
  }

  /** Visits every row that can answer, in no order; `read` is the search taken apart. */
  each(read: ReadSearch, visit: (row: number) => void): void {
    this.walk(0, 0, read, visit);
  }

  private walk(node: number, from: number, read: ReadSearch, visit: (row: number) => void): void {
    for (const text of this.textsOfNode[node] ?? []) this.visitText(text, read, visit);
    const { stems } = read;
    for (let at = from; at < stems.length; at++) {
      const child = this.children.get(node * STEMS + numberAt(stems, at));
      if (child !== undefined) this.walk(child, at + 1, read, visit);
    }
  }

  private visitText(text: number, read: ReadSearch, visit: (row: number) => void): void {
    const folds = itemAt(this.foldsOfText, text);
    const inRow = isRunIn(folds, read.folds);
    const isSame = inRow && folds.length === read.folds.length;
    const to = uint32At(this.rowStarts, text + 1);
    for (let at = uint32At(this.rowStarts, text); at < to; at++) {
      const row = uint32At(this.rowsByText, at);
      const type = uint8At(this.typeOfRow, row);
      if (
        type === EXACT
          ? isSame
          : type === PHRASE
            ? inRow
            : type !== MODIFIED || this.hasMarked(row, folds, read)
      )
        visit(row);
    }
  }

  private hasMarked(row: number, folds: Int32Array, read: ReadSearch): boolean {
    const marks = this.marksOfRow.get(row);
    if (!marks) return folds.every((fold) => read.folds.includes(fold));
    return marks.every((at) => at >= folds.length || read.folds.includes(int32At(folds, at)));
  }

  private foldOfUnknown(word: string): number {
    return this.folds.get(this.matching.pack.numberFold(word)) ?? UNKNOWN;
  }

  private readonly strangers = new Map<string, number>();

  /** A stem that no keyword has still counts for how close a keyword is: below zero, so that no path has it. */
  private strangerTo(word: string): number {
    const stem = this.matching.pack.stem(word);
    const known = this.strangers.get(stem);
    if (known !== undefined) return known;
    // Numbers are only told apart within a search; a long life of searches must not fill memory.
    if (this.strangers.size > 10_000) this.strangers.clear();
    const number = -2 - this.strangers.size;
    this.strangers.set(stem, number);
    return number;
  }

  private synonymsOf(word: string, stem: number): readonly number[] {
    if (this.matching.synonyms.size === 0) return NONE;
    if (stem >= 0) return this.synonyms.get(stem) ?? NONE;
    return this.numbersOf(this.matching.synonyms.get(this.matching.pack.stem(word)) ?? []);
  }

  private numbersOf(stems: Iterable<string>): number[] {
    return [...stems].flatMap((stem) => this.stems.get(stem) ?? []);
  }

  private knownSynonyms(): Map<number, number[]> {
    const known = new Map<number, number[]>();
    for (const [stem, others] of this.matching.synonyms) {
      const number = this.stems.get(stem);
      if (number !== undefined) known.set(number, this.numbersOf(others));
    }
    return known;
  }

  private numberOfText(norm: string): number {
    const known = this.texts.get(norm);
    if (known !== undefined) return known;
    const number = this.textNorms.push(norm) - 1;
    this.texts.set(norm, number);
    const words = this.wordNumbers(norm);
    this.wordsOfText.push(Int32Array.from(words));
    this.foldsOfText.push(Int32Array.from(words, (word) => numberAt(this.foldOfWord, word)));
    const content = words.filter((word) => !this.isFunction[word]);
    const stems = (content.length > 0 ? content : words).map((word) => numberAt(this.stemOfWord, word));
    this.stemsOfText.push(stems.length > 1 ? [...new Set(stems)] : stems);
    return number;
  }

  private wordNumbers(norm: string): number[] {
    return norm.split(' ').map((word) => {
      const known = this.words.get(word);
      if (known !== undefined) return known;
      const { pack } = this.matching;
      const number = this.words.size;
      this.words.set(word, number);
      this.foldOfWord.push(numberIn(this.folds, pack.numberFold(word)));
      this.stemOfWord.push(numberIn(this.stems, pack.stem(word)));
      this.isFunction.push(pack.functionWords.has(word));
      return number;
    });
  }

  private rankStems(): Int32Array {
    const counts = new Uint32Array(this.stems.size);
    for (const stems of this.stemsOfText) for (const stem of stems) counts[stem] = uint32At(counts, stem) + 1;
    const rarestFirst = Int32Array.from(counts.keys()).sort(
      (a, b) => uint32At(counts, a) - uint32At(counts, b) || a - b,
    );
    const rankOf = new Int32Array(counts.length);
    rarestFirst.forEach((stem, rank) => {
      rankOf[stem] = rank;
    });
    return rankOf;
  }

  private insert(text: number): void {
    const path = itemAt(this.stemsOfText, text).sort(
      (a, b) => int32At(this.rankOf, a) - int32At(this.rankOf, b),
    );
    let node = 0;
    for (const stem of path) {
      const key = node * STEMS + stem;
      let child = this.children.get(key);
      if (child === undefined) {
        child = this.textsOfNode.push(undefined) - 1;
        this.children.set(key, child);
      }
      node = child;
    }
    const there = this.textsOfNode[node];
    if (there) there.push(text);
    else this.textsOfNode[node] = [text];
  }

  private postRows(): { rows: Uint32Array; starts: Uint32Array } {
    const texts = this.textNorms.length;
    const starts = new Uint32Array(texts + 1);
    for (const text of this.textOfRow) starts[text + 1] = uint32At(starts, text + 1) + 1;
    for (let text = 0; text < texts; text++)
      starts[text + 1] = uint32At(starts, text + 1) + uint32At(starts, text);
    const next = starts.slice(0, texts);
    const rows = new Uint32Array(this.textOfRow.length);
    this.textOfRow.forEach((text, row) => {
      rows[uint32At(next, text)] = row;
      next[text] = uint32At(next, text) + 1;
    });
    return { rows, starts };
  }
}

const NONE: readonly number[] = [];

function numberIn(map: Map<string, number>, text: string): number {
  const known = map.get(text);
  if (known !== undefined) return known;
  map.set(text, map.size);
  return map.size - 1;
}

/** An unknown word's fold is -1 and is never in a keyword. */
function isRunIn(run: Int32Array, words: Int32Array): boolean {
  const last = words.length - run.length;
  for (let at = 0; at <= last; at++) {
    let same = 0;
    while (same < run.length && words[at + same] === run[same]) same++;
    if (same === run.length) return true;
  }
  return false;
}
