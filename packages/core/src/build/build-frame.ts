import { gotten, itemAt, numberAt, uint32At } from '../access/index.ts';
import { countIn, type MatchSet } from '../match/index.ts';
import { asMicros, type BasisPoints, type Micros, medianOf } from '../money/index.ts';
import { type BaseFrom, baseFor } from './bid.ts';
import type { BuildKeyword } from './build-keyword.ts';
import { addCopies } from './copies.ts';
import type { CampaignFrame, Frame, FrameInput, GroupFrame } from './frame.ts';
import { type Covered, type Holds, indexHolds, labelsOf, statusOf } from './hold.ts';
import { groupOfAd, kindOfKey } from './keys.ts';
import type { Ladder, Lane } from './layout.ts';
import { nameFrame } from './name-frame.ts';
import { splitParts } from './split-parts.ts';
import { type ThemeRules, themeRules } from './theme-rules.ts';
import { byNorm, isMoreSearched } from './top-keywords.ts';
import { type CampaignSeed, type Unit, Units } from './units.ts';

/**
 * Lays keywords out in campaigns and ad groups by the rules: themes or single keywords, split by their campaign's kind,
 * in numbered parts where they are too many, by lanes; named, with what is held on top. A group without a row is not
 * made. O(keywords + groups log groups).
 */
export function buildFrame(input: FrameInput): Frame {
  return new Framer(input).frame();
}

/**
 * A frame of which nothing but names has changed: of themes, sources, patterns, the casing or what is held of names.
 * Not for a frame with copies. O(groups).
 */
export function renameFrame(frame: Frame, input: FrameInput): Frame {
  const renamed = { ...frame, input, holds: indexHolds(input.holds) };
  nameFrame(renamed, themeRules(input.themes, input.layout));
  return renamed;
}

class Framer {
  private readonly rules: ReadonlyMap<number, ThemeRules>;
  private readonly units: Units;
  private readonly types: Units['types'];
  private readonly medians = new Map<number, Micros | null>();
  private readonly cpcs = new Map<number, Micros[]>();
  private readonly holds: Holds;

  constructor(private readonly input: FrameInput) {
    const { keywords, layout, themes, places } = input;
    this.holds = indexHolds(input.holds);
    this.rules = themeRules(themes, layout);
    this.units = new Units({ keywords, layout, themes, places, rules: this.rules });
    this.types = this.units.types;
    for (const { theme, cpc } of keywords) {
      if (!theme || cpc === null) continue;
      const list = this.cpcs.get(theme);
      if (list) list.push(cpc);
      else this.cpcs.set(theme, [cpc]);
    }
  }

  frame(): Frame {
    const campaigns = new Map<string, { seed: CampaignSeed; lane: Lane | null; groups: GroupFrame[] }>();
    for (const unit of this.units.all.values())
      for (const group of this.groupsOf(unit)) {
        const key = this.campaignOf(unit, group.lane);
        const known = campaigns.get(key);
        if (known) known.groups.push(group);
        else {
          const lane = this.input.layout.spread === 'by-campaign' ? group.lane : null;
          campaigns.set(key, {
            seed: gotten(this.units.seeds, unit.campaign),
            lane,
            groups: [group],
          });
        }
      }
    const ordered = [...campaigns.entries()].sort(
      ([, a], [, b]) => a.seed.order - b.seed.order || (a.lane?.id ?? 0) - (b.lane?.id ?? 0),
    );
    const groups: GroupFrame[] = [];
    ordered.forEach(([, { groups: list }], campaign) => {
      for (const group of list.sort(byPosition)) {
        group.campaign = campaign;
        groups.push(group);
      }
    });
    const { input, types, holds } = this;
    const frame: Frame = {
      input,
      campaigns: ordered.map(([key, { seed, lane }], at) => this.campaignFrame(key, seed, lane, at)),
      seeds: ordered.map(([, { seed }]) => seed),
      groups,
      holds,
      typesOf: (at) => types[at] ?? NO_TYPES,
      medianOf: this.medianFor,
      makes: () => false,
    };
    nameFrame(frame, this.rules);
    addCopies(frame);
    frame.makes = makesOf(frame);
    return frame;
  }

  private campaignOf(unit: Unit, lane: Lane | null): string {
    return unit.campaign + (this.input.layout.spread === 'by-campaign' ? laneKey(lane) : '');
  }

  private groupsOf(unit: Unit): GroupFrame[] {
    const { layout } = this.input;
    const together = layout.spread === 'together';
    const groups: GroupFrame[] = [];
    const parts = this.partsOf(unit);
    for (let at = 0; at < parts.length; at++)
      for (let laneAt = 0; laneAt < (together ? 1 : layout.lanes.length); laneAt++) {
        const lane = together ? null : itemAt(layout.lanes, laneAt);
        const own = this.withRows(itemAt(parts, at), together ? null : laneAt);
        if (own.length === 0) continue;
        const key = `${at === 0 ? unit.key : `${unit.key}p${at + 1}`}${laneKey(lane)}`;
        groups.push(this.groupFrame(unit, key, own, lane, at + 1, parts.length));
      }
    return groups;
  }

  private withRows(members: readonly number[], lane: number | null): readonly number[] {
    for (const keyword of members)
      if (!this.hasRow(keyword, lane)) return members.filter((one) => this.hasRow(one, lane));
    return members;
  }

  /** Of a keyword that stands in the frame. */
  private typesOf(keyword: number): readonly number[] {
    return itemAt(this.types, keyword) ?? [];
  }

  private hasRow(keyword: number, lane: number | null): boolean {
    const types = this.typesOf(keyword);
    return lane === null ? types.some((set) => set !== 0) : (types[lane] ?? 0) !== 0;
  }

  /** The members of each part; as even as can be when first made, and sticky from then on. */
  private partsOf({ key, kind, members }: Unit): number[][] {
    const { keywords, layout, partBefore, rowsPerGroup } = this.input;
    const limits = { groups: layout.keywordsPerGroup ?? Number.POSITIVE_INFINITY, rows: rowsPerGroup };
    if (kind === 'single') return [members];
    const before = members.map((at) => partBefore(key, itemAt(keywords, at).id));
    const isWhole = before.every((part) => part <= 1);
    if (isWhole && members.length <= Math.min(limits.groups, rowsPerGroup / 4)) return [members];
    const isNew = before.every((part) => part === 0);
    // Alike by their first words: what is split for the first time is split between them.
    const order = isNew ? [...members].sort((a, b) => byNorm(keywords, a, b)) : members;
    const rows = order.map((at) => rowsIn(this.typesOf(at)));
    const parts = splitParts(rows, limits, isNew ? undefined : before);
    const lists: number[][] = [];
    order.forEach((at, place) => {
      const part = uint32At(parts, place);
      while (lists.length < part) lists.push([]);
      itemAt(lists, part - 1).push(at);
    });
    for (const list of lists) list.sort((a, b) => a - b);
    return lists;
  }

  private groupFrame(
    unit: Unit,
    key: string,
    members: readonly number[],
    lane: Lane | null,
    part: number,
    parts: number,
  ): GroupFrame {
    const { keywords } = this.input;
    const rules = this.rules.get(unit.theme);
    const lead = this.leadOf(key, members);
    const keyword = itemAt(keywords, lead);
    const [ruleBase, from] = this.baseOf(unit, keyword, this.campaignOf(unit, lane));
    const frame: GroupFrame = {
      key,
      campaign: 0,
      kind: unit.kind,
      theme: unit.theme,
      position: unit.position,
      part,
      parts,
      lane,
      members,
      lead,
      name: '',
      base: ruleBase,
      baseFrom: from,
      step: 10_000,
      steps: rules?.steps ?? NO_STEPS,
      status: 'enabled',
      labels: NO_LABELS,
      place: unit.place ?? keyword.place,
      stage: unit.stage ?? keyword.stage,
      ads: true,
      prefix: '',
      covered: null,
    };
    return this.withHeld(frame, ruleBase);
  }

  private withHeld(frame: GroupFrame, ruleBase: Micros): GroupFrame {
    const held = this.holds.of(frame.key);
    if (!held) return frame;
    const bid = held.get('bid');
    if (bid) {
      frame.base = asMicros(Number(bid.value));
      frame.baseFrom = 'held';
      frame.covered = { ...frame.covered, bid: ruleBase };
    }
    const step = held.get('step');
    if (step) {
      frame.step = Number(step.value);
      frame.steps = [...frame.steps, frame.step];
      frame.covered = { ...frame.covered, step: 10_000 };
    }
    if (held.get('status')) {
      frame.status = statusOf(held);
      frame.covered = { ...frame.covered, status: 'enabled' };
    }
    const labels = held.get('labels');
    if (labels) frame.labels = labelsOf(String(labels.value));
    return frame;
  }

  /** The one with most searches, then the first by code point; one chosen by hand goes before. */
  private leadOf(key: string, members: readonly number[]): number {
    const { keywords } = this.input;
    const chosen = this.holds.get(key, 'lead')?.value;
    let best = numberAt(members, 0);
    for (const at of members) {
      if (chosen !== undefined && itemAt(keywords, at).id === Number(chosen)) return at;
      if (at !== best && isMoreSearched(keywords, at, best)) best = at;
    }
    return best;
  }

  /** The base of a group: of its keyword, or of its theme; the default is its campaign's where that has one of its own. */
  private baseOf(unit: Unit, keyword: BuildKeyword, campaign: string): [Micros, BaseFrom] {
    const own = this.holds.get(campaign, 'bid')?.value;
    const ladder = own === undefined ? this.input.layout.ladder : withDefault(this.input.layout.ladder, own);
    if (unit.kind === 'single')
      return baseFor({ ladder }, keyword.cpc, this.medianFor(unit.theme), keyword.takenCpc);
    const median = ladder.baseBy === 'default' ? null : this.medianFor(unit.theme);
    return median === null ? [ladder.defaultBase, 'default'] : [median, 'theme'];
  }

  private medianFor = (theme: number): Micros | null => {
    const known = this.medians.get(theme);
    if (known !== undefined) return known;
    const median = medianOf(this.cpcs.get(theme) ?? []);
    this.medians.set(theme, median);
    return median;
  };

  private campaignFrame(key: string, seed: CampaignSeed, lane: Lane | null, position: number): CampaignFrame {
    const held = this.holds.of(key);
    const { dailyBudget } = this.input.layout;
    const budget = held?.get('budget')?.value;
    const covered: Covered = {};
    if (budget !== undefined) covered.budget = dailyBudget;
    if (held?.has('bid')) covered.bid = this.input.layout.ladder.defaultBase;
    if (held?.has('status')) covered.status = 'enabled';
    return {
      key,
      position,
      name: '',
      dailyBudget: budget === undefined ? dailyBudget : asMicros(Number(budget)),
      status: statusOf(held),
      labels: labelsOf(String(held?.get('labels')?.value ?? '')),
      settings: held?.has('settings') ? Number(held.get('settings')?.value) : null,
      lane,
      place: seed.place,
      covered: Object.keys(covered).length > 0 ? covered : null,
    };
  }
}

const withDefault = (ladder: Ladder, own: string | number): Ladder => ({
  ...ladder,
  defaultBase: asMicros(Number(own)),
});

const NO_STEPS: readonly BasisPoints[] = [];
const NO_LABELS: string[] = [];
const NO_TYPES: readonly MatchSet[] = [];

const laneKey = (lane: Lane | null): string => (lane === null ? '' : `l${lane.id}`);
const byPosition = (a: GroupFrame, b: GroupFrame): number =>
  a.position - b.position ||
  a.part - b.part ||
  (a.lane?.id ?? 0) - (b.lane?.id ?? 0) ||
  (a.key < b.key ? -1 : a.key > b.key ? 1 : 0);

const rowsIn = (types: readonly MatchSet[]): number => types.reduce((sum, set) => sum + countIn(set), 0);

function makesOf({ campaigns, groups, input, typesOf }: Frame): (key: string) => boolean {
  let keys: Set<string> | null = null;
  let rows: Map<string, number> | null = null;
  return (key) => {
    keys ??= new Set([...campaigns.map((one) => one.key), ...groups.map((one) => one.key)]);
    if (kindOfKey(key) !== 'row') return keys.has(groupOfAd(key));
    rows ??= new Map(
      groups.flatMap(({ members, prefix }) =>
        members.map((at) => [`${prefix}k${input.keywords[at]?.id}`, at] as const),
      ),
    );
    const [keyword = '', letter = ''] = key.split(':');
    const at = rows.get(keyword);
    const bit = 1 << 'bmpe'.indexOf(letter);
    return at !== undefined && typesOf(at).some((set) => (set & bit) !== 0);
  };
}
