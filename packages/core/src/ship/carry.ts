import { type MatchType, matchTypes } from '../match/index.ts';
import { type BasisPoints, type Micros, multiplied } from '../money/index.ts';
import { checkAsset } from '../write/index.ts';
import { inOutletNotation, keyOf, toldValues } from './cells.ts';
import { eachKind, type NetworkName, networkNames, type Outlet, type RowKind } from './outlet.ts';
import type {
  AdSheetRow,
  AssetSheetRow,
  CampaignSheetRow,
  GroupSheetRow,
  KeywordSheetRow,
  MatchSetting,
  NegativeSheetRow,
  NetworkBids,
} from './sheet-rows.ts';

/** What an outlet does not carry of a plan. */
export const lossRules = [
  'match-stands-in',
  'match-folded',
  'match-left-out',
  'match-mixed',
  'bid-of-group',
  'ad-form',
  'ad-fields',
  'ad-folded',
  'negative-stands-in',
  'negative-left-out',
  'negatives-over-limit',
  'setting',
  'asset',
  'assets-over-limit',
  'labels',
] as const;
export type LossRule = (typeof lossRules)[number];

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

/** What settings are when nobody has chosen: nothing is lost with them. */
const USUAL: Partial<Record<string, string>> = {
  networks: 'Search',
  presence: 'People in',
  delivery: 'Even',
  strategy: 'Bids by hand',
  rotation: 'Best ads more often',
};

/**
 * Makes a plan's rows into those that one outlet can carry, and tells what is lost by it, row by row. What it has made it
 * passes on as it is: carrying twice changes nothing.
 */
export class Carrier {
  /** null where the outlet does not know the type at all. */
  private readonly keywordType: Record<MatchType, MatchType | null>;
  private readonly negativeType: Record<MatchType, MatchType | null>;
  private readonly told: Record<RowKind, ReadonlySet<string>>;
  /** Those of the campaign that is being carried. */
  private networks: readonly NetworkName[] = ['search'];

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
  }

  /** `types`: those that the campaign's keyword rows have, by the plan; `networks`: where it is shown. */
  campaign(
    row: CampaignSheetRow,
    types: ReadonlySet<MatchType>,
    networks: readonly NetworkName[] = ['search'],
  ): CampaignSheetRow {
    const { campaign, settings } = row;
    this.networks = networks;
    for (const [setting, text] of Object.entries(settings)) {
      const isUsual = text === '' || text === USUAL[setting];
      if (isUsual || this.told.campaign.has(setting)) continue;
      this.lose({ rule: 'setting', campaign, group: '', text: `${setting}: ${text}`, becomes: '' });
    }
    if (this.outlet.match !== 'setting') return { ...row, matchSetting: null };
    const matchSetting = row.matchSetting ?? settingFor(types);
    const others = [...types].filter((type) => settingFor(new Set([type])) !== matchSetting);
    if (row.matchSetting === null && others.length > 0)
      this.lose({
        rule: 'match-mixed',
        campaign,
        group: '',
        text: [...types].join(', '),
        becomes: matchSetting,
      });
    return { ...row, matchSetting };
  }

  group(rows: GroupRows, matchSetting: MatchSetting | null): GroupRows {
    const keywords = this.keywords(rows.keywords, matchSetting);
    const isGroupBid = this.outlet.bids.on === 'group';
    const bid = isGroupBid ? groupBid(rows.group, rows.keywords) : rows.group.bid;
    if (isGroupBid)
      for (const { campaign, group, text, bid: own } of rows.keywords)
        if (own !== null && own !== bid)
          this.lose({ rule: 'bid-of-group', campaign, group, text, becomes: moneyText(bid) });
    const { campaign, group } = rows.group;
    for (const text of rows.unwritten ?? [])
      this.lose({ rule: 'ad-form', campaign, group, text, becomes: '' });
    return {
      group: { ...rows.group, ...this.bids({ ...rows.group, bid }) },
      keywords:
        isGroupBid || this.outlet.bids.perNetwork
          ? keywords.map((row) => ({ ...row, ...(isGroupBid ? { bid: null, bids: null } : this.bids(row)) }))
          : keywords,
      negatives: this.negatives(rows.negatives),
      ads: this.ads(rows.ads),
    };
  }

  private bids({ bid, bids }: { bid: Micros | null; bids: NetworkBids | null }) {
    if (!this.outlet.bids.perNetwork) return { bid, bids: null };
    if (bids || bid === null) return { bid, bids };
    const own: NetworkBids = {};
    for (const name of networkNames)
      if (this.networks.includes(name)) own[name] = multiplied(bid, [this.steps[name]], this.increment);
    return { bid, bids: own };
  }

  private keywords(rows: readonly KeywordSheetRow[], matchSetting: MatchSetting | null): KeywordSheetRow[] {
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
    const wanted = matchTypes.indexOf(type);
    const far = (row: KeywordSheetRow) => Math.abs(matchTypes.indexOf(row.type) - wanted);
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
    for (const row of rows) {
      const { campaign, group, text } = row;
      const type = this.negativeType[row.type];
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
    const { campaign, group, texts, labels } = row;
    const text = texts.headline1 ?? '';
    if (!this.outlet.ad[row.form] || !this.told.ad.has('headline1')) {
      this.lose({ rule: 'ad-form', campaign, group, text, becomes: '' });
      return [];
    }
    const told = toldAd(row, this.told.ad);
    const lost = Object.keys(texts).length - Object.keys(told.texts).length + (row.leftOut ?? 0);
    if (lost > 0) this.lose({ rule: 'ad-fields', campaign, group, text, becomes: String(lost) });
    if (labels.length > 0 && !this.told.ad.has('labels'))
      this.lose({ rule: 'labels', campaign, group, text: labels.join(', '), becomes: '' });
    if (row.leftOut === undefined) return [told];
    const { leftOut: _, ...carried } = told;
    return [carried];
  }

  /** Assets of one place, in their order. */
  assets(rows: readonly AssetSheetRow[]): AssetSheetRow[] {
    const counts = { sitelink: 0, callout: 0, phone: 0 };
    const { assets } = this.outlet.ad;
    return rows.filter(({ campaign, group, asset }) => {
      const text = 'text' in asset ? asset.text : asset.number;
      const say = (rule: LossRule, becomes: string) => this.lose({ rule, campaign, group, text, becomes });
      if (!this.told.asset.has('asset-kind')) {
        say('asset', '');
        return false;
      }
      const [problem] = checkAsset(asset, assets);
      if (problem) say('asset', problem.words);
      else if (asset.kind !== 'phone' && ++counts[asset.kind] > assets[asset.kind].most)
        say('assets-over-limit', '');
      else return true;
      return false;
    });
  }
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

const moneyText = (bid: Micros | null): string => (bid === null ? '' : String(bid / 1_000_000));
