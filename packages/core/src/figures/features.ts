import { int32At, numberAt, uint32At } from '../access/index.ts';
import type { PairTable } from './pair-table.ts';
import { FORMS, ORDER_FORM, type ReadKeyword, UNKNOWN } from './reader.ts';

/** Kinds of features, each with a penalty of its own. */
const STEM = 0;
const RUN = 1;
const REST = 2;

const MOST_WORDS = 5;
const STAGES = 3;

/** What is known of two stems that stand in one told keyword, by their number in the table of pairs. */
export type Pairs = {
  table: PairTable;
  /** The number of their run among the features of runs; -1 where it is none. */
  runs: Int32Array;
  /** 1: most told keywords have the run with the later stem first. */
  turned: Uint8Array;
};

/**
 * Where each feature stands among all: the stems, the first stems, the last ones, the number of words, the stages, a
 * place at all, each place, the forms, a stem that hardly anyone has, and the runs.
 */
export class Features {
  readonly first: number;
  readonly last: number;
  readonly words: number;
  readonly stages: number;
  readonly place: number;
  readonly places: number;
  readonly forms: number;
  readonly rare: number;
  readonly runs: number;
  readonly count: number;

  constructor(
    readonly stems: number,
    places: number,
    /** How many told keywords hold each stem. */
    readonly toldOf: Uint32Array,
    readonly pairs: Pairs,
    runs: number,
  ) {
    this.first = stems;
    this.last = stems * 2;
    this.words = stems * 3;
    this.stages = this.words + MOST_WORDS;
    this.place = this.stages + STAGES;
    this.places = this.place + 1;
    this.forms = this.places + places;
    this.rare = this.forms + FORMS.length;
    this.runs = this.rare + 1;
    this.count = this.runs + runs;
  }

  kinds(): Uint8Array {
    const kinds = new Uint8Array(this.count).fill(REST);
    kinds.fill(STEM, 0, this.stems);
    kinds.fill(STEM, this.places, this.forms);
    kinds.fill(RUN, this.runs);
    return kinds;
  }

  /** The feature of a run of two stems; -1 where it is none. */
  runOf(a: number, b: number): number {
    const pair = this.pairs.table.find(a, b);
    const run = pair < 0 ? -1 : int32At(this.pairs.runs, pair);
    return run < 0 ? -1 : this.runs + run;
  }

  /** Writes the features of a keyword into `out` and answers how many they are, each once. */
  of(
    { stems, count: length, line, lineCount, words, forms, stage, place }: ReadKeyword,
    out: number[],
  ): number {
    const { toldOf, pairs } = this;
    let count = 0;
    let isRare = false;
    let allForms = forms;
    for (let at = 0; at < length; at++) {
      const stem = numberAt(stems, at);
      if (stem === UNKNOWN) {
        isRare = true;
        continue;
      }
      if (uint32At(toldOf, stem) < 2) isRare = true;
      if (!isBefore(stems, at, stem)) out[count++] = stem;
    }
    for (let at = 0; at + 1 < lineCount; at++) {
      const stem = numberAt(line, at);
      const next = numberAt(line, at + 1);
      if (stem === UNKNOWN || next === UNKNOWN || next === stem) continue;
      const pair = pairs.table.find(stem, next);
      const run = pair < 0 ? -1 : int32At(pairs.runs, pair);
      if (run < 0) continue;
      const feature = this.runs + run;
      if (!holds(out, count, feature)) out[count++] = feature;
      if ((pairs.turned[pair] === 1) !== stem > next) allForms |= ORDER_FORM;
    }
    if (length > 0) {
      const first = numberAt(stems, 0);
      const last = numberAt(stems, length - 1);
      if (first !== UNKNOWN) out[count++] = this.first + first;
      if (last !== UNKNOWN) out[count++] = this.last + last;
    }
    out[count++] = this.words + (words < MOST_WORDS ? words : MOST_WORDS) - 1;
    if (stage >= 0) out[count++] = this.stages + stage;
    if (place >= 0) {
      out[count++] = this.place;
      out[count++] = this.places + place;
    }
    if (isRare) out[count++] = this.rare;
    if (allForms !== 0)
      for (let form = 0; form < FORMS.length; form++)
        if (allForms & (1 << form)) out[count++] = this.forms + form;
    return count;
  }
}

export function isBefore(stems: readonly number[], at: number, stem: number): boolean {
  for (let before = 0; before < at; before++) if (stems[before] === stem) return true;
  return false;
}

function holds(list: readonly number[], length: number, value: number): boolean {
  for (let at = 0; at < length; at++) if (list[at] === value) return true;
  return false;
}
