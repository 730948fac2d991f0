import { uint32At } from '../access/index.ts';
import { type FunnelStage, type LanguagePack, normalise, type SignalWord } from '../text/index.ts';
import type { PoolWords } from './pool-words.ts';

/** The places of a plan count as signals of `ready`, after all others. */
export type SignalSource = { signals: readonly SignalWord[]; places: readonly string[] };

/** A signal or a place that stands in the pool; its words by their folds. */
export type Run = { text: string; words: number[]; order: number; stage: FunnelStage; isPlace: boolean };

/**
 * Signal words and places of a pool. A signal is met by the number fold of its words, in a row; the first in the list
 * that a keyword holds tells its stage.
 */
export class Signals {
  /** The runs that begin with each fold, longest first. */
  private readonly runs = new Map<number, Run[]>();

  constructor(
    private readonly words: PoolWords,
    { signals, places }: SignalSource,
  ) {
    signals.forEach(({ text, stage }, order) => {
      this.add(text, stage, order, false);
    });
    places.forEach((text, at) => {
      this.add(text, 'ready', signals.length + at, true);
    });
    for (const list of this.runs.values()) list.sort((a, b) => b.words.length - a.words.length);
  }

  private add(text: string, stage: FunnelStage, order: number, isPlace: boolean) {
    const folds = normalise(text)
      .split(' ')
      .map((word) => this.words.foldNumber(word));
    const [first] = folds;
    // A signal of which the pool lacks a word is in none of its keywords.
    if (first === undefined || folds.some((fold) => fold === undefined)) return;
    const run = { text: normalise(text), words: folds as number[], order, stage, isPlace };
    const list = this.runs.get(first);
    if (list) list.push(run);
    else this.runs.set(first, [run]);
  }

  /** The stage that a keyword's own words tell; null where they tell none. */
  stageOf(row: number): FunnelStage | null {
    let best: Run | null = null;
    this.each(row, (run) => {
      if (best === null || run.order < best.order) best = run;
    });
    return (best as Run | null)?.stage ?? null;
  }

  /** The signals and places that a row holds; `marks` is written from 0, one for each of its words in one of them. */
  runsOf(row: number, marks: Uint8Array, visit: (run: Run) => void): void {
    const length = uint32At(this.words.starts, row + 1) - uint32At(this.words.starts, row);
    marks.fill(0, 0, length);
    this.each(row, (run, at) => {
      marks.fill(1, at, at + run.words.length);
      visit(run);
    });
  }

  /** Every run that stands in a row, with where it begins among the row's tokens. */
  private each(row: number, visit: (run: Run, at: number) => void) {
    const { starts, tokens, foldOf } = this.words;
    const from = uint32At(starts, row);
    const to = uint32At(starts, row + 1);
    for (let at = from; at < to; at++)
      for (const run of this.runs.get(uint32At(foldOf, uint32At(tokens, at))) ?? []) {
        if (at + run.words.length > to) continue;
        if (run.words.every((fold, next) => foldOf[uint32At(tokens, at + next)] === fold))
          visit(run, at - from);
      }
  }
}

/** The signals that a plan uses: its own list, or that of its language. */
export const signalsFor = (
  pack: LanguagePack,
  own: readonly SignalWord[] | null,
  places: readonly string[],
): SignalSource => ({ signals: own ?? pack.signalWords, places });
