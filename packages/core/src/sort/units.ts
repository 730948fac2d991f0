import { itemAt, numberAt, stringAt, uint32At } from '../access/index.ts';
import { grown } from '../text/index.ts';
import type { PoolWords } from './pool-words.ts';
import type { Signals } from './stages.ts';

/** What a unit speaks of: the goods and their traits, or the searcher: what they want, where, and the words between. */
export const CONTENT = 0;
export const WANT = 1;
export const WHERE = 2;
export const BETWEEN = 3;
export type UnitClass = 0 | 1 | 2 | 3;

/**
 * What the keywords of a pool speak of. A unit is a stem, with all words of the pool that share it, or a signal or a
 * place, which may be a run of words. A word that also stands apart (`paddleboard`, `paddle-board`, `paddle board`) is
 * the units of its parts. Each row has the units of its content first, then the others, each once; a row without
 * content counts all it has as content.
 */
export class Units {
  /** Terms of a sift that hold for exactly the keywords with the unit, the most usual first. */
  readonly terms: string[][] = [];
  readonly classes: UnitClass[] = [];
  /** Units of all rows one after another, each row's from `starts[row]` to `starts[row + 1]`. */
  readonly flat: Uint32Array;
  readonly starts: Uint32Array;
  /** Where each row's content ends. */
  readonly contentEnds: Uint32Array;
  private readonly numbers = new Map<string, number>();

  constructor(
    readonly words: PoolWords,
    signals: Signals,
  ) {
    const { starts, tokens, foldOf } = words;
    const rows = starts.length - 1;
    const ofFold = this.unitsOfFolds();
    this.starts = new Uint32Array(rows + 1);
    this.contentEnds = new Uint32Array(rows);
    let flat = new Uint32Array(tokens.length + 16);
    let end = 0;
    const marks = new Uint8Array(256);
    const others: number[] = [];
    const tally = { [CONTENT]: new Tally(), [WANT]: new Tally(), [WHERE]: new Tally() };
    for (let row = 0; row < rows; row++) {
      const from = uint32At(starts, row);
      const length = Math.min(marks.length, uint32At(starts, row + 1) - from);
      const begin = end;
      others.length = 0;
      signals.runsOf(row, marks, (run) => {
        if (run.words.length > 1) others.push(this.unitOfRun(run.text, run.isPlace));
        for (const fold of run.words)
          for (const unit of itemAt(ofFold, fold)) tally[run.isPlace ? WHERE : WANT].add(unit);
      });
      for (let at = 0; at < length; at++) {
        const isContent = marks[at] === 0;
        for (const unit of itemAt(ofFold, uint32At(foldOf, uint32At(tokens, from + at)))) {
          if (isContent) tally[CONTENT].add(unit);
          if (!isContent || this.classes[unit] !== CONTENT) others.push(unit);
          else if (!holds(flat, begin, end, unit)) {
            if (end === flat.length) flat = grown(flat);
            flat[end++] = unit;
          }
        }
      }
      this.contentEnds[row] = end;
      for (const unit of others) {
        if (holds(flat, begin, end, unit)) continue;
        if (end === flat.length) flat = grown(flat);
        flat[end++] = unit;
      }
      if (this.contentEnds[row] === begin) this.contentEnds[row] = end;
      this.starts[row + 1] = end;
    }
    this.flat = flat.subarray(0, end);
    this.classByUse(tally);
  }

  get size(): number {
    return this.terms.length;
  }

  contentOf(row: number): Uint32Array {
    return this.flat.subarray(this.starts[row], this.contentEnds[row]);
  }

  allOf(row: number): Uint32Array {
    return this.flat.subarray(this.starts[row], this.starts[row + 1]);
  }

  has(row: number, unit: number): boolean {
    return holds(this.flat, uint32At(this.starts, row), uint32At(this.starts, row + 1), unit);
  }

  private numberOf(key: string, kind: UnitClass): number {
    const known = this.numbers.get(key);
    if (known !== undefined) return known;
    const unit = this.terms.push([]) - 1;
    this.classes.push(kind);
    this.numbers.set(key, unit);
    return unit;
  }

  /** A unit that mostly stands in signals or places is of theirs, wherever it stands. */
  private classByUse(tally: Record<typeof CONTENT | typeof WANT | typeof WHERE, Tally>) {
    for (let unit = 0; unit < this.size; unit++) {
      const wants = tally[WANT].of(unit);
      const places = tally[WHERE].of(unit);
      if (wants + places > tally[CONTENT].of(unit)) this.classes[unit] = places > wants ? WHERE : WANT;
    }
  }

  private unitOfRun(text: string, isPlace: boolean): number {
    const unit = this.numberOf(` ${text}`, isPlace ? WHERE : WANT);
    const terms = itemAt(this.terms, unit);
    if (terms.length === 0) terms.push(`"${text}"`);
    return unit;
  }

  /** The units of each fold of the pool; mostly one. */
  private unitsOfFolds(): number[][] {
    const { foldTexts, pack, wordsOfFold } = this.words;
    const usual = foldTexts.map((_, fold) =>
      itemAt(wordsOfFold, fold).reduce((sum, word) => sum + this.words.countOf(word), 0),
    );
    const apart = standingApart(this.words);
    const units = foldTexts.map((text, fold) =>
      (apart.get(fold) ?? partsOf(text)).map((part) => this.numberOf(pack.stem(part), this.classOf(part))),
    );
    const byUse = Array.from(foldTexts.keys()).sort(
      (a, b) =>
        numberAt(usual, b) - numberAt(usual, a) || (stringAt(foldTexts, a) < stringAt(foldTexts, b) ? -1 : 1),
    );
    for (const fold of byUse)
      for (const unit of new Set(units[fold])) itemAt(this.terms, unit).push(stringAt(foldTexts, fold));
    return units;
  }

  private classOf(word: string): UnitClass {
    const { functionWords, questionWords } = this.words.pack;
    return functionWords.has(word) || questionWords.has(word) ? BETWEEN : CONTENT;
  }
}

class Tally {
  private readonly counts = new Map<number, number>();

  add(unit: number): void {
    this.counts.set(unit, (this.counts.get(unit) ?? 0) + 1);
  }

  of = (unit: number): number => this.counts.get(unit) ?? 0;
}

function holds(flat: Uint32Array, from: number, to: number, unit: number): boolean {
  for (let at = from; at < to; at++) if (flat[at] === unit) return true;
  return false;
}

const partsOf = (text: string): string[] => {
  const parts = text.split('-').filter((part) => part !== '');
  return parts.length > 1 ? parts : [text];
};

const ENDS_IN_DIGIT = /\d$/;

/** Folds that also stand as two words in a row somewhere in the pool, with those two. */
function standingApart({
  tokens,
  starts,
  foldOf,
  foldTexts,
  texts,
  foldNumber,
}: PoolWords): Map<number, string[]> {
  const apart = new Map<number, string[]>();
  const begins = new Set<string>();
  for (const text of foldTexts)
    for (let end = 2; end < text.length - 1; end++) begins.add(text.slice(0, end));
  const canBegin = texts.map((text) => text.length > 1 && begins.has(text) && !ENDS_IN_DIGIT.test(text));
  const seen = new Set<number>();
  for (let row = 0; row < starts.length - 1; row++)
    for (let at = uint32At(starts, row); at < uint32At(starts, row + 1) - 1; at++) {
      const first = uint32At(tokens, at);
      if (!canBegin[first]) continue;
      const second = uint32At(foldOf, uint32At(tokens, at + 1));
      const pair = first * foldTexts.length + second;
      if (seen.has(pair)) continue;
      seen.add(pair);
      const whole = foldNumber(stringAt(texts, first) + stringAt(foldTexts, second));
      if (whole !== undefined && !apart.has(whole))
        apart.set(whole, [stringAt(foldTexts, uint32At(foldOf, first)), stringAt(foldTexts, second)]);
    }
  return apart;
}
