import type { MatchType } from '../match/index.ts';
import { normalise } from '../text/index.ts';
import type { ReportNames } from './place-keys.ts';

/** What of a row's names the plan does not have, and has not shipped. */
export type NotMet = 'campaign' | 'group' | 'keyword' | 'match-type' | 'ad';

/**
 * What of a plan a row of a report is of, by its keys; null where the row names none of it or it is not met. `not`: the
 * first of its names that is not met.
 */
export type Met = { group: string | null; row: string | null; ad: string | null; not: NotMet | null };

type Rows = { byType: Map<string, string>; only: string | null };

/**
 * The names by which rows of reports find what they are of. Names count as they were shipped, since that is what the outlet
 * knows; what was never shipped is found by its name of today. Names are told apart whatever their case. O(1) a row.
 */
export class PlanNames {
  private readonly campaigns = new Set<string>();
  private readonly shipped = new Map<string, string>();
  private readonly today = new Map<string, string>();
  private readonly keywords = new Map<string, Rows>();
  /** Rows of the whole plan by text and type; null where it has several. */
  private readonly anywhere = new Map<string, Map<MatchType, string | null>>();
  /** null where several ads of an ad group have the name: which is meant can't be told. */
  private readonly ads = {
    shipped: new Map<string, string | null>(),
    today: new Map<string, string | null>(),
  };

  /** An ad group under the names that it has in an outlet's sheets, or has now. */
  addGroup(campaign: string, group: string, key: string, when: 'shipped' | 'today'): void {
    this.campaigns.add(normalise(campaign));
    (when === 'shipped' ? this.shipped : this.today).set(pair(campaign, group), key);
  }

  addKeyword(group: string, text: string, type: MatchType, row: string): void {
    const at = pair(group, text);
    const rows = this.keywords.get(at) ?? { byType: new Map(), only: row };
    rows.byType.set(type, row);
    rows.only = rows.byType.size === 1 ? row : null;
    this.keywords.set(at, rows);
    const everywhere = this.anywhere.get(normalise(text)) ?? new Map<MatchType, string | null>();
    everywhere.set(type, everywhere.has(type) && everywhere.get(type) !== row ? null : row);
    this.anywhere.set(normalise(text), everywhere);
  }

  /** An ad by what reports name ads by: its first headlines, or its label; null: several are called so. */
  addAd(group: string, name: string, ad: string | null, when: 'shipped' | 'today'): void {
    const at = pair(group, name);
    const known = this.ads[when];
    known.set(at, known.has(at) && known.get(at) !== ad ? null : ad);
  }

  /**
   * What a row is of, as far as it is met. A keyword that has left an ad group since that was shipped is met where it is now;
   * one that the plan has no more leaves the ad group. A keyword without a match type is met where it is there in one type
   * only: which of several is meant can't be told.
   */
  meet(names: ReportNames): Met {
    const { campaign = '', group, keyword, match, ad } = names;
    const isCampaign = names.campaign === undefined || this.campaigns.has(normalise(campaign));
    if (group === undefined) return { ...NOTHING, not: isCampaign ? null : 'campaign' };
    const at = pair(campaign, group);
    const key = this.shipped.get(at) ?? this.today.get(at);
    if (key === undefined) return { ...NOTHING, not: isCampaign ? 'group' : 'campaign' };
    const rows = keyword === undefined ? undefined : this.keywords.get(pair(key, keyword));
    const hasMoved = !rows && keyword !== undefined && this.shipped.has(at);
    const there = match ? rows?.byType.get(match) : rows?.only;
    const row = (hasMoved ? this.moved(keyword, match ?? null) : there) ?? null;
    const met = { group: key, row, ad: ad === undefined ? null : this.adCalled(pair(key, ad)) };
    if (keyword !== undefined && row === null) return { ...met, not: rows ? 'match-type' : 'keyword' };
    return { ...met, not: ad !== undefined && met.ad === null ? 'ad' : null };
  }

  private adCalled(at: string): string | null {
    const { shipped, today } = this.ads;
    return (shipped.has(at) ? shipped.get(at) : today.get(at)) ?? null;
  }

  private moved(keyword: string, match: MatchType | null): string | null {
    const rows = this.anywhere.get(normalise(keyword));
    if (match) return rows?.get(match) ?? null;
    const [only = null] = rows?.size === 1 ? rows.values() : [];
    return only;
  }
}

const NOTHING = { group: null, row: null, ad: null };

const pair = (first: string, second: string): string => `${normalise(first)}\t${normalise(second)}`;
