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

type ByType<T> = Partial<Record<MatchType, T>>;
/** `only`: null where they are in several types. */
type Rows = { byType: ByType<string>; only: string | null };

const pair = (first: string, second: string): string => `${normalise(first)}\t${normalise(second)}`;

/**
 * The names by which rows of reports find what they are of. Names count as they were shipped, since that is what the outlet
 * knows; what was never shipped is found by its name of today. Names are told apart whatever their case. O(1) a row.
 */
export class PlanNames {
  private readonly campaigns = new Set<string>();
  private readonly shipped = new Map<string, string>();
  private readonly today = new Map<string, string>();
  private readonly keywords = new Map<string, Rows>();
  /** Rows of the whole plan by text and type, null where it has several; made when first asked for. */
  private anywhere: Map<string, ByType<string | null>> | null = null;
  private last = { campaign: '', group: '', at: pair('', '') };
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
    const rows = this.keywords.get(at);
    this.anywhere = null;
    if (!rows) {
      this.keywords.set(at, { byType: { [type]: row }, only: row });
      return;
    }
    rows.byType[type] = row;
    rows.only = Object.keys(rows.byType).length === 1 ? row : null;
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
    const at = this.groupAt(campaign, group);
    const key = this.shipped.get(at) ?? this.today.get(at);
    if (key === undefined) return { ...NOTHING, not: isCampaign ? 'group' : 'campaign' };
    const rows = keyword === undefined ? undefined : this.keywords.get(pair(key, keyword));
    const hasMoved = !rows && keyword !== undefined && this.shipped.has(at);
    const there = match ? rows?.byType[match] : rows?.only;
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
    this.anywhere ??= this.byText();
    const rows = this.anywhere.get(normalise(keyword)) ?? {};
    if (match) return rows[match] ?? null;
    const [only = null, another] = Object.values(rows);
    return another === undefined ? only : null;
  }

  private byText(): Map<string, ByType<string | null>> {
    const all = new Map<string, ByType<string | null>>();
    for (const [at, { byType }] of this.keywords) {
      const text = at.slice(at.indexOf('\t') + 1);
      const there = all.get(text) ?? {};
      for (const [type, row] of Object.entries(byType) as [MatchType, string][])
        there[type] = there[type] !== undefined && there[type] !== row ? null : row;
      all.set(text, there);
    }
    return all;
  }

  /** Where an ad group stands among those named; mostly the same as of the row before. */
  private groupAt(campaign: string, group: string): string {
    const { last } = this;
    if (last.campaign !== campaign || last.group !== group)
      this.last = { campaign, group, at: pair(campaign, group) };
    return this.last.at;
  }
}

const NOTHING = { group: null, row: null, ad: null };
