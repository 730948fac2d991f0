import { countAt, int32At, numberAt, stringAt, uint8At, uint32At } from '../access/index.ts';
import { type AnswerIndex, narrownessOf } from '../match/index.ts';
import type { FenceKind } from './layout.ts';

/** The enabled rows of a plan, with the targeting class of each ad group. Groups are the index's owners. */
export type FencePlan = {
  index: AnswerIndex;
  groups: number;
  /** The class of each group's targeting, and whether two classes overlap. */
  classOf: ArrayLike<number>;
  overlaps: (a: number, b: number) => boolean;
  /** Monthly searches of a text of the index; -1 for none. Used where a group may not have all its fences. */
  searchesOf: (text: number) => number;
  /** The most negatives that a group may hold. */
  limit?: number;
};

/**
 * A negative that keeps searches in their own ad group: in `group`, the text of the index that belongs to `keeper`.
 * As columns, since there may be a million.
 */
export type Fences = {
  group: Uint32Array;
  text: Uint32Array;
  /** 1: a negative phrase; 0: a negative exact. */
  phrase: Uint8Array;
  /** The group whose keyword it is. */
  keeper: Uint32Array;
  length: number;
  /** Fences that would have gone over a group's limit; the most searched were made. */
  left: number;
};

const EXACT = narrownessOf('exact');

/**
 * The fences of a plan. Exact: for each keyword text, every other group with overlapping targeting in which some keyword
 * can answer it gets it as a negative exact, unless it is one of its keepers: those that hold the text in the narrowest
 * match type in which anyone does. Tight: for each phrase, modified or broad keyword, every other group of which such a
 * keyword's text stands within it gets it as a negative phrase, unless that would block one of the group's own
 * keywords; exact fences that such a phrase covers are not made. Never all pairs: an index finds what answers, and runs
 * of words are looked up. O(what can answer).
 */
export function makeFences(plan: FencePlan, kind: FenceKind): Fences {
  const builder = new FenceBuilder(plan);
  if (kind !== 'off') builder.make(kind);
  return builder.done();
}

/** How many there would be, without keeping them: the count is known before they are made. */
export function countFences(plan: FencePlan, kind: FenceKind): number {
  const builder = new FenceBuilder(plan, true);
  if (kind !== 'off') builder.make(kind);
  return builder.count;
}

class FenceBuilder {
  count = 0;
  private readonly group: number[] = [];
  private readonly text: number[] = [];
  private readonly phrase: number[] = [];
  private readonly keeper: number[] = [];
  /** The last text for which a group was looked at, and for which it was found to hold it as exact. */
  private readonly seen: Int32Array;
  private readonly owns: Int32Array;

  constructor(
    private readonly plan: FencePlan,
    private readonly onlyCounts = false,
  ) {
    this.seen = new Int32Array(plan.groups).fill(-1);
    this.owns = new Int32Array(plan.groups).fill(-1);
  }

  make(kind: Exclude<FenceKind, 'off'>) {
    const phrases = kind === 'tight' ? this.phraseFences() : null;
    this.exactFences(phrases);
  }

  private add(group: number, text: number, isPhrase: boolean, keeper: number) {
    this.count++;
    if (this.onlyCounts) return;
    this.group.push(group);
    this.text.push(text);
    this.phrase.push(isPhrase ? 1 : 0);
    this.keeper.push(keeper);
  }

  private exactFences(phrases: PhraseFences | null) {
    const { index, overlaps, classOf } = this.plan;
    for (let text = 0; text < index.textNorms.length; text++) {
      const keepers = keepersOf(index, text);
      if (keepers.length === 0) continue;
      const covering = phrases?.coveringOf(text) ?? NONE;
      for (const group of keepers) this.owns[group] = text;
      index.each(index.readText(text), (row) => {
        const group = uint32At(index.ownerOfRow, row);
        if (this.seen[group] === text || this.owns[group] === text) return;
        this.seen[group] = text;
        const keeper = keepers.find((one) => overlaps(countAt(classOf, one), countAt(classOf, group)));
        if (keeper === undefined || covering.some((phrase) => phrases?.has(group, phrase))) return;
        this.add(group, text, false, keeper);
      });
    }
  }

  private phraseFences(): PhraseFences {
    const { index, groups, classOf, overlaps } = this.plan;
    const holdersOf = new Map<number, number[]>();
    for (let text = 0; text < index.textNorms.length; text++) {
      const holders = groupsOf(index, text, (type) => type !== EXACT);
      if (holders.length > 0) holdersOf.set(text, holders);
    }
    const fences = new PhraseFences(index, groups, (text) => holdersOf.has(text));
    const textsWith = fences.textsByPhrase();
    /** The last phrase that would block a keyword of the group. */
    const blocked = new Int32Array(groups).fill(-1);
    for (const [text, keepers] of holdersOf) {
      for (const holder of textsWith(text))
        for (const row of index.rowsOfText(holder)) blocked[uint32At(index.ownerOfRow, row)] = text;
      for (const inner of fences.runsOf(text)) {
        if (inner === text) continue;
        for (const row of index.rowsOfText(inner)) {
          if (index.typeOfRow[row] === EXACT) continue;
          const group = uint32At(index.ownerOfRow, row);
          if (blocked[group] === text || fences.has(group, text)) continue;
          const keeper = keepers.find(
            (one) => one !== group && overlaps(countAt(classOf, one), countAt(classOf, group)),
          );
          if (keeper === undefined) continue;
          fences.add(group, text);
          this.add(group, text, true, keeper);
        }
      }
    }
    return fences;
  }

  done(): Fences {
    const order = this.inLimit();
    const pick = (list: readonly number[]) => Uint32Array.from(order, (at) => numberAt(list, at));
    return {
      group: pick(this.group),
      text: pick(this.text),
      phrase: Uint8Array.from(order, (at) => numberAt(this.phrase, at)),
      keeper: pick(this.keeper),
      length: order.length,
      left: this.group.length - order.length,
    };
  }

  /** By group, and within it the most searched first, then by text; at most as many as a group may hold. */
  private inLimit(): Uint32Array {
    const { index, searchesOf, groups, limit = Number.POSITIVE_INFINITY } = this.plan;
    const searches = Int32Array.from(index.textNorms, (_, text) => searchesOf(text));
    const order = Uint32Array.from(this.group.keys());
    const counts = new Uint32Array(groups + 1);
    for (const group of this.group) counts[group + 1] = uint32At(counts, group + 1) + 1;
    for (let group = 0; group < groups; group++)
      counts[group + 1] = uint32At(counts, group + 1) + uint32At(counts, group);
    const next = counts.slice(0, groups);
    for (let at = 0; at < this.group.length; at++) {
      const group = numberAt(this.group, at);
      order[uint32At(next, group)] = at;
      next[group] = uint32At(next, group) + 1;
    }
    const kept: number[] = [];
    for (let group = 0; group < groups; group++) {
      const own = order.subarray(counts[group], counts[group + 1]);
      own.sort(
        (a, b) =>
          int32At(searches, numberAt(this.text, b)) - int32At(searches, numberAt(this.text, a)) ||
          numberAt(this.text, a) - numberAt(this.text, b),
      );
      for (let at = 0; at < own.length && at < limit; at++) kept.push(uint32At(own, at));
    }
    return Uint32Array.from(kept);
  }
}

/** The groups that hold a text in one of some match types, each once. */
function groupsOf(index: AnswerIndex, text: number, isWanted: (type: number) => boolean): number[] {
  const groups: number[] = [];
  for (const row of index.rowsOfText(text)) {
    const group = uint32At(index.ownerOfRow, row);
    if (isWanted(uint8At(index.typeOfRow, row)) && !groups.includes(group)) groups.push(group);
  }
  return groups;
}

/** The narrowest match type in which anyone holds a text, by its place in the order of types; -1: nobody does. */
export function narrowestOf(index: AnswerIndex, text: number): number {
  let narrowest = -1;
  for (const row of index.rowsOfText(text)) narrowest = Math.max(narrowest, uint8At(index.typeOfRow, row));
  return narrowest;
}

/** The groups in which a search that equals a text belongs: those that hold it in its narrowest match type. */
function keepersOf(index: AnswerIndex, text: number): number[] {
  const narrowest = narrowestOf(index, text);
  return groupsOf(index, text, (type) => type === narrowest);
}

const NONE: readonly number[] = [];

/** Which phrases stand within which texts, and which of them fence which group. */
class PhraseFences {
  private readonly fenced = new Set<number>();

  constructor(
    private readonly index: AnswerIndex,
    private readonly groups: number,
    private readonly isPhrase: (text: number) => boolean,
  ) {}

  has = (group: number, text: number): boolean => this.fenced.has(text * this.groups + group);
  add(group: number, text: number) {
    this.fenced.add(text * this.groups + group);
  }

  private readonly runs: (number[] | undefined)[] = [];

  /** The texts of the index that stand in a text as a run of words, itself among them. */
  runsOf(text: number): readonly number[] {
    const known = this.runs[text];
    if (known) return known;
    const norm = stringAt(this.index.textNorms, text);
    const found: number[] = [];
    for (let from = 0; from >= 0; from = nextWord(norm, from))
      for (let to = norm.indexOf(' ', from); ; to = norm.indexOf(' ', to + 1)) {
        const run = this.index.numberOf(norm.slice(from, to < 0 ? norm.length : to));
        if (run !== undefined && !found.includes(run)) found.push(run);
        if (to < 0) break;
      }
    this.runs[text] = found;
    return found;
  }

  /** The phrases that stand in a text, by any of which a group's fence covers it. */
  coveringOf(text: number): number[] {
    return this.runsOf(text).filter(this.isPhrase);
  }

  /** Tells the texts in which a phrase stands: keywords that it would block. */
  textsByPhrase(): (phrase: number) => Uint32Array {
    const { length } = this.index.textNorms;
    const starts = new Uint32Array(length + 1);
    const each = (visit: (phrase: number, text: number) => void) => {
      for (let text = 0; text < length; text++)
        for (const run of this.runsOf(text)) if (this.isPhrase(run)) visit(run, text);
    };
    each((phrase) => {
      starts[phrase + 1] = uint32At(starts, phrase + 1) + 1;
    });
    for (let text = 0; text < length; text++)
      starts[text + 1] = uint32At(starts, text + 1) + uint32At(starts, text);
    const next = starts.slice(0, length);
    const texts = new Uint32Array(uint32At(starts, length));
    each((phrase, text) => {
      texts[uint32At(next, phrase)] = text;
      next[phrase] = uint32At(next, phrase) + 1;
    });
    return (phrase) => texts.subarray(uint32At(starts, phrase), uint32At(starts, phrase + 1));
  }
}

const nextWord = (norm: string, from: number): number => {
  const space = norm.indexOf(' ', from);
  return space < 0 ? -1 : space + 1;
};
