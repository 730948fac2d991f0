import {
  eachType,
  isNegativeType,
  listedIn,
  type MatchType,
  marker,
  matchRules,
  matchTypes,
  writeNegative,
  writeNotation,
} from '../match/index.ts';
import { type BasisPoints, type Micros, multiplied } from '../money/index.ts';
import type { LanguagePack } from '../text/index.ts';

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
  /** Keywords in which no word is chosen: their content words are marked, as Build marks them. */
  unmarked: number;
};

/** One line on why one would use each match type. */
export const whyOf: Record<MatchType, string> = eachType((type) => matchRules[type].why);

/**
 * Writes each keyword in each match type. A negative has no modified broad and no bid. O(keywords × match types).
 */
export function variantsOf(
  sources: readonly VariantSource[],
  options: VariantOptions,
  pack: LanguagePack,
): Variants {
  const types = matchTypes.filter((type) => options.types.includes(type));
  const mark = marker(
    { which: options.marks === 'chosen' ? 'listed' : options.marks, words: options.chosen },
    pack,
  );
  const isChosen = listedIn(options.chosen, pack);
  const bidOf = bidder(options);
  const made: Variants = { rows: [], unmarked: 0 };
  const write = (source: VariantSource, type: MatchType) => {
    const row = variantOf(source, type, mark, bidOf);
    if (row) made.rows.push(row);
    if (type !== 'modified' || source.negative || options.marks !== 'chosen') return;
    if (!source.text.split(' ').some(isChosen)) made.unmarked++;
  };
  if (options.order === 'keyword')
    for (const source of sources) for (const type of types) write(source, type);
  else for (const type of types) for (const source of sources) write(source, type);
  return made;
}

function variantOf(
  { text, negative, cpc }: VariantSource,
  type: MatchType,
  mark: ReturnType<typeof marker>,
  bidOf: (cpc: Micros | null, type: MatchType) => Micros | null,
): Variant | null {
  if (negative)
    return !isNegativeType(type)
      ? null
      : { text, notation: writeNegative(text, type), type, negative, bid: null };
  const bid = bidOf(cpc, type);
  if (type !== 'modified') return { text, notation: writeNotation(text, type), type, negative, bid };
  const marked = writeNotation(text, 'modified', mark(text.split(' ')));
  return { text: marked, notation: marked, type, negative, bid };
}

/** Bids by match type. Those from the base come again and again, so each is worked out once. */
function bidder({ bids }: VariantOptions): (cpc: Micros | null, type: MatchType) => Micros | null {
  if (!bids) return () => null;
  const of = (base: Micros, type: MatchType) => multiplied(base, [bids.steps[type]], bids.increment);
  const usual = eachType((type) => of(bids.base, type));
  return (cpc, type) => (cpc === null ? usual[type] : of(cpc, type));
}
