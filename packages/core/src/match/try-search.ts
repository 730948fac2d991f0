import { itemAt, uint8At, uint32At } from '../access/index.ts';
import { asMicros, type Micros } from '../money/index.ts';
import type { AnswerIndex } from './answer-index.ts';
import { relevanceOf } from './can-answer.ts';
import { narrownessOf } from './match-type.ts';
import { type MatchType, matchTypes } from './types/index.ts';

/** What stands between a search and an ad group: the caller's own word for a negative. */
export type BlockOf<Block> = (owner: number, search: string) => Block | undefined;

/** How near a keyword is to the search, before bids count. */
export const standings = ['same-exact', 'exact', 'same-text', 'answers'] as const;
export type Standing = (typeof standings)[number];

/** A keyword row that could answer a search. */
export type Candidate<Block> = {
  row: number;
  type: MatchType;
  standing: Standing;
  bid: Micros;
  relevance: { shared: number; all: number };
  blockedBy: Block | null;
};

/** What decided between the winner and the next: it alone could, its standing, or what counts within one. */
export type WonBy = 'alone' | 'standing' | 'bid' | 'narrower' | 'text' | 'group';

export type Tried<Block> = {
  /** The winner first, then the others as they would follow; blocked ones last. */
  candidates: Candidate<Block>[];
  /** Null where nothing answers, or all that could are blocked. */
  wonBy: WonBy | null;
};

export type TryContext<Block> = {
  bidOf: (row: number) => Micros;
  blockOf: BlockOf<Block>;
  /** Orders ad groups where all else is even. */
  groupOf?: (owner: number) => string;
};

/**
 * Every row that could answer a search in normal form, and which one does. An exact keyword that is the search as
 * typed goes first; then any exact; then one whose text is the search; then the rest. Within each the greatest bid ×
 * relevance, then the narrower match type, the text, the group.
 */
export function trySearch<Block>(
  index: AnswerIndex,
  search: string,
  { bidOf, blockOf, groupOf = String }: TryContext<Block>,
): Tried<Block> {
  const read = index.read(search);
  const blocks = new Map<number, Block | null>();
  const candidates: Candidate<Block>[] = [];
  index.each(read, (row) => {
    const owner = uint32At(index.ownerOfRow, row);
    let blockedBy = blocks.get(owner);
    if (blockedBy === undefined) {
      blockedBy = blockOf(owner, search) ?? null;
      blocks.set(owner, blockedBy);
    }
    const type = itemAt(matchTypes, uint8At(index.typeOfRow, row));
    const standing = standingOf(type, index.normOfRow(row) === search);
    const relevance = relevanceOf(index.stemSetOf(row), read.own);
    candidates.push({ row, type, standing, bid: bidOf(row), relevance, blockedBy });
  });
  const order = orderOf(index, groupOf);
  candidates.sort((a, b) => order(a, b).by);
  const open = candidates.filter(({ blockedBy }) => blockedBy === null);
  const [first, second] = open;
  const wonBy = !first ? null : !second ? 'alone' : order(first, second).why;
  return { candidates, wonBy };
}

const standingOf = (type: MatchType, isSame: boolean): Standing =>
  type === 'exact' ? (isSame ? 'same-exact' : 'exact') : isSame ? 'same-text' : 'answers';

type Order = { by: number; why: WonBy };

const orderOf =
  (index: AnswerIndex, groupOf: (owner: number) => string) =>
  <Block>(a: Candidate<Block>, b: Candidate<Block>): Order => {
    const blocked = Number(a.blockedBy !== null) - Number(b.blockedBy !== null);
    if (blocked !== 0) return { by: blocked, why: 'standing' };
    const standing = standings.indexOf(a.standing) - standings.indexOf(b.standing);
    if (standing !== 0) return { by: standing, why: 'standing' };
    const weight = compareWeights(b, a);
    if (weight !== 0) return { by: weight, why: 'bid' };
    const narrower = narrownessOf(b.type) - narrownessOf(a.type);
    if (narrower !== 0) return { by: narrower, why: 'narrower' };
    const text = compareTexts(index.normOfRow(a.row), index.normOfRow(b.row));
    if (text !== 0) return { by: text, why: 'text' };
    const [mine, other] = [a, b].map(({ row }) => groupOf(uint32At(index.ownerOfRow, row)));
    return { by: compareTexts(mine as string, other as string), why: 'group' };
  };

const compareTexts = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

type Weighed = { bid: Micros; relevance: { shared: number; all: number } };

/** Bid × relevance of both, compared as fractions: never through a float. */
export function compareWeights(a: Weighed, b: Weighed): number {
  const left = a.bid * a.relevance.shared * b.relevance.all;
  const right = b.bid * b.relevance.shared * a.relevance.all;
  if (left <= Number.MAX_SAFE_INTEGER && right <= Number.MAX_SAFE_INTEGER) return Math.sign(left - right);
  const exact =
    BigInt(a.bid) * BigInt(a.relevance.shared * b.relevance.all) -
    BigInt(b.bid) * BigInt(b.relevance.shared * a.relevance.all);
  return exact < 0n ? -1 : exact > 0n ? 1 : 0;
}

/** Bid × relevance in micros, for reading only. */
export const weightOf = ({ bid, relevance }: Weighed): Micros =>
  asMicros(relevance.all === 0 ? 0 : Math.round((bid * relevance.shared) / relevance.all));
