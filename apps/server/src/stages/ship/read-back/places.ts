import type { ThemeBody } from '@sprig/contracts';
import { themed } from '@sprig/core/build';
import { bitOf, type MatchType } from '@sprig/core/match';
import { joinCells, lanesOfNames, type NamedLanes } from '@sprig/core/sheets';
import { tidy } from '@sprig/core/text';
import type { Change, InputRow } from '../../../plan/change/index.ts';
import type { Inputs } from '../../../plan/rebuild/load-inputs.ts';
import type { Held } from './held.ts';
import type { Notes } from './notes.ts';

/** A campaign or an ad group that sheets name, with the match types of its keywords there. */
export type NamedGroup = { campaign: string; group: string; types: ReadonlySet<MatchType> };
/** Where an ad group stands, or will stand once it is built. `theme`: null where its keywords are in none. */
export type GroupPlace = { key: string; theme: number | null; isNew: boolean; isSingle: boolean };

const LONGEST_THEME = 120;

/**
 * Finds the place of campaigns and ad groups that sheets name: those of the plan by their keys, others as new themes. A
 * plan with nothing in it takes the sheets' shape: a campaign for each top theme, an ad group for each theme within it,
 * and lanes where their names tell them.
 */
export class Places {
  private readonly fresh: InputRow<'themes'>[] = [];
  private readonly groups = new Map<string, GroupPlace>();
  private readonly campaigns = new Map<string, string>();
  /** Themes of the plan and new ones by their parent and name. */
  private readonly themes = new Map<string, number>();
  private readonly types = new Map<string, ReadonlySet<MatchType>>();
  private readonly newTop = new Set<number>();
  private position = 0;
  private lanes: NamedLanes | null = null;
  private lanesBy: 'by-group' | 'by-campaign' | null = null;

  constructor(
    private readonly change: Change,
    private readonly inputs: Inputs,
    private readonly isEmpty: boolean,
    private readonly held: Held,
    private readonly notes: Notes,
  ) {
    for (const { id, parent, name } of inputs.themes) this.themes.set(themeKey(parent, name), id);
  }

  /** The positions of themes, and where the plan's single ad groups stand. */
  async open(named: Iterable<NamedGroup>): Promise<void> {
    const [last] = await this.change.rows<{ position: number }>(
      'select coalesce(max(position), 0)::int as position from themes where plan_id = $1',
    );
    this.position = last?.position ?? 0;
    if (this.isEmpty) this.findLanes([...named]);
    else for (const { campaign, group, types } of named) this.types.set(joinCells([campaign, group]), types);
  }

  private findLanes(named: readonly NamedGroup[]) {
    const byGroup = lanesOfNames(named.map(({ group, types }) => [group, types] as const));
    if (byGroup) {
      this.lanes = byGroup;
      this.lanesBy = 'by-group';
      return;
    }
    const types = new Map<string, Set<MatchType>>();
    for (const { campaign, types: own } of named) {
      const there = types.get(campaign) ?? new Set<MatchType>();
      for (const type of own) there.add(type);
      types.set(campaign, there);
    }
    this.lanes = lanesOfNames(types);
    if (this.lanes) this.lanesBy = 'by-campaign';
  }

  /** The key of a campaign; null where the plan's rules make none for it. `key`: the plan's own, where it has it. */
  campaignKey(name: string, key: string | null): string | null {
    if (key !== null) return key;
    const known = this.campaigns.get(name);
    if (known !== undefined) return known;
    if (!this.isByTheme()) return null;
    const [base, lane] = this.lanesBy === 'by-campaign' ? this.split(name) : [name, ''];
    const made = `ct${this.themeOf(null, base)}${this.laneKey(lane)}`;
    this.campaigns.set(name, made);
    if (this.isEmpty) this.holdName(made, name, lane === '' ? base : `${base} – ${this.laneName(lane)}`);
    return made;
  }

  private isByTheme(): boolean {
    return this.isEmpty || this.inputs.layout.campaignBy === 'theme';
  }

  /** The place of an ad group; `key` and `campaignKey` are the plan's own, where it has them. */
  groupPlace(campaign: string, group: string, key: string | null, campaignKey: string | null): GroupPlace {
    const at = joinCells([campaign, group]);
    const known = this.groups.get(at);
    if (known) return known;
    const place = key === null ? this.newGroup(campaign, group, campaignKey) : placeOfKey(key);
    this.groups.set(at, place);
    return place;
  }

  private newGroup(campaign: string, group: string, ownCampaign: string | null): GroupPlace {
    const campaignKey = this.campaignKey(campaign, ownCampaign);
    // Campaigns by place, source or stage take what is theirs by these, whatever the sheets say.
    if (campaignKey === null || /^c[wsf]/.test(ownCampaign ?? ''))
      this.notes.add('campaign-by-rule', campaign);
    const parent = Number(/^ct(\d+)/.exec(campaignKey ?? '')?.[1] ?? 0) || null;
    const [base, lane] = this.lanesBy === 'by-group' ? this.split(group) : [group, ''];
    const laneOfCampaign = this.lanesBy === 'by-campaign' ? this.split(campaign)[1] : '';
    const theme = this.themeOf(parent, base);
    const key = `t${theme}${this.isEmpty ? this.laneKey(lane || laneOfCampaign) : this.ownLane(campaign, group)}`;
    if (this.isEmpty) this.holdName(key, group, lane === '' ? base : `${base} · ${this.laneName(lane)}`);
    else this.holdName(key, group, this.isNamedByTheme() ? base : '');
    return { key, theme, isNew: true, isSingle: false };
  }

  /** Where the plan's own lanes are apart: the first one that has its match types. */
  private ownLane(campaign: string, group: string): string {
    const { spread, lanes } = this.inputs.layout;
    if (spread === 'together') return '';
    const types = [...(this.types.get(joinCells([campaign, group])) ?? [])];
    const lane = lanes.find((one) => types.some((type) => one.types & bitOf(type))) ?? lanes[0];
    return lane ? `l${lane.id}` : '';
  }

  /** Whether the plan calls an ad group as its theme, and nothing else. */
  private isNamedByTheme(): boolean {
    const { themeName, spread } = this.inputs.layout;
    return themeName.pattern === '@theme' && themeName.style === 'as-is' && spread !== 'by-group';
  }

  private split(name: string): [string, string] {
    return this.lanes?.split(name) ?? [name, ''];
  }

  private laneAt(lane: string): number {
    return this.lanes?.lanes.findIndex(({ name }) => name.toLowerCase() === lane.toLowerCase()) ?? -1;
  }

  private laneName(lane: string): string {
    return this.lanes?.lanes[this.laneAt(lane)]?.name ?? lane;
  }

  private laneKey(lane: string): string {
    const at = lane === '' ? -1 : this.laneAt(lane);
    return at < 0 ? '' : `l${at + 1}`;
  }

  /** What the rules would not call it so is held by its name. */
  private holdName(key: string, name: string, byRule: string) {
    if (name !== byRule || name.length > LONGEST_THEME || tidy(name) !== name)
      this.held.add(key, 'name', name.slice(0, 500));
  }

  private themeOf(parent: number | null, name: string): number {
    const own = tidy(name).slice(0, LONGEST_THEME).trim() || 'Group';
    const known = this.themes.get(themeKey(parent, own));
    if (known !== undefined) return known;
    const id = this.change.takeIds(1);
    this.themes.set(themeKey(parent, own), id);
    if (parent === null || !this.newTop.has(parent)) this.newTop.add(id);
    const body: ThemeBody = { name: own, sift: null, idea: false, colour: null, stage: null };
    this.fresh.push({ id, parent_id: parent, position: ++this.position, body });
    return id;
  }

  /** How many themes were made. */
  async write(): Promise<number> {
    await this.change.insert('themes', this.fresh);
    return this.fresh.length;
  }

  /** What the layout is to be so that the sheets' campaigns and ad groups come of it. */
  shape(): Partial<Inputs['layout']> {
    const { layout } = this.inputs;
    if (this.isEmpty)
      return {
        campaignBy: 'theme',
        campaignName: '@theme',
        grouping: themed(),
        branches: [],
        unplaced: 'single',
        themeName: { pattern: '@theme', style: 'as-is' },
        keywordsPerGroup: null,
        asAsked: true,
        fences: 'off',
        ...(this.lanesBy && this.lanes
          ? {
              spread: this.lanesBy,
              lanes: this.lanes.lanes.map(({ name, types }, at) => ({
                id: at + 1,
                name,
                types,
                step: 10_000,
                takes: { searchesFrom: null, sources: [], stages: [] },
              })),
            }
          : {
              spread: 'together',
              lanes: [
                {
                  id: 1,
                  name: 'All',
                  types: 15,
                  step: 10_000,
                  takes: { searchesFrom: null, sources: [], stages: [] },
                },
              ],
            }),
      };
    // New themes become ad groups as they stand, whatever the others are made into.
    if (layout.grouping.kind === 'themed' && layout.branches.length === 0) return {};
    const made = [...this.newTop].filter((theme) => !layout.branches.some((rule) => rule.theme === theme));
    if (made.length === 0) return {};
    return {
      branches: [...layout.branches, ...made.map((theme) => ({ theme, grouping: themed(), step: 10_000 }))],
    };
  }
}

const themeKey = (parent: number | null, name: string): string => `${parent ?? ''}/${name.toLowerCase()}`;

function placeOfKey(key: string): GroupPlace {
  const own = key.replace(/^(x\d+\.)+/, '');
  const theme = /^t(\d+)/.exec(own)?.[1];
  return {
    key,
    theme: theme === undefined ? null : Number(theme) || null,
    isNew: false,
    isSingle: own.startsWith('k'),
  };
}
