import { type MatchSet, type MatchType, matchTypes } from '../match/index.ts';
import { asMicros, type BasisPoints, type Micros } from '../money/index.ts';
import { type Casing, fillLine, inCase, type LanguagePack, type Line, parseLine } from '../text/index.ts';
import { type BaseFrom, stepsFor } from './bid.ts';
import { type Covered, type Hold, type Holds, indexHolds } from './hold.ts';
import { type Layout, typesFor } from './layout.ts';
import { uniqueNames } from './unique-names.ts';

/** A pool keyword as Build needs it: only those that are in, by id. */
export type BuildKeyword = {
  id: number;
  /** As given, without notation. */
  text: string;
  norm: string;
  asked: MatchSet;
  marks: readonly number[];
  cpc: Micros | null;
};

export type BuiltGroup = {
  /** `k` and the keyword's id: it never depends on a name. */
  key: string;
  keywordId: number;
  keyword: string;
  name: string;
  base: Micros;
  baseFrom: BaseFrom;
  /** Null where nothing is held. */
  covered: Covered | null;
};

export type BuiltRow = {
  /** The group's key, `:` and the match type's first letter. */
  key: string;
  groupKey: string;
  text: string;
  type: MatchType;
  marks: readonly number[];
  base: Micros;
  steps: BasisPoints[];
  heldBid: Micros | null;
};

/** The one outlet-neutral plan: `project` makes of it what an outlet gets. */
export type BuiltPlan = { groups: BuiltGroup[]; rows: BuiltRow[]; orphans: Hold[] };

export type BuildInput = {
  keywords: readonly BuildKeyword[];
  layout: Layout;
  holds: readonly Hold[];
  pack: LanguagePack;
  casing: Casing;
};

export const groupKeyOf = (keywordId: number): string => `k${keywordId}`;
export const rowKeyOf = (keywordId: number, type: MatchType): string => `k${keywordId}:${type[0]}`;

/**
 * Single-keyword ad groups: one per keyword in the order given, named by the layout's pattern, with a row per
 * match type. Held names, bids and bases go on top as the last step; a held name keeps its place and rule
 * names give way to it. Building twice gives the same. O(keywords).
 */
export function buildPlan({ keywords, layout, holds, pack, casing }: BuildInput): BuiltPlan {
  const held = indexHolds(holds);
  const ruleNames = namesByRule(keywords, layout, pack, casing);
  const heldNames = keywords.map(
    (keyword) => held.get(groupKeyOf(keyword.id), 'name')?.value as string | undefined,
  );
  const names = mergeNames(ruleNames, heldNames);
  const groups: BuiltGroup[] = [];
  const rows: BuiltRow[] = [];
  for (let at = 0; at < keywords.length; at++) {
    const keyword = keywords[at] as BuildKeyword;
    const name = names[at] as string;
    const group = buildGroup(
      keyword,
      name,
      heldNames[at] === undefined ? null : (ruleNames[at] as string),
      layout,
      held,
    );
    groups.push(group);
    addRows(rows, group, keyword, layout, held);
  }
  return { groups, rows, orphans: orphansOf(holds, groups, rows) };
}

function namesByRule(
  keywords: readonly BuildKeyword[],
  layout: Layout,
  pack: LanguagePack,
  casing: Casing,
): string[] {
  const line = nameLine(layout.groupName.pattern);
  return keywords.map((keyword) => nameByRule(keyword, line, layout, pack, casing));
}

/** The name pattern parsed; `@keyword` where it can't be. */
export function nameLine(pattern: string): Line {
  const read = parseLine(pattern);
  return 'line' in read ? read.line : { parts: [{ kind: 'token', name: 'keyword' }] };
}

/** A group's name by the pattern, before it is made unique. */
export function nameByRule(
  keyword: Pick<BuildKeyword, 'text' | 'norm'>,
  line: Line,
  layout: Layout,
  pack: LanguagePack,
  casing: Casing,
): string {
  const { style } = layout.groupName;
  const value = style === 'as-is' ? keyword.text : keyword.norm;
  const filled = fillLine(line, { keyword: value }) ?? value;
  return inCase(filled.trim(), style, pack, casing) || keyword.norm;
}

function mergeNames(rule: readonly string[], held: readonly (string | undefined)[]): string[] {
  const reserved = held.filter((name) => name !== undefined);
  if (reserved.length === 0) return uniqueNames(rule);
  const heldUnique = uniqueNames(reserved);
  const free = uniqueNames(
    rule.filter((_, at) => held[at] === undefined),
    undefined,
    heldUnique,
  );
  let nextHeld = 0;
  let nextFree = 0;
  return held.map((name) => (name === undefined ? free[nextFree++] : heldUnique[nextHeld++]) as string);
}

function buildGroup(
  keyword: BuildKeyword,
  name: string,
  ruleName: string | null,
  layout: Layout,
  held: Holds,
): BuiltGroup {
  const key = groupKeyOf(keyword.id);
  const ruleBase = keyword.cpc ?? layout.ladder.defaultBase;
  const group: BuiltGroup = {
    key,
    keywordId: keyword.id,
    keyword: keyword.norm,
    name,
    base: ruleBase,
    baseFrom: keyword.cpc === null ? 'default' : 'estimate',
    covered: ruleName === null ? null : { name: ruleName },
  };
  const bid = held.get(key, 'bid');
  if (bid) {
    group.base = asMicros(bid.value as number);
    group.baseFrom = 'held';
    group.covered = { ...group.covered, bid: ruleBase };
  }
  return group;
}

function addRows(rows: BuiltRow[], group: BuiltGroup, keyword: BuildKeyword, layout: Layout, held: Holds) {
  const types = typesFor(layout, keyword.asked);
  for (let at = 0; at < matchTypes.length; at++) {
    if (!(types & (1 << at))) continue;
    const type = matchTypes[at] as MatchType;
    const key = rowKeyOf(keyword.id, type);
    const bid = held.rows.size > 0 ? held.get(key, 'bid') : undefined;
    rows.push({
      key,
      groupKey: group.key,
      text: keyword.norm,
      type,
      marks: type === 'modified' ? keyword.marks : NO_MARKS,
      base: group.base,
      steps: stepsFor(layout.ladder, type),
      heldBid: bid ? asMicros(bid.value as number) : null,
    });
  }
}

const NO_MARKS: readonly number[] = [];

/** Holds on rows that no rule makes any more. Ads hang on their group, so their keys begin with its key. */
function orphansOf(holds: readonly Hold[], groups: readonly BuiltGroup[], rows: readonly BuiltRow[]): Hold[] {
  if (holds.length === 0) return [];
  const keys = new Set<string>();
  for (const group of groups) keys.add(group.key);
  for (const row of rows) keys.add(row.key);
  return holds.filter((hold) => !keys.has(hold.rowKey) && !keys.has(adGroupOf(hold.rowKey)));
}

const adGroupOf = (rowKey: string): string =>
  /^k\d+\/a/.test(rowKey) ? rowKey.slice(0, rowKey.indexOf('/')) : rowKey;
