import { itemAt } from '../access/index.ts';
import type { MatchSet } from '../match/index.ts';
import type { Theme } from '../sort/index.ts';
import { codeOfStage, type FunnelStage, funnelStages } from '../text/index.ts';
import type { BuildKeyword } from './build-keyword.ts';
import { placeKey } from './keys.ts';
import { laneTypes } from './lanes.ts';
import type { Grouping, LaneTakes, Layout } from './layout.ts';
import type { ThemeRules } from './theme-rules.ts';
import { topTester } from './top-keywords.ts';

/** Keywords that belong in one ad group, before they are split into parts and lanes. */
export type Unit = {
  key: string;
  kind: 'single' | 'theme';
  theme: number;
  position: number;
  campaign: string;
  place: string | null;
  stage: FunnelStage | null;
  source: number | null;
  members: number[];
};

/** What a campaign is made by. */
export type CampaignSeed = {
  key: string;
  order: number;
  theme: Theme | null;
  place: string | null;
  stage: FunnelStage | null;
  source: number | null;
};

export type UnitInput = {
  keywords: readonly BuildKeyword[];
  layout: Layout;
  themes: readonly Theme[];
  places: readonly string[];
  rules: ReadonlyMap<number, ThemeRules>;
};

/** Finds the unit and the campaign of every keyword that is built. O(keywords). */
export class Units {
  readonly all = new Map<string, Unit>();
  readonly seeds = new Map<string, CampaignSeed>();
  /** The match types of each keyword by lane; none where no ad group is made of it. */
  readonly types: (readonly MatchSet[] | undefined)[];
  private readonly isTop: (keyword: number, grouping: Grouping) => boolean;

  constructor(private readonly input: UnitInput) {
    const { keywords, rules } = input;
    this.types = Array.from({ length: keywords.length });
    this.isTop = topTester(keywords, rules);
    for (let at = 0; at < keywords.length; at++) this.place(at);
  }

  private place(at: number) {
    const { layout, keywords } = this.input;
    const keyword = itemAt(keywords, at);
    const rules = this.input.rules.get(keyword.theme);
    if (rules?.idea || (!rules && layout.unplaced === 'out')) return;
    this.types[at] = this.laneTypesOf(keyword, rules?.types ?? 0);
    const isSingle = rules ? this.isSingle(at, rules) : layout.unplaced === 'single';
    const seed = this.seedFor(keyword, rules?.top ?? null);
    const theme = rules?.theme.id ?? 0;
    const key = isSingle ? `k${keyword.id}` : `t${theme}${this.facetOf(seed)}`;
    const known = this.all.get(key);
    if (known) known.members.push(at);
    else
      this.all.set(key, {
        key,
        kind: isSingle ? 'single' : 'theme',
        theme,
        position: isSingle ? keyword.id : theme,
        campaign: seed.key,
        place: seed.place,
        stage: seed.stage,
        source: seed.source,
        members: [at],
      });
  }

  private readonly byAsked = new Map<number, readonly MatchSet[]>();

  /** Where no lane picks its keywords, those asked for alike have one list. */
  private laneTypesOf(keyword: BuildKeyword, ofBranch: MatchSet): readonly MatchSet[] {
    const { layout } = this.input;
    if (layout.lanes.some(({ takes }) => picks(takes))) return laneTypes(layout, keyword, ofBranch);
    const asked = keyword.asked * ASKED + ofBranch;
    const known = this.byAsked.get(asked);
    if (known) return known;
    const types = laneTypes(layout, keyword, ofBranch);
    this.byAsked.set(asked, types);
    return types;
  }

  private isSingle(at: number, { grouping }: ThemeRules): boolean {
    if (grouping.kind !== 'top') return grouping.kind === 'single';
    return this.isTop(at, grouping);
  }

  /** What parts a theme's keywords where campaigns are not made by theme. */
  private facetOf({ key }: CampaignSeed): string {
    const by = this.input.layout.campaignBy;
    return by === 'one' || by === 'theme' ? '' : key.slice(1);
  }

  private seedFor(keyword: BuildKeyword, top: Theme | null): CampaignSeed {
    const key = this.campaignKey(keyword, top);
    const known = this.seeds.get(key);
    if (known) return known;
    const { campaignBy } = this.input.layout;
    const seed: CampaignSeed = {
      key,
      order: 0,
      theme: campaignBy === 'theme' ? top : null,
      place: campaignBy === 'place' ? keyword.place : null,
      stage: campaignBy === 'stage' ? keyword.stage : null,
      source: campaignBy === 'source' ? (keyword.sources?.[0] ?? null) : null,
    };
    seed.order = this.orderOf(seed);
    this.seeds.set(key, seed);
    return seed;
  }

  private campaignKey(keyword: BuildKeyword, top: Theme | null): string {
    switch (this.input.layout.campaignBy) {
      case 'one':
        return 'c';
      case 'theme':
        return `ct${top?.id ?? 0}`;
      case 'place':
        return keyword.place ? `c${placeKey(keyword.place)}` : 'cw0';
      case 'source':
        return `cs${keyword.sources?.[0] ?? 0}`;
      case 'stage':
        return `cf${codeOfStage(keyword.stage)}`;
    }
  }

  /** Themes and places in their own order, sources by their numbers, stages from early on; what has none comes last. */
  private orderOf({ theme, place, stage, source }: CampaignSeed): number {
    const { campaignBy, themes, places } = { ...this.input, ...this.input.layout };
    const order = {
      one: 0,
      theme: theme ? themes.indexOf(theme) : -1,
      place: place === null ? -1 : places.indexOf(place),
      source: source ?? -1,
      stage: stage === null ? -1 : funnelStages.indexOf(stage),
    }[campaignBy];
    return order < 0 ? LAST : order;
  }
}

const picks = ({ searchesFrom, sources, stages }: LaneTakes): boolean =>
  searchesFrom !== null || sources.length > 0 || stages.length > 0;

/** More than there are sets of match types. */
const ASKED = 64;

const LAST = Number.MAX_SAFE_INTEGER;
