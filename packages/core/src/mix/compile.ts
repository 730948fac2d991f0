import { itemAt } from '../access/index.ts';
import { type LanguagePack, lengthOf, type NormalText, normalise, rememberingFold } from '../text/index.ts';
import { countMix, type MixCount, type Shorten, shortenTo } from './count.ts';
import { hashPair, stepsOf } from './hash.ts';
import type { ResolvedList } from './lists.ts';
import { compilePairs, type Pairs } from './never-together.ts';
import { MOST_COMBINATIONS, type Recipe, type Slot } from './recipe.ts';
import { standsAlone } from './stand-alone.ts';
import { type ReadWords, readWordLine, readWords } from './words.ts';

/** Limits of the outlets that the plan is for. */
export type KeywordLimits = { words: number; length: number };

export type MixInput = {
  recipe: Recipe;
  lists: readonly ResolvedList[];
  pack: LanguagePack;
  limits: KeywordLimits;
  cap?: number;
};

/** Why a pattern makes nothing, or why the recipe as a whole does. */
export type MixProblem =
  | { code: 'no-slots'; pattern: number }
  | { code: 'no-list'; pattern: number }
  | { code: 'bad-word'; pattern: number; word: string }
  | { code: 'empty-list'; pattern: number; list: number }
  | { code: 'circle'; list: number; names: string[] }
  | ({ code: 'over-cap'; total: bigint } & Shorten);

export type CompiledList = ResolvedList & { words: ReadWords };

/** One place of a pattern in columns, an option a row; the last of an optional one is nothing. */
export type CompiledSlot = {
  list: number | null;
  texts: string[];
  /** Options, "nothing" among them. */
  size: number;
  optional: boolean;
  entries: Int32Array;
  /** Hashes of the text as it stands first, and as it follows others after a space, with the steps of that. */
  firstA: Int32Array;
  firstB: Int32Array;
  nextA: Int32Array;
  nextB: Int32Array;
  stepA: Int32Array;
  stepB: Int32Array;
  lengths: Int32Array;
  wordCounts: Int32Array;
  /** Folded content words as numbers: those of option n from starts[n] to starts[n + 1]. */
  starts: Int32Array;
  contents: Int32Array;
  /** 1: the option holds a content word twice by itself. */
  doubled: Uint8Array;
  /** 1: the option makes no keyword by itself. */
  lonely: Uint8Array;
  /** Sides of never-together pairs that the option has. */
  sides: number[][];
};

export type CompiledPattern = { id: number; slots: CompiledSlot[]; once: number; flip: boolean };

export type CompiledMix = {
  input: MixInput;
  lists: CompiledList[];
  count: MixCount;
  patterns: CompiledPattern[];
  problems: MixProblem[];
  fold: (word: string) => string;
  pairs: Pairs;
  /** How many folded content words there are. */
  contentWords: number;
};

/**
 * Everything that a recipe's combinations are made of, worked out once. A pattern that can't make anything is left
 * out and told; where the count is over the cap there are no patterns at all. O(length of the lists).
 */
export function compileMix(input: MixInput): CompiledMix {
  const { recipe } = input;
  const lists = input.lists.map((list) => ({
    ...list,
    words: readWords(list.circle ? '' : list.text, recipe.firstFormOnly),
  }));
  const byId = new Map(lists.map((list) => [list.id, list]));
  const sizeOf = (id: number) => byId.get(id)?.words.forms.length ?? 0;
  const fold = rememberingFold(input.pack.numberFold);
  const pairs = compilePairs(recipe.never, fold);
  const problems: MixProblem[] = lists.flatMap(({ id, circle }) =>
    circle ? [{ code: 'circle' as const, list: id, names: circle }] : [],
  );
  const sound = recipe.on
    ? recipe.patterns.filter(({ id, slots }) => {
        const found = problemOf(id, slots, sizeOf, byId);
        if (found) problems.push(found);
        return !found;
      })
    : [];
  const count = countMix(recipe.patterns, (id) => (recipe.on ? sizeOf(id) : 0));
  const over = shortenTo(sound, sizeOf, input.cap ?? MOST_COMBINATIONS);
  if (over) problems.push({ code: 'over-cap', total: count.total, ...over });
  const slots = new SlotMaker(input.pack, fold, pairs, byId, standsAlone(recipe.alone, fold));
  const patterns = over
    ? []
    : sound.map((pattern): CompiledPattern => {
        const made = pattern.slots.map((slot) => slots.make(slot));
        const once = made.reduce((product, { size }) => product * size, 1);
        return { id: pattern.id, slots: made, once, flip: pattern.flip && made.length > 1 };
      });
  return { input, lists, count, patterns, problems, fold, pairs, contentWords: slots.contentWords };
}

function problemOf(
  pattern: number,
  slots: readonly Slot[],
  sizeOf: (list: number) => number,
  lists: ReadonlyMap<number, CompiledList>,
): MixProblem | null {
  if (slots.length === 0) return { code: 'no-slots', pattern };
  for (const slot of slots) {
    if (slot.kind === 'word') {
      if (joiningWord(slot.text) === null) return { code: 'bad-word', pattern, word: slot.text };
    } else if (!lists.has(slot.list)) return { code: 'no-list', pattern };
    else if (!slot.optional && sizeOf(slot.list) === 0)
      return { code: 'empty-list', pattern, list: slot.list };
  }
  return null;
}

/** A joining word in normal form; null where it can't stand in a keyword. */
export function joiningWord(typed: string): NormalText | null {
  const { forms, problems } = readWordLine(typed);
  return problems.length === 0 && forms.length === 1 ? itemAt(forms, 0) : null;
}

/** The content words of a text; all its words where it has no other. */
export function contentWords(words: readonly string[], pack: LanguagePack): readonly string[] {
  const content = words.filter((word) => !pack.functionWords.has(word));
  return content.length > 0 ? content : words;
}

class SlotMaker {
  private readonly ids = new Map<string, number>();
  private readonly made = new Map<string, CompiledSlot>();

  constructor(
    private readonly pack: LanguagePack,
    private readonly fold: (word: string) => string,
    private readonly pairs: Pairs,
    private readonly lists: ReadonlyMap<number, CompiledList>,
    private readonly mayStand: ReturnType<typeof standsAlone>,
  ) {}

  get contentWords(): number {
    return this.ids.size;
  }

  make(slot: Slot): CompiledSlot {
    const name = slot.kind === 'word' ? `word ${normalise(slot.text)}` : `${slot.list} ${slot.optional}`;
    const known = this.made.get(name) ?? this.compile(slot);
    this.made.set(name, known);
    return known;
  }

  private compile(slot: Slot): CompiledSlot {
    const list = slot.kind === 'list' ? this.lists.get(slot.list) : undefined;
    const forms = list?.words.forms ?? [
      { text: joiningWord((slot as { text: string }).text) ?? '', entry: 0 },
    ];
    const optional = slot.kind === 'list' && slot.optional;
    const size = forms.length + (optional ? 1 : 0);
    const column = () => new Int32Array(size);
    const made: CompiledSlot = {
      list: list?.id ?? null,
      texts: forms.map(({ text }) => text),
      size,
      optional,
      entries: column().fill(-1),
      firstA: column(),
      firstB: column(),
      nextA: column(),
      nextB: column(),
      stepA: column(),
      stepB: column(),
      lengths: column(),
      wordCounts: column(),
      starts: new Int32Array(size + 1),
      contents: new Int32Array(),
      doubled: new Uint8Array(size),
      lonely: new Uint8Array(size),
      sides: [],
    };
    const contents: number[] = [];
    forms.forEach(({ text, entry }, at) => {
      made.entries[at] = entry;
      this.fill(made, at, text, contents);
      if (!this.mayStand(text, list?.id ?? null)) made.lonely[at] = 1;
      made.sides.push(this.pairs.sidesOf(text, list?.id ?? null));
    });
    if (optional) {
      made.starts[size] = contents.length;
      made.sides.push([]);
    }
    made.contents = Int32Array.from(contents);
    return made;
  }

  private fill(made: CompiledSlot, at: number, text: string, contents: number[]) {
    const first = hashPair(text);
    const next = hashPair(` ${text}`);
    const step = stepsOf(text.length + 1);
    const words = text.split(' ');
    made.firstA[at] = first.a;
    made.firstB[at] = first.b;
    made.nextA[at] = next.a;
    made.nextB[at] = next.b;
    made.stepA[at] = step.a;
    made.stepB[at] = step.b;
    made.lengths[at] = lengthOf(text);
    made.wordCounts[at] = words.length;
    made.starts[at] = contents.length;
    const own = new Set<number>();
    for (const word of words) {
      if (this.pack.functionWords.has(word)) continue;
      const id = this.idOf(this.fold(word));
      if (own.has(id)) made.doubled[at] = 1;
      own.add(id);
    }
    contents.push(...own);
    made.starts[at + 1] = contents.length;
  }

  private idOf(word: string): number {
    const known = this.ids.get(word) ?? this.ids.size;
    this.ids.set(word, known);
    return known;
  }
}
