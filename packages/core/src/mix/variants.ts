import { type MatchType, matchTypes, writeNegative, writeNotation } from '../match/index.ts';
import { type BasisPoints, type Micros, multiplied } from '../money/index.ts';
import { type LanguagePack, rememberingFold } from '../text/index.ts';

/** Which words modified broad marks: all, those that carry meaning, or those on a list. */
export const markStyles = ['every', 'content', 'chosen'] as const;
export type MarkStyle = (typeof markStyles)[number];

export type VariantOptions = {
  /** Any mix; they always come from the widest to the narrowest. */
  types: readonly MatchType[];
  marks: MarkStyle;
  /** Words to mark, plural or not; for `chosen` only. */
  chosen: readonly string[];
  /** Keyword by keyword with all its match types, or match type by match type. */
  order: 'keyword' | 'type';
  /** Null: no bids. A keyword's own CPC goes before `base`. */
  bids: { base: Micros; steps: Record<MatchType, BasisPoints>; increment: Micros } | null;
};

/** A keyword, or a negative, to be written in other match types; its text without notation. */
export type VariantSource = { text: string; negative: boolean; cpc: Micros | null };

export type Variant = {
  /** The keyword as a sheet's keyword column has it: marks of modified broad stand in it, others do not. */
  text: string;
  notation: string;
  type: MatchType;
  negative: boolean;
  bid: Micros | null;
};

export type Variants = {
  rows: Variant[];
  /** Keywords in which no word is chosen: modified broad would say no more than broad, so it is not made. */
  unmarked: number;
};

/** One line on why one would use each match type. */
export const whyOf: Record<MatchType, string> = {
  broad:
    'Reaches furthest: any order, plurals, close meanings. Use it to find searches you have not thought of.',
  modified: 'Every marked word must be in the search, in any order. Reach with a hand on the reins.',
  phrase: 'The words in this order, with others before or after. Good when the order tells what is meant.',
  exact: 'This search and nothing else. Use it where you know what it is worth and bid the most.',
};

/**
 * Writes each keyword in each match type. A negative has no modified broad and no bid. O(keywords × match types).
 */
export function variantsOf(
  sources: readonly VariantSource[],
  options: VariantOptions,
  pack: LanguagePack,
): Variants {
  const types = matchTypes.filter((type) => options.types.includes(type));
  const mark = marker(options, pack);
  const made: Variants = { rows: [], unmarked: 0 };
  const write = (source: VariantSource, type: MatchType) => {
    const row = variantOf(source, type, mark, options);
    if (row) made.rows.push(row);
    else if (!source.negative) made.unmarked++;
  };
  if (options.order === 'keyword')
    for (const source of sources) for (const type of types) write(source, type);
  else for (const type of types) for (const source of sources) write(source, type);
  return made;
}

function variantOf(
  { text, negative, cpc }: VariantSource,
  type: MatchType,
  mark: (words: readonly string[]) => number[],
  { bids }: VariantOptions,
): Variant | null {
  if (negative) {
    if (type === 'modified') return null;
    return { text, notation: writeNegative(text, type), type, negative, bid: null };
  }
  const marks = type === 'modified' ? mark(text.split(' ')) : [];
  if (type === 'modified' && marks.length === 0) return null;
  const notation = writeNotation(text, type, marks);
  const bid = bids && multiplied(cpc ?? bids.base, [bids.steps[type]], bids.increment);
  return { text: type === 'modified' ? notation : text, notation, type, negative, bid };
}

/** The places of the words to mark. */
function marker(
  { marks, chosen }: VariantOptions,
  pack: LanguagePack,
): (words: readonly string[]) => number[] {
  const all = (words: readonly string[]) => words.map((_, at) => at);
  if (marks === 'every') return all;
  if (marks === 'content')
    return (words) => {
      const content = all(words).filter((at) => !pack.functionWords.has((words[at] as string).toLowerCase()));
      return content.length > 0 ? content : all(words);
    };
  const fold = rememberingFold((word) => pack.numberFold(word.toLowerCase()));
  const wanted = new Set(chosen.flatMap((line) => line.trim().split(/\s+/)).map(fold));
  return (words) => all(words).filter((at) => wanted.has(fold(words[at] as string)));
}
