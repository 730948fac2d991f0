import { float64At, gotten, int32At, stringAt, uint32At } from '../../access/index.ts';
import type { LanguagePack } from '../../text/index.ts';
import { fillerClasses, NO_CLASS } from './classes.ts';
import { type ContextIndex, contextIndex, LEAST_MEMBERS } from './contexts.ts';
import {
  type GapPool,
  holds,
  lineOf,
  MOST_OF_CLASS,
  NumberedPool,
  type Proposals,
  proposals,
} from './numbered-pool.ts';

export type { GapPool } from './numbered-pool.ts';

/** A combination that the pool's own words make likely, and that it lacks. */
export type Gap = {
  text: string;
  /** From 0 to 1: how full the contexts are that it would fill, taken together. */
  fullness: number;
  /** The fullest of them: the words before and behind what fills it, and how many of the class are there. */
  before: string;
  behind: string;
  filler: string;
  there: number;
  of: number;
  /** The number of the class among `classes`. */
  class: number;
};

/** Runs of words that stand in the same contexts, with the contexts that most of them fill. */
export type GapClass = {
  /** Those that hold no other of the class, the most usual first. */
  fillers: string[];
  contexts: { before: string; behind: string; there: Uint8Array; count: number }[];
  /** How many gaps are of it. */
  gaps: number;
};

export type Gaps = { gaps: Gap[]; classes: GapClass[] };

export type GapOptions = {
  /** At most so many gaps, the likeliest; so many rows and columns of a class are told. */
  most?: number;
  mostFillers?: number;
  mostContexts?: number;
  /** Searches that a text is likely to have, which rank gaps that are alike; null: not known. */
  searchesOf?: (text: string) => number | null;
  /** Whether a text was dismissed. */
  isDismissed?: (text: string) => boolean;
};

/** One that only differs in number, order or function words from a keyword that is there is likely less by so much. */
const TWIN = 0.3;

/** The gaps of a pool; see `PoolContexts.gaps`. */
export const findGaps = (pool: GapPool, { pack, ...options }: GapOptions & { pack: LanguagePack }): Gaps =>
  new PoolContexts(pool, pack).gaps(options);

/** What stands beside a run of words in the pool: the words before and behind it, and how many runs stand there. */
export type Beside = { before: string; behind: string; fillers: number };

/**
 * A pool's contexts and the classes of what fills them, found once. O(total words × runs of a keyword), never keyword by
 * keyword.
 */
export class PoolContexts {
  private readonly words: NumberedPool;
  private readonly index: ContextIndex;
  private readonly classOf: Int32Array;
  private readonly sizes: Uint32Array;
  private byFiller: Map<number, number[]> | null = null;

  constructor(pool: GapPool, pack: LanguagePack) {
    this.words = new NumberedPool(pool, pack);
    this.index = contextIndex(this.words);
    const { classOf, sizes } = fillerClasses(this.index);
    this.classOf = classOf;
    this.sizes = sizes;
  }

  /**
   * Words and runs that stand in the same contexts form classes; a context that most of a class fill and one does not is
   * a gap. What several contexts make likely adds up: fullness is the chance that not all of them are wrong.
   * Deterministic.
   */
  gaps(options: GapOptions = {}): Gaps {
    const { words, index, classOf, sizes } = this;
    return new Telling(words, index, classOf, options).tell(proposals(words, index, classOf, sizes));
  }

  /** Whether the pool has a text in normal form. */
  has(text: string): boolean {
    const line = this.numbersOf(text);
    return line !== null && this.words.has(line, line.length);
  }

  /** The contexts of a run of words, those that most others fill first. */
  beside(run: string, most: number): Beside[] {
    const filler = this.fillerOf(run);
    if (filler < 0) return [];
    const { starts } = this.index;
    const sizeOf = (context: number) => uint32At(starts, context + 1) - uint32At(starts, context);
    return [...(this.contextsBy().get(filler) ?? [])]
      .sort((a, b) => sizeOf(b) - sizeOf(a) || a - b)
      .slice(0, most)
      .map((context) => ({ ...partsOf(this.words, this.index, context), fillers: sizeOf(context) }));
  }

  /** Runs of the same class as one, that hold none of each other; those that share most contexts first. */
  mates(run: string, most: number): string[] {
    const filler = this.fillerOf(run);
    const one = filler < 0 ? NO_CLASS : int32At(this.classOf, filler);
    if (one === NO_CLASS) return [];
    const { members, starts } = this.index;
    const shared = new Map<number, number>();
    for (const context of this.contextsBy().get(filler) ?? [])
      for (let at = uint32At(starts, context); at < uint32At(starts, context + 1); at++) {
        const other = uint32At(members, at);
        if (other !== filler && this.classOf[other] === one) shared.set(other, (shared.get(other) ?? 0) + 1);
      }
    const texts = [...shared]
      .sort(([a, one], [b, other]) => other - one || a - b)
      .slice(0, most * 4)
      .map(([other]) => fillerText(this.words, this.index, other));
    const all = new Set([run, ...texts]);
    return texts.filter((text) => !holdsAnother(text, all)).slice(0, most);
  }

  /**
   * The pool's classes as lists of words, those with most to combine first: their members that hold none of each other,
   * the most usual first.
   */
  classes(most: number, mostMembers = 200): string[][] {
    const { members } = this.index;
    const uses = new Map<number, number>();
    for (let at = 0; at < members.length; at++) {
      const filler = uint32At(members, at);
      if (this.classOf[filler] !== NO_CLASS) uses.set(filler, (uses.get(filler) ?? 0) + 1);
    }
    const byClass = new Map<number, number[]>();
    for (const filler of uses.keys()) {
      const one = int32At(this.classOf, filler);
      const list = byClass.get(one);
      if (list) list.push(filler);
      else byClass.set(one, [filler]);
    }
    return [...byClass.values()]
      .map((fillers) => {
        const texts = new Map(fillers.map((filler) => [filler, fillerText(this.words, this.index, filler)]));
        const own = new Set(texts.values());
        const cores = fillers
          .filter((filler) => !holdsAnother(gotten(texts, filler), own))
          .sort((a, b) => gotten(uses, b) - gotten(uses, a) || a - b);
        const weight = cores.reduce((sum, filler) => sum + gotten(uses, filler), 0);
        return { weight, texts: cores.slice(0, mostMembers).map((filler) => gotten(texts, filler)) };
      })
      .filter(({ texts }) => texts.length >= LEAST_MEMBERS)
      .sort((a, b) => b.weight - a.weight || (stringAt(a.texts, 0) < stringAt(b.texts, 0) ? -1 : 1))
      .slice(0, most)
      .map(({ texts }) => texts);
  }

  /** Words that stand where most of a list's words do, and that it lacks. */
  fitting(list: readonly string[], most: number): string[] {
    const own = new Set(list);
    const votes = new Map<string, number>();
    for (const one of list)
      this.mates(one, 60).forEach((mate, place) => {
        if (!own.has(mate)) votes.set(mate, (votes.get(mate) ?? 0) + 1 / (place + 3));
      });
    return [...votes]
      .sort(([a, one], [b, other]) => other - one || (a < b ? -1 : 1))
      .slice(0, most)
      .map(([text]) => text);
  }

  /** The words of a text by their numbers; null where the pool lacks one. */
  private numbersOf(text: string): number[] | null {
    const numbers = text.split(' ').map((word) => this.words.numberOf(word));
    return numbers.includes(-1) ? null : numbers;
  }

  private fillerOf(run: string): number {
    const numbers = this.numbersOf(run);
    return numbers === null ? -1 : this.index.fillerOf(numbers);
  }

  private contextsBy(): ReadonlyMap<number, number[]> {
    if (this.byFiller) return this.byFiller;
    const { members, starts } = this.index;
    const found = new Map<number, number[]>();
    for (let context = 0; context < starts.length - 1; context++)
      for (let at = uint32At(starts, context); at < uint32At(starts, context + 1); at++) {
        const list = found.get(uint32At(members, at));
        if (list) list.push(context);
        else found.set(uint32At(members, at), [context]);
      }
    this.byFiller = found;
    return found;
  }
}

/** Puts proposals and their classes in words. */
class Telling {
  private readonly line = new Uint32Array(32);

  constructor(
    private readonly words: NumberedPool,
    private readonly index: ContextIndex,
    private readonly classOf: Int32Array,
    private readonly options: GapOptions,
  ) {}

  tell(found: Proposals): Gaps {
    const { most = 2_000, searchesOf = () => null, isDismissed = () => false } = this.options;
    const fullnessOf = (number: number) =>
      (1 - float64At(found.wrong, number)) * (found.isTwin[number] === 1 ? TWIN : 1);
    const likeliest = Uint32Array.from({ length: found.count }, (_, number) => number)
      .sort((a, b) => fullnessOf(b) - fullnessOf(a) || a - b)
      .subarray(0, most * 3);
    const gaps: (Gap & { weight: number })[] = [];
    for (const number of likeliest) {
      const context = uint32At(found.context, number);
      const filler = uint32At(found.filler, number);
      const length = lineOf(this.words, this.index, context, filler, this.line);
      const text = this.words.textOf(this.line, 0, length);
      if (isDismissed(text)) continue;
      const fullness = fullnessOf(number);
      const one = int32At(this.classOf, filler);
      gaps.push({
        text,
        fullness,
        ...partsOf(this.words, this.index, context),
        filler: fillerText(this.words, this.index, filler),
        there: uint32At(found.there, number),
        of: Math.round(uint32At(found.there, number) / float64At(found.best, number)),
        class: one,
        weight: fullness * (1 + Math.log1p(Math.max(0, searchesOf(text) ?? 0)) / 20),
      });
    }
    gaps.sort((a, b) => b.weight - a.weight || (a.text < b.text ? -1 : 1));
    return this.withClasses(gaps.slice(0, most).map(({ weight: _, ...gap }) => gap));
  }

  private withClasses(gaps: Gap[]): Gaps {
    const counts = new Map<number, number>();
    for (const gap of gaps) counts.set(gap.class, (counts.get(gap.class) ?? 0) + 1);
    const order = [...counts].sort(([a, one], [b, other]) => other - one || a - b).map(([number]) => number);
    const place = new Map(order.map((number, at) => [number, at]));
    const contextsOf = this.contextsOfClasses(new Set(order));
    const classes = order.map((number) =>
      this.classFor(number, gotten(counts, number), contextsOf.get(number) ?? []),
    );
    return { gaps: gaps.map((gap) => ({ ...gap, class: gotten(place, gap.class) })), classes };
  }

  /** The contexts that hold any of each class. */
  private contextsOfClasses(wanted: ReadonlySet<number>): ReadonlyMap<number, number[]> {
    const { members, starts } = this.index;
    const found = new Map([...wanted].map((number) => [number, [] as number[]]));
    for (let context = 0; context < starts.length - 1; context++)
      for (let at = uint32At(starts, context); at < uint32At(starts, context + 1); at++) {
        const list = found.get(int32At(this.classOf, uint32At(members, at)));
        if (list && list.at(-1) !== context) list.push(context);
      }
    return found;
  }

  private classFor(number: number, gaps: number, contexts: readonly number[]): GapClass {
    const { mostFillers = 24, mostContexts = 16 } = this.options;
    const { members, starts } = this.index;
    const uses = new Map<number, number>();
    for (const context of contexts)
      for (let at = uint32At(starts, context); at < uint32At(starts, context + 1); at++) {
        const filler = uint32At(members, at);
        if (this.classOf[filler] === number) uses.set(filler, (uses.get(filler) ?? 0) + 1);
      }
    const all = [...uses.keys()];
    const texts = new Map(all.map((filler) => [filler, fillerText(this.words, this.index, filler)]));
    const own = new Set(texts.values());
    const cores = all
      .filter((filler) => !holdsAnother(gotten(texts, filler), own))
      .sort((a, b) => gotten(uses, b) - gotten(uses, a) || a - b)
      .slice(0, mostFillers);
    const columns = contexts
      .map((context) => ({ context, ...this.thereIn(context, cores) }))
      .filter(({ filled }) => filled >= LEAST_MEMBERS && filled > cores.length * MOST_OF_CLASS)
      .map((column) => ({ ...column, words: this.wordsOf(column.context) }))
      .sort((a, b) => a.words - b.words || b.filled - a.filled || a.context - b.context)
      .slice(0, mostContexts)
      .map((column) => ({ ...column, ...partsOf(this.words, this.index, column.context) }));
    return {
      fillers: cores.map((filler) => gotten(texts, filler)),
      contexts: columns.map(({ before, behind, there, filled }) => ({
        before,
        behind,
        there,
        count: filled,
      })),
      gaps,
    };
  }

  private thereIn(context: number, cores: readonly number[]): { there: Uint8Array; filled: number } {
    const { members, starts } = this.index;
    const from = uint32At(starts, context);
    const to = uint32At(starts, context + 1);
    let filled = 0;
    const there = Uint8Array.from(cores, (filler) => {
      const isThere = holds(members, from, to, filler) ? 1 : 0;
      filled += isThere;
      return isThere;
    });
    return { there, filled };
  }

  /** How many words a context has beside its hole. */
  private wordsOf(context: number): number {
    const row = uint32At(this.index.contextAt, context * 2);
    const { starts } = this.words;
    const hole = uint32At(this.index.contextAt, context * 2 + 1) & 7;
    return uint32At(starts, row + 1) - uint32At(starts, row) - hole;
  }
}

function fillerText(words: NumberedPool, { fillerAt }: ContextIndex, filler: number): string {
  const run = uint32At(fillerAt, filler * 2 + 1);
  const from = uint32At(words.starts, uint32At(fillerAt, filler * 2)) + (run >> 3);
  return words.textOf(words.tokens, from, from + (run & 7));
}

function partsOf(
  { starts, tokens, textOf }: NumberedPool,
  { contextAt }: ContextIndex,
  context: number,
): { before: string; behind: string } {
  const row = uint32At(contextAt, context * 2);
  const hole = uint32At(contextAt, context * 2 + 1);
  const from = uint32At(starts, row);
  const at = from + (hole >> 3);
  return {
    before: textOf(tokens, from, at),
    behind: textOf(tokens, at + (hole & 7), uint32At(starts, row + 1)),
  };
}

/** Whether a run of words holds another run of the same class within it. */
function holdsAnother(text: string, own: ReadonlySet<string>): boolean {
  const words = text.split(' ');
  for (let from = 0; from < words.length; from++)
    for (let to = from + 1; to <= words.length; to++)
      if (to - from < words.length && own.has(words.slice(from, to).join(' '))) return true;
  return false;
}
