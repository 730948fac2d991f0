import {
  type AdSheetRow,
  type CampaignSheetRow,
  type CellValue,
  type ColumnLoss,
  columnsOfKind,
  type ExtraSheetRow,
  eachKind,
  type GroupSheetRow,
  inOutletNotation,
  type KeywordSheetRow,
  type LossRule,
  type MatchSetting,
  type NegativeSheetRow,
  type NetworkBids,
  type NetworkName,
  networkNames,
  type RowKind,
  type SheetRow,
  titleOf,
  unitsOf,
} from '../columns/index.ts';
import { type MatchType, matchTypes, narrownessOf } from '../match/index.ts';
import { type BasisPoints, type Micros, multiplied } from '../money/index.ts';
import type { Outlet } from '../outlets/index.ts';
import { checkExtra, type ExtraBody, type ExtraKind } from '../write/index.ts';
import { keyOf, toldValues } from './cells.ts';

/** One row of the plan of which something is lost: what it says, and what becomes of it. */
export type Loss = { rule: LossRule; campaign: string; group: string; text: string; becomes: string };

/** `unwritten`: ads of the plan that are not made for the outlet at all, since it has no such form. */
export type GroupRows = {
  group: GroupSheetRow;
  keywords: readonly KeywordSheetRow[];
  negatives: readonly NegativeSheetRow[];
  ads: readonly AdSheetRow[];
  unwritten?: readonly string[];
};

/** The share of a bid that is bid on each network, in basis points. */
export type NetworkSteps = Record<NetworkName, BasisPoints>;
export const usualNetworkSteps = { search: 10_000, partners: 10_000, display: 10_000 } as NetworkSteps;

/**
 * Makes a plan's rows into those that one outlet can carry, and tells what is lost by it, row by row. What it has made it
 * passes on as it is: carrying twice changes nothing.
 */
export class Carrier {
  /** null where the outlet does not know the type at all. */
  private readonly keywordType: Record<MatchType, MatchType | null>;
  private readonly negativeType: Record<MatchType, MatchType | null>;
  private readonly told: Record<RowKind, ReadonlySet<string>>;
  /** What becomes of what no column tells. */
  private readonly losing: Record<RowKind, readonly ColumnLoss<SheetRow>[]>;
  /** Those of the campaign that is being carried. */
  private networks: readonly NetworkName[] = ['search'];
  /** How that campaign matches where it was said by hand. */
  private saidSetting: MatchSetting | null = null;

  constructor(
    private readonly outlet: Outlet,
    private readonly steps: NetworkSteps,
    private readonly increment: Micros,
    private readonly lose: (loss: Loss) => void,
  ) {
    this.keywordType = standIns(outlet.matchTypes, true);
    this.negativeType = standIns(outlet.negativeTypes, false);
    const values = toldValues(outlet);
    this.told = eachKind((kind) => new Set<string>(values[kind]));
    this.losing = eachKind((kind) =>
      columnsOfKind[kind].flatMap(({ value, loss }) => (loss && !this.told[kind].has(value) ? [loss] : [])),
    );
  }

  /** `types`: those that the campaign's keyword rows have, by the plan; `networks`: where it is shown. */
  campaign(
    row: CampaignSheetRow,
    types: ReadonlySet<MatchType>,
    networks: readonly NetworkName[] = ['search'],
  ): CampaignSheetRow {
    const { campaign } = row;
    this.networks = networks;
    this.saidSetting = row.matchSetting;
    const carried = this.untold(row);
    if (this.outlet.match !== 'setting') return { ...carried, matchSetting: null };
    const matchSetting = row.matchSetting ?? settingFor(types);
    // Ad groups that match each their own way tell it by themselves.
    if (row.matchSetting === null && !this.told.group.has('match-setting'))
      this.mixed(campaign, '', types, matchSetting);
    return { ...carried, matchSetting };
  }

  /** Tells where keywords are asked to match both ways, and only one can be set. */
  private mixed(campaign: string, group: string, types: ReadonlySet<MatchType>, becomes: MatchSetting) {
    const all = [...types];
    if (all.some((type) => settingFor(new Set([type])) !== becomes))
      this.lose({ rule: 'match-mixed', campaign, group, text: all.join(', '), becomes });
  }

  /**
   * How an ad group matches where the outlet lets it differ from its campaign: as was said of it by hand, or of its
   * campaign, else as its own keywords ask.
   */
  private settingOf({ group, keywords }: GroupRows, ofCampaign: MatchSetting | null): MatchSetting | null {
    if (this.outlet.match !== 'setting' || !this.told.group.has('match-setting')) return ofCampaign;
    const said = group.matchSetting ?? this.saidSetting;
    if (said !== null || keywords.length === 0) return said ?? ofCampaign;
    const types = new Set(keywords.map(({ type }) => type));
    const setting = settingFor(types);
    this.mixed(group.campaign, group.group, types, setting);
    return setting;
  }

  group(rows: GroupRows, ofCampaign: MatchSetting | null): GroupRows {
    const matchSetting = this.settingOf(rows, ofCampaign);
    const keywords = this.keywords(rows.keywords, matchSetting);
    const isGroupBid = this.outlet.bids.on === 'group';
    const bid = isGroupBid ? groupBid(rows.group, rows.keywords) : rows.group.bid;
    const isSetting = this.outlet.match === 'setting';
    const isTold = this.told.group.has('match-setting');
    const head: GroupSheetRow = {
      ...rows.group,
      // Where an ad group can't match its own way, what was said of it is told as lost.
      matchSetting: !isSetting ? null : isTold ? matchSetting : rows.group.matchSetting,
      ...this.bids({ ...rows.group, bid, bids: isGroupBid ? this.groupBids(rows) : rows.group.bids }),
    };
    if (isGroupBid)
      for (const { campaign, group, text, bid: own } of rows.keywords)
        if (own !== null && own !== bid)
          this.lose({ rule: 'bid-of-group', campaign, group, text, becomes: unitsOf(bid) });
    const { campaign, group } = rows.group;
    for (const text of rows.unwritten ?? [])
      this.lose({ rule: 'ad-form', campaign, group, text, becomes: '' });
    const hasNetworks = this.outlet.bids.perNetwork || keywords.some(({ bids }) => bids !== null);
    const each = hasNetworks ? keywords.map((row) => ({ ...row, ...this.bids(row) })) : keywords;
    const own = isGroupBid ? each.map((row) => ({ ...row, bid: null, bids: null })) : each;
    return {
      ...this.withBids(head, own),
      negatives: this.negatives(rows.negatives),
      ads: this.ads(rows.ads),
    };
  }

  /** A group and its keywords without what no column takes of them. */
  private withBids(head: GroupSheetRow, keywords: readonly KeywordSheetRow[]) {
    const { campaign, group } = head;
    const lose = (text: string) => this.lose({ rule: 'bid', campaign, group, text, becomes: '' });
    const misses = this.missesBid('group', head);
    // Where each keyword tells its own, nothing hangs on the group's.
    const isBare = misses && (keywords.length === 0 || keywords.some(({ bid }) => bid === null));
    if (isBare) lose(group);
    return {
      group: this.untold(misses ? { ...head, bid: null, bids: null } : head),
      keywords: keywords.map((row) => {
        const isLost = this.missesBid('keyword', row);
        // Where its group tells the same bid, it is not lost.
        if (isLost && (misses || row.bid !== head.bid)) lose(row.text);
        return this.untold(isLost ? { ...row, bid: null, bids: null } : row);
      }),
    };
  }

  /** A row without what no column of its kind takes. */
  private untold<R extends SheetRow>(row: R): R {
    let carried: SheetRow = row;
    for (const { rule, of, without } of this.losing[row.kind]) {
      const text = of(carried);
      if (text === null) continue;
      const group = carried.kind === 'campaign' ? '' : carried.group;
      this.lose({ rule, campaign: carried.campaign, group, text, becomes: '' });
      carried = without(carried);
    }
    return carried as R;
  }

  /** Whether a row has a bid of which no column of its kind tells. */
  private missesBid(
    kind: 'group' | 'keyword',
    { bid, bids }: { bid: Micros | null; bids: NetworkBids | null },
  ) {
    const told = this.told[kind];
    if (!bids) return bid !== null && !told.has('bid');
    return networkNames.some((name) => bids[name] !== undefined && !told.has(`bid-${name}`));
  }

  /** What is bid on each network where the campaign is shown: what was said of it by hand, else its share of the bid. */
  private bids(row: GroupSheetRow | KeywordSheetRow) {
    const { bid, bids } = row;
    const isTaken = (name: NetworkName) => this.outlet.bids.perNetwork && this.networks.includes(name);
    for (const name of networkNames) {
      const said = bids?.[name];
      if (said === undefined || isTaken(name)) continue;
      const { campaign, group } = row;
      this.lose({ rule: 'bid-network', campaign, group, text: `${titleOf(row)}: ${name}`, becomes: '' });
    }
    if (!this.outlet.bids.perNetwork) return { bid, bids: null };
    if (bid === null) return { bid, bids };
    const own: NetworkBids = {};
    for (const name of networkNames)
      if (isTaken(name)) own[name] = bids?.[name] ?? multiplied(bid, [this.steps[name]], this.increment);
    return { bid, bids: own };
  }

  /** Where only ad groups bid: the middle one of what keywords bid on each network, where some bid there by hand. */
  private groupBids({ group, keywords }: GroupRows): NetworkBids | null {
    const own: NetworkBids = {};
    for (const name of networkNames) {
      if (!keywords.some(({ bids }) => bids?.[name] !== undefined)) continue;
      const there = keywords.map((row) => ({
        ...row,
        bid:
          row.bids?.[name] ??
          (row.bid === null ? null : multiplied(row.bid, [this.steps[name]], this.increment)),
      }));
      const middle = groupBid(group, there);
      if (middle !== null) own[name] = middle;
    }
    return Object.keys(own).length > 0 ? own : group.bids;
  }

  private keywords(rows: readonly KeywordSheetRow[], matchSetting: MatchSetting | null): KeywordSheetRow[] {
    const { keyword: told } = this.told;
    if (!told.has('keyword') && !told.has('keyword-notation')) {
      for (const { campaign, group, text } of rows)
        this.lose({ rule: 'keyword-left-out', campaign, group, text, becomes: '' });
      return [];
    }
    if (this.outlet.match === 'setting') return this.untyped(rows, matchSetting ?? 'close');
    if (rows.every((row) => this.keywordType[row.type] === row.type)) return [...rows];
    const there = new Set(rows.map(({ text, type }) => `${type} ${text}`));
    return rows.flatMap((row) => {
      const { campaign, group, text } = row;
      const type = this.keywordType[row.type];
      if (type === row.type) return [row];
      const say = (rule: LossRule, becomes: string) =>
        this.lose({ rule, campaign, group, text: inOutletNotation(row, this.outlet), becomes });
      if (type === null) {
        say('match-left-out', '');
        return [];
      }
      const becomes = inOutletNotation({ text, type }, this.outlet);
      if (there.has(`${type} ${text}`)) {
        say('match-folded', becomes);
        return [];
      }
      there.add(`${type} ${text}`);
      say('match-stands-in', becomes);
      return [{ ...row, type, marks: [] }];
    });
  }

  /** Where the campaign decides how keywords match, each stands once: as the row nearest to the campaign's setting. */
  private untyped(rows: readonly KeywordSheetRow[], matchSetting: MatchSetting): KeywordSheetRow[] {
    const type: MatchType = matchSetting === 'wide' ? 'broad' : 'exact';
    const best = new Map<string, KeywordSheetRow>();
    const wanted = narrownessOf(type);
    const far = (row: KeywordSheetRow) => Math.abs(narrownessOf(row.type) - wanted);
    for (const row of rows) {
      const there = best.get(row.text);
      if (!there || far(row) < far(there)) best.set(row.text, row);
    }
    return rows.flatMap((row) => {
      const { campaign, group, text } = row;
      const is = best.get(text) === row;
      if (row.type !== type)
        this.lose({
          rule: is ? 'match-stands-in' : 'match-folded',
          campaign,
          group,
          text: `${text} (${row.type})`,
          becomes: matchSetting,
        });
      return is ? [{ ...row, type, marks: [] }] : [];
    });
  }

  negatives(rows: readonly NegativeSheetRow[]): NegativeSheetRow[] {
    const there = new Set<string>();
    const carried: NegativeSheetRow[] = [];
    const { negativesPerGroup } = this.outlet.limits;
    const told = this.told.negative;
    const isTold = told.has('keyword') || told.has('keyword-notation');
    // Without its ad group a negative would block in the whole campaign.
    const isPlaced = told.has('group');
    for (const row of rows) {
      const { campaign, group, text } = row;
      const type = isTold && (isPlaced || group === '') ? this.negativeType[row.type] : null;
      const say = (rule: LossRule, becomes: string) =>
        this.lose({ rule, campaign, group, text: `-${text} (${row.type})`, becomes });
      if (type === null) say('negative-left-out', '');
      else {
        if (type !== row.type) say('negative-stands-in', type);
        if (there.has(`${type} ${text}`)) continue;
        there.add(`${type} ${text}`);
        if (carried.length >= negativesPerGroup) say('negatives-over-limit', '');
        else carried.push({ ...row, type });
      }
    }
    return carried;
  }

  /** Two ads that say the same once what the outlet has no room for is gone are one. */
  private ads(rows: readonly AdSheetRow[]): AdSheetRow[] {
    const there = new Set<string>();
    const carried = rows.flatMap((row) => this.ad(row));
    if (carried.length < 2) return carried;
    return carried.filter((row) => {
      const key = keyOf(row);
      if (!there.has(key)) return there.add(key);
      const { campaign, group, texts } = row;
      this.lose({ rule: 'ad-folded', campaign, group, text: texts.headline1 ?? '', becomes: '' });
      return false;
    });
  }

  private ad(row: AdSheetRow): AdSheetRow[] {
    const { campaign, group, texts } = row;
    const text = texts.headline1 ?? '';
    if (!this.outlet.ad[row.form] || !this.told.ad.has('headline1')) {
      this.lose({ rule: 'ad-form', campaign, group, text, becomes: '' });
      return [];
    }
    const told = toldAd(row, this.told.ad);
    const lost = Object.keys(texts).length - Object.keys(told.texts).length + (row.leftOut ?? 0);
    if (lost > 0) this.lose({ rule: 'ad-fields', campaign, group, text, becomes: String(lost) });
    const { leftOut: _, ...carried } = this.untold(told);
    return [carried];
  }

  /** Extras of one place, in their order. */
  extras(rows: readonly ExtraSheetRow[]): ExtraSheetRow[] {
    const counts = { sitelink: 0, callout: 0, phone: 0 };
    const { extras } = this.outlet.ad;
    return rows.flatMap((row) => {
      const { campaign, group, extra } = row;
      const text = 'text' in extra ? extra.text : extra.number;
      const say = (rule: LossRule, becomes: string) => this.lose({ rule, campaign, group, text, becomes });
      const told = this.told.extra;
      const isPlaced = (campaign === '' || told.has('campaign')) && (group === '' || told.has('group'));
      if (!isPlaced || !ESSENTIAL[extra.kind].every((value) => told.has(value))) {
        say('extra', '');
        return [];
      }
      const carried = toldExtra(extra, told);
      if (carried !== extra) say('extra-fields', '');
      const [problem] = checkExtra(carried, extras);
      if (problem) say('extra', problem.words);
      else if (extra.kind !== 'phone' && ++counts[extra.kind] > extras[extra.kind].most)
        say('extras-over-limit', '');
      else return [carried === extra ? row : { ...row, extra: carried }];
      return [];
    });
  }
}

/** Without these columns an extra of a kind says nothing. */
const ESSENTIAL: Record<ExtraKind, readonly CellValue[]> = {
  sitelink: ['extra-kind', 'extra-text', 'final-url'],
  callout: ['extra-kind', 'extra-text'],
  phone: ['extra-kind', 'extra-number'],
};

/** A sitelink without its lines where the columns of extras do not take both. */
function toldExtra(extra: ExtraBody, told: ReadonlySet<string>): ExtraBody {
  if (extra.kind !== 'sitelink' || (extra.line1 === '' && extra.line2 === '')) return extra;
  const isWhole = told.has('extra-line1') && told.has('extra-line2');
  return isWhole ? extra : { ...extra, line1: '', line2: '' };
}

/** An ad with those of its texts that are among the values an outlet's sheets tell of ads. */
export function toldAd(row: AdSheetRow, told: ReadonlySet<string>): AdSheetRow {
  if (Object.keys(row.texts).every((field) => told.has(field))) return row;
  return {
    ...row,
    texts: Object.fromEntries(Object.entries(row.texts).filter(([field]) => told.has(field))),
  };
}

/** Wide where some keyword is to answer more than its own words. */
const settingFor = (types: ReadonlySet<MatchType>): MatchSetting =>
  types.has('broad') || types.has('modified') ? 'wide' : 'close';

/**
 * What stands in for each match type: itself, else the next narrower one that is known. Keywords may be widened where
 * there is none (nothing else is left); negatives never, for they would block more than was meant.
 */
function standIns(known: readonly MatchType[], mayWiden: boolean): Record<MatchType, MatchType | null> {
  const result = {} as Record<MatchType, MatchType | null>;
  matchTypes.forEach((type, at) => {
    const narrower = matchTypes.slice(at).find((one) => known.includes(one));
    const wider = matchTypes.slice(0, at).findLast((one) => known.includes(one));
    result[type] = narrower ?? (mayWiden ? (wider ?? null) : null);
  });
  return result;
}

/** The middle one of what its keywords bid (the lower of two), since they have no bids of their own there. */
function groupBid({ bid }: GroupSheetRow, keywords: readonly KeywordSheetRow[]): Micros | null {
  const bids = keywords.flatMap((row) => (row.bid === null ? [] : [row.bid])).sort((a, b) => a - b);
  return bids[(bids.length - 1) >> 1] ?? bid;
}
