import { type MatchSet, type MatchType, matchTypes } from '../match/index.ts';
import { asMicros, type BasisPoints, type Micros } from '../money/index.ts';
import { type Casing, fillLine, inCase, type LanguagePack, type Line, parseLine } from '../text/index.ts';
import { type BaseFrom, stepsFor } from './bid.ts';
import { type Covered, type Hold, type Holds, indexHolds } from './hold.ts';
import { type Layout, typesFor } from './layout.ts';
import { UniqueNames } from './unique-names.ts';

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
  /** The names given out before, where a plan is built page by page; its own otherwise. */
  names?: GroupNames;
};

/**
 * The names of ad groups: what is held keeps its place and rule names give way to it. Made for all of a plan's
 * keywords that are in, and asked in their order, over as many pages as one likes.
 */
export class GroupNames {
  private readonly unique = new UniqueNames();
  private readonly held = new Map<number, string>();

  /** `isIn` tells whether a keyword by its id is built at all. */
  constructor(holds: readonly Hold[], isIn: (keywordId: number) => boolean) {
    const named = holds
      .filter(({ field, outlet, rowKey }) => field === 'name' && outlet === null && /^k\d+$/.test(rowKey))
      .map(({ rowKey, value }) => ({ id: Number(rowKey.slice(1)), name: String(value) }))
      .filter(({ id }) => isIn(id))
      .sort((a, b) => a.id - b.id);
    for (const { id, name } of named) this.held.set(id, this.unique.take(name));
  }

  take(keywordId: number, ruleName: string): { name: string; held: boolean } {
    const held = this.held.get(keywordId);
    return held === undefined
      ? { name: this.unique.take(ruleName), held: false }
      : { name: held, held: true };
  }
}

export const groupKeyOf = (keywordId: number): string => `k${keywordId}`;
export const rowKeyOf = (keywordId: number, type: MatchType): string => `k${keywordId}:${type[0]}`;

/**
 * Single-keyword ad groups: one per keyword in the order given, named by the layout's pattern, with a row per
 * match type. Held names, bids and bases go on top as the last step; a held name keeps its place and rule
 * names give way to it. Building twice gives the same. O(keywords).
 */
export function buildPlan({ keywords, layout, holds, pack, casing, names }: BuildInput): BuiltPlan {
  const held = indexHolds(holds);
  const given = names ?? namesFor(keywords, holds);
  const line = nameLine(layout.groupName.pattern);
  const groups: BuiltGroup[] = [];
  const rows: BuiltRow[] = [];
  for (const keyword of keywords) {
    const ruleName = nameByRule(keyword, line, layout, pack, casing);
    const { name, held: isHeld } = given.take(keyword.id, ruleName);
    const group = buildGroup(keyword, name, isHeld ? ruleName : null, layout, held);
    groups.push(group);
    addRows(rows, group, keyword, layout, held);
  }
  const watch = new OrphanWatch(holds);
  watch.page({ groups, rows });
  return { groups, rows, orphans: watch.orphans() };
}

function namesFor(keywords: readonly BuildKeyword[], holds: readonly Hold[]): GroupNames {
  const ids = new Set(keywords.map(({ id }) => id));
  return new GroupNames(holds, (id) => ids.has(id));
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

/** Finds holds on rows that no rule makes any more, over as many pages of a plan as one likes. */
export class OrphanWatch {
  private readonly made = new Set<string>();
  private readonly wanted: ReadonlySet<string>;

  /** Ads hang on their group, so their keys begin with its key. */
  constructor(private readonly holds: readonly Hold[]) {
    this.wanted = new Set(holds.map(({ rowKey }) => adGroupOf(rowKey)));
  }

  page({ groups, rows }: Pick<BuiltPlan, 'groups' | 'rows'>): void {
    if (this.wanted.size === 0) return;
    for (const { key } of groups) if (this.wanted.has(key)) this.made.add(key);
    for (const { key } of rows) if (this.wanted.has(key)) this.made.add(key);
  }

  orphans(): Hold[] {
    return this.holds.filter(({ rowKey }) => !this.made.has(adGroupOf(rowKey)));
  }
}

const adGroupOf = (rowKey: string): string =>
  /^k\d+\/a/.test(rowKey) ? rowKey.slice(0, rowKey.indexOf('/')) : rowKey;
