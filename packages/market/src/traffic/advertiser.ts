import { type MatchType, matchTypes } from '@sprig/core/match';
import type { Outlet } from '@sprig/core/outlets';
import { normalise } from '@sprig/core/text';
import { headlines } from '@sprig/core/write';
import type { AccountRow, Said } from '../engine/index.ts';

/** Amounts are in millionths of the currency. */
export type Campaign = { name: string; budget: number | null };
/** `name`: what reports call it, all its headlines. */
export type Ad = { headline: string; name: string; page: string; texts: string };
export type Group = { name: string; campaign: number; ads: Ad[] };
export type Row = { text: string; type: MatchType; group: number; bid: number };
/** `group` null: of the whole campaign. */
export type Negative = {
  text: string;
  type: 'broad' | 'phrase' | 'exact';
  campaign: number;
  group: number | null;
};

/** What of an account can be shown: what is paused or removed is left out. */
export type Advertiser = { campaigns: Campaign[]; groups: Group[]; rows: Row[]; negatives: Negative[] };

const MILLION = 1_000_000;

/** Reads an account as its engine understands it, by its own words. */
export function advertiserOf(rows: Iterable<AccountRow>, outlet: Outlet, decimals: number): Advertiser {
  const all = [...rows];
  const isOn = ({ status = '' }: Said) => status === '' || status === outlet.words.enabled;
  const amount = (text: string | undefined): number | null => {
    if (!text) return null;
    const number = Number(text.replace(outlet.money.mark, '.'));
    return Number.isFinite(number)
      ? (number * MILLION) / (outlet.money.unit === 'minor' ? 10 ** decimals : 1)
      : null;
  };
  const campaignAt = new Map<string, number>();
  const isWide = new Map<string, boolean>();
  const campaigns: Campaign[] = [];
  for (const { kind, said } of all) {
    if (kind !== 'campaign' || !isOn(said)) continue;
    campaignAt.set(said.campaign ?? '', campaigns.length);
    isWide.set(said.campaign ?? '', said['match-setting'] === outlet.words.matchSettings.wide);
    campaigns.push({ name: said.campaign ?? '', budget: amount(said['daily-budget']) });
  }
  const groupAt = new Map<string, number>();
  const bidOfGroup: (number | null)[] = [];
  const isWideGroup = new Map<string, boolean>();
  const groups: Group[] = [];
  const placeOf = ({ campaign = '', group = '' }: Said) => `${campaign}\u001f${group}`;
  for (const { kind, said } of all) {
    const campaign = campaignAt.get(said.campaign ?? '');
    if (kind !== 'group' || campaign === undefined || !isOn(said)) continue;
    groupAt.set(placeOf(said), groups.length);
    if (said['match-setting'])
      isWideGroup.set(placeOf(said), said['match-setting'] === outlet.words.matchSettings.wide);
    groups.push({ name: said.group ?? '', campaign, ads: [] });
    bidOfGroup.push(amount(said.bid ?? said['bid-search']));
  }
  const found: Row[] = [];
  const negatives: Negative[] = [];
  for (const { kind, said } of all) {
    const campaign = campaignAt.get(said.campaign ?? '');
    const group = groupAt.get(placeOf(said));
    if (campaign === undefined || !isOn(said)) continue;
    if (kind === 'negative') {
      const { text, type } = keywordOf(said, outlet, false);
      const narrow = type === 'modified' ? 'broad' : type;
      if (said.group && group === undefined) continue;
      negatives.push({ text, type: narrow, campaign, group: group ?? null });
    }
    if (group === undefined) continue;
    if (kind === 'ad')
      groups[group]?.ads.push({
        headline: said.headline1 ?? '',
        name: headlines.flatMap((field) => said[field] || []).join(' | '),
        page: said['final-url'] ?? '',
        texts: normalise(Object.values(said).join(' ')),
      });
    if (kind === 'keyword') {
      const { text, type } = keywordOf(
        said,
        outlet,
        isWideGroup.get(placeOf(said)) ?? isWide.get(said.campaign ?? '') ?? false,
      );
      const bid = amount(said.bid ?? said['bid-search']) ?? bidOfGroup[group] ?? null;
      if (bid !== null && text !== '') found.push({ text, type, group, bid });
    }
  }
  return { campaigns, groups, rows: found, negatives };
}

/** The text and match type of a keyword: in a column, in its notation, or by the setting of its ad group or campaign. */
function keywordOf(said: Said, outlet: Outlet, isWide: boolean): { text: string; type: MatchType } {
  const noted = said['keyword-notation'];
  if (noted !== undefined) {
    const bare = noted.replace(/^-/, '');
    const inside = /^\[(.*)\]$/.exec(bare)?.[1];
    if (inside !== undefined) return { text: normalise(inside), type: 'exact' };
    const quoted = /^"(.*)"$/.exec(bare)?.[1];
    return quoted === undefined
      ? { text: normalise(bare), type: 'broad' }
      : { text: normalise(quoted), type: 'phrase' };
  }
  const text = normalise(said.keyword ?? '');
  if (outlet.match === 'setting') return { text, type: isWide ? 'broad' : 'exact' };
  const type = matchTypes.find((one) => outlet.words.matchTypes[one] === said['match-type']);
  return { text, type: type ?? 'phrase' };
}
