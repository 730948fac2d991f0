import { bidFields, type PartTold } from '@sprig/contracts';
import { scopeOf, type TokenGroup } from '@sprig/core/ads';
import { bidOf, bidOfGroup, type Status } from '@sprig/core/build';
import { type MatchType, typeOf } from '@sprig/core/match';
import { asMicros, type BasisPoints, type Micros, minorUnit, multiplied } from '@sprig/core/money';
import {
  adRulesFor,
  campaignSettings,
  type MatchSetting,
  networkNames,
  type Outlet,
  ROTATION,
} from '@sprig/core/outlets';
import { AdSteps, type PlanAdRules, saidGroup } from '@sprig/core/plan';
import {
  type ExtraSheetRow,
  type GroupSheetRow,
  incrementOf,
  type KeywordSheetRow,
  minutesAhead,
  type NegativeSheetRow,
  type NetworkBids,
  type OutletPlace,
  placeGroups,
  shiftSchedule,
} from '@sprig/core/sheets';
import { adFields, type ExtraBody, limitsOf } from '@sprig/core/write';
import type { Transaction } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import { CopyRows, copyText, numbersIn, textsIn } from '../../db/copy.ts';
import { adRulesOf, checkRulesOf } from '../../plan/rebuild/ad-rules.ts';
import { outletGroupTable } from '../../plan/rebuild/derived-rows.ts';
import { InputReader, type Inputs } from '../../plan/rebuild/load-inputs.ts';
import { replaceRows } from '../../plan/rebuild/replace-rows.ts';
import { settingsOf } from '../../plan/setting-sets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import type { PartOfPlan } from './part-of-plan.ts';
import {
  adRowOf,
  arrayOf,
  type GroupHead,
  type NegativeRow,
  NO_MARKS,
  NONE,
  negativeRow,
  negativesByPlace,
  type PlanCampaign,
  type PlanPart,
  typesByCampaign,
} from './plan-part.ts';

export type { PlanCampaign, PlanGroup, PlanPart } from './plan-part.ts';

/** Keyword rows in memory at once. */
const PAGE_ROWS = 3_000;

/** Networks that are bid on apart from search, by the field that holds the bid. */
const HELD_NETWORKS = new Map<string, 'partners' | 'display'>([
  [bidFields.partners, 'partners'],
  [bidFields.display, 'display'],
]);

/** From one ad group up to another. */
type Page = { from: number; to: number };

/** Reads a built plan as the rows of one outlet, page by page, in the order in which they ship. */
export class PlanRows {
  private inputs!: Inputs;
  private heads: GroupHead[] = [];
  private places: OutletPlace[] = [];
  /** Where groups stood when they shipped last. */
  private before: ReadonlyMap<string, OutletPlace> = new Map();
  private negatives: ReadonlyMap<string, NegativeRow[]> = new Map();
  private types: ReadonlyMap<string, ReadonlySet<MatchType>> = new Map();
  private rules!: PlanAdRules;
  /** Writes and checks the ads. */
  ads!: AdSteps;
  private hasFences = false;
  /** What is held of campaigns and ad groups for outlets alone, by their keys. */
  private matching: ReadonlyMap<string, MatchSetting> = new Map();
  private rotations: ReadonlyMap<string, string> = new Map();
  /** What keyword rows bid on networks by hand, by their keys. */
  private networkBids: ReadonlyMap<string, NetworkBids> = new Map();
  /** How many minutes the clock of the outlet's account is ahead of the plan's, today. */
  private minutesAhead = 0;
  /** Whether some keyword leads to a page of its own. */
  private hasUrls = false;

  constructor(
    private readonly caller: PlanCaller,
    private readonly transaction: Transaction,
    private readonly outlet: Outlet,
    /** Of which part the rows are wanted; null: of the whole plan. */
    readonly part: PartOfPlan | null = null,
  ) {}

  /** `most`: no more than so many ad groups, for a look at the beginning. `inputs`: those of the moment, where they are read already. */
  async open({ most = null, inputs }: { most?: number | null; inputs?: Inputs } = {}): Promise<Inputs> {
    this.inputs = inputs ?? (await new InputReader(this.caller, this.transaction).inputs());
    this.heads = await this.rows<GroupHead>(
      `select g.key, g.keyword, g.name, g.theme_id as theme, g.place, g.stage, g.base, g.base_from, g.status, g.labels, g.rows, g.searches,
         g.takes_ads, g.campaign_key as "campaignKey", c.name as campaign_name, c.status as campaign_status, c.labels as campaign_labels,
         c.daily_budget, c.settings_id
       from ad_groups g join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key
       where g.plan_id = $1 order by c.position, g.position, g.key limit $2`,
      [most],
    );
    await this.place();
    this.negatives = await negativesByPlace((sql) => this.rows(sql));
    this.rules = adRulesOf(this.inputs);
    this.ads = new AdSteps(this.rules, checkRulesOf(this.inputs, this.rules.writing), this.outlet);
    this.hasFences = (await this.rows('select 1 from fences where plan_id = $1 limit 1')).length > 0;
    this.readHeld();
    const { timeZone } = this.outlet;
    if (timeZone !== null) this.minutesAhead = minutesAhead(timeZone, this.inputs.facts.timeZone, new Date());
    this.hasUrls =
      this.inputs.address.keywords.trim() !== '' ||
      this.inputs.holds.some(({ field }) => field === 'finalUrl');
    if (this.outlet.match === 'setting')
      this.types = await typesByCampaign((sql) => this.rows(sql), this.heads, this.places);
    return this.inputs;
  }

  private readHeld() {
    const matching = new Map<string, MatchSetting>();
    const rotations = new Map<string, string>();
    const networkBids = new Map<string, NetworkBids>();
    const increment = incrementOf(this.outlet, this.inputs.brief.currency);
    for (const { rowKey, field, value } of this.inputs.holds) {
      const network = HELD_NETWORKS.get(field);
      if (field === 'matching') matching.set(rowKey, value === 'wide' ? 'wide' : 'close');
      else if (field === 'rotation') rotations.set(rowKey, ROTATION[value === 'even' ? 'even' : 'best']);
      else if (network) {
        // As every bid, in steps that the outlet takes.
        const bid = multiplied(asMicros(Number(value)), [], increment);
        networkBids.set(rowKey, { ...networkBids.get(rowKey), [network]: bid });
      }
    }
    this.matching = matching;
    this.rotations = rotations;
    this.networkBids = networkBids;
  }

  /** How many ad groups are read. */
  groups = 0;

  /** The keys of the ad groups that ship. */
  get groupKeys(): ReadonlySet<string> {
    return new Set(this.heads.flatMap((head) => (this.part?.has(head) === false ? [] : [head.key])));
  }

  /** What the receipt says of the part. */
  get partTold(): PartTold | null {
    return this.part?.told(this.heads) ?? null;
  }

  /** Where the groups stand at the outlet: in the parts in which they stood before. */
  private async place() {
    const before = await this.rows<{ key: string; part: number; campaign: string; name: string }>(
      'select key, part, campaign, name from outlet_groups where plan_id = $1 and outlet = $2',
      [this.outlet.key],
    );
    this.before = new Map(before.map((row) => [row.key, row]));
    const known = this.before;
    this.places = placeGroups(
      this.heads.map(({ campaignKey, campaign_name, name, rows }) => ({
        campaign: campaignKey,
        campaignName: campaign_name,
        name,
        rows,
      })),
      this.outlet,
      (at) => known.get((this.heads[at] as GroupHead).key)?.part ?? 0,
    );
    // Parts of a campaign one after another, as they stand in the sheets.
    const order = this.heads.map((_, at) => at);
    const first = new Map<string, number>();
    this.heads.forEach(({ campaignKey }, at) => {
      if (!first.has(campaignKey)) first.set(campaignKey, at);
    });
    const rank = (at: number) => first.get((this.heads[at] as GroupHead).campaignKey) as number;
    order.sort(
      (a, b) =>
        rank(a) - rank(b) ||
        (this.places[a] as OutletPlace).part - (this.places[b] as OutletPlace).part ||
        a - b,
    );
    const { heads, places } = this;
    this.heads = order.map((at) => heads[at] as GroupHead);
    this.places = order.map((at) => places[at] as OutletPlace);
    this.groups = this.heads.filter((head) => this.isTold(head)).length;
    const { part } = this;
    if (!part) return;
    part.assertThere(this.heads);
    this.heads.forEach((head, at) => {
      part.standsAt(head, this.places[at] as OutletPlace);
      const old = known.get(head.key);
      if (old) part.standsAt(head, old);
    });
  }

  private isTold(head: GroupHead): boolean {
    return this.part === null || this.part.has(head);
  }

  /** Keeps where the groups stand, so that they stand there the next time. */
  async keepPlaces(writing: Transaction): Promise<void> {
    if (this.outlet.key === 'plain') return;
    const table = { ...outletGroupTable(this.outlet.key), by: null };
    const rows = this.heads.flatMap((head, at) => {
      // What is not told stays where it stood.
      const place = this.isTold(head) ? this.places[at] : this.before.get(head.key);
      if (!place) return [];
      const { campaign, part, name } = place;
      return { key: head.key, values: [at, head.campaignKey, campaign, part, name, this.groupBid(head)] };
    });
    await replaceRows(this.caller, writing, table, rows, []);
  }

  /** Keeps by which names the groups ship, so that a sheet that comes back later is known by them. */
  keepNames(writing: Transaction): Promise<void> {
    return execute(
      this.caller.database,
      `insert into shipped_names (plan_id, outlet, campaign, name, workspace_id, key)
       select $1, $2, r.campaign, r.name, $3, r.key from jsonb_to_recordset($4::jsonb) as r(campaign text, name text, key text)
       on conflict (plan_id, outlet, campaign, name) do update set key = excluded.key where shipped_names.key <> excluded.key`,
      [
        this.caller.plan,
        this.outlet.key,
        this.caller.workspace,
        JSON.stringify(
          this.heads.flatMap((head, at) => {
            const { campaign, name } = this.places[at] as OutletPlace;
            return this.isTold(head) ? [{ key: head.key, campaign, name }] : [];
          }),
        ),
      ],
      { transaction: writing },
    );
  }

  /** What the outlet gets, one campaign's part or page of ad groups after another. */
  async *parts(): AsyncGenerator<PlanPart> {
    const room = this.room();
    let campaign = '';
    const pages = this.pages();
    // The next page is read while one is worked through.
    let reading = pages.length > 0 ? this.pageOf(pages[0] as Page) : null;
    for (let n = 0; n < pages.length; n++) {
      const { from, to } = pages[n] as Page;
      const page = this.heads.slice(from, to);
      const starts = (this.places[from] as OutletPlace).campaign;
      const [keywords, fences] = await (reading as NonNullable<typeof reading>);
      const next = pages[n + 1];
      reading = next ? this.pageOf(next) : null;
      // Told when it is waited for.
      reading?.catch(() => {});
      const groups = page.map((head, at) => {
        const place = this.places[from + at] as OutletPlace;
        const { key } = head;
        const written = head.takes_ads ? this.ads.written(head) : [];
        const negatives: NegativeSheetRow[] = [];
        for (const own of [this.negatives.get(key), fences.get(key)])
          for (const one of own ?? []) negatives.push(negativeRow(place.campaign, place.name, one));
        return {
          head,
          place,
          group: this.groupRow(head, place),
          keywords: this.keywordRows(keywords.get(key), place),
          negatives,
          ads: written.map((ad) => adRowOf(ad, place, this.outlet, room.leftOut(ad.pattern))),
          unwritten: head.takes_ads ? room.unwritten(saidGroup(head, this.rules.themes)) : [],
          written,
        };
      });
      yield { campaign: starts === campaign ? null : this.campaignOf(page[0] as GroupHead, starts), groups };
      campaign = starts;
    }
  }

  /** Runs of ad groups within one campaign's part, of so many keyword rows together. */
  private pages(): Page[] {
    const pages: Page[] = [];
    for (let from = 0; from < this.heads.length; ) {
      const { campaign } = this.places[from] as OutletPlace;
      let to = from;
      let rows = 0;
      const isTold = this.isTold(this.heads[from] as GroupHead);
      for (; to < this.heads.length && rows < PAGE_ROWS; to++) {
        const head = this.heads[to] as GroupHead;
        if (this.places[to]?.campaign !== campaign || this.isTold(head) !== isTold) break;
        rows += head.rows;
      }
      if (isTold) pages.push({ from, to });
      from = to;
    }
    return pages;
  }

  /** What of the plan's patterns the outlet has no room for: fields with lines, by pattern, and whole forms. */
  private room() {
    const leftOut = new Map<number, number>();
    const formless: { name: string; isFor: (group: TokenGroup) => boolean }[] = [];
    for (const { id, body } of this.inputs.patterns) {
      const rules = adRulesFor(this.outlet, body.outlets);
      // Meant for others.
      if (!rules) continue;
      const form = rules[body.form];
      const limits = form ? limitsOf(form) : {};
      const filled = adFields.filter((field) => body.fields[field].lines.length > 0);
      if (form) leftOut.set(id, filled.filter((field) => !limits[field]).length);
      else
        formless.push({
          name: body.name,
          isFor: scopeOf(body, (theme) => this.rules.themes.get(theme)?.parent ?? null),
        });
    }
    return {
      leftOut: (pattern: number) => leftOut.get(pattern) ?? 0,
      unwritten: (group: TokenGroup) => formless.flatMap(({ name, isFor }) => (isFor(group) ? [name] : [])),
    };
  }

  private campaignOf(head: GroupHead, campaign: string): PlanCampaign {
    const { settingSets, facts } = this.inputs;
    const { goal, category, adults } = facts;
    const settings = settingsOf(settingSets, facts, head.settings_id);
    const written = new Set<string>();
    const negatives = [
      ...(this.negatives.get('') ?? []),
      ...(this.negatives.get(head.campaignKey) ?? []),
    ].filter(({ norm, type }) => {
      const place = `${type} ${norm}`;
      if (written.has(place)) return false;
      written.add(place);
      return true;
    });
    return {
      key: head.campaignKey,
      row: {
        kind: 'campaign',
        campaign,
        dailyBudget: asMicros(head.daily_budget),
        matchSetting: this.matching.get(head.campaignKey) ?? null,
        settings: campaignSettings({
          ...settings,
          schedule: shiftSchedule(settings.schedule, this.minutesAhead),
          goal,
          category,
          adults,
        }),
        labels: head.campaign_labels,
        status: head.campaign_status,
      },
      types: this.types.get(campaign) ?? new Set(),
      networks: networkNames.filter((name) => settings.networks[name]),
      strategy: settings.strategy,
      negatives: negatives.map((one) => negativeRow(campaign, '', one)),
    };
  }

  private groupRow(head: GroupHead, { campaign, name }: OutletPlace): GroupSheetRow {
    const { key, status, labels } = head;
    const matchSetting = this.matching.get(key) ?? null;
    const rotation = this.rotations.get(key) ?? '';
    const bid = this.groupBid(head);
    return { kind: 'group', campaign, group: name, bid, bids: null, matchSetting, rotation, labels, status };
  }

  private groupBid({ base, base_from }: Pick<GroupHead, 'base' | 'base_from'>): Micros {
    const { layout, brief } = this.inputs;
    return bidOfGroup(
      { base: asMicros(base), baseFrom: base_from },
      layout.ladder,
      incrementOf(this.outlet, brief.currency),
    );
  }

  private keywordRows(rows: CopyRows | undefined, place: OutletPlace): KeywordSheetRow[] {
    const made: KeywordSheetRow[] = [];
    if (!rows) return made;
    const { campaign, name: group } = place;
    const { layout, brief } = this.inputs;
    const increment = incrementOf(this.outlet, brief.currency);
    const takesBid = this.roundsAsPlan();
    for (const key = rows.text(); !rows.isDone; rows.passes(key)) {
      const row: KeywordSheetRow = {
        kind: 'keyword',
        campaign,
        group,
        text: rows.text(),
        type: typeOf(rows.whole()),
        bid: asMicros(rows.whole()),
        bids: null,
        status: rows.passes('enabled') ? 'enabled' : (rows.text() as Status),
        marks: rows.passes('{}') ? NO_MARKS : numbersIn(rows.text()),
        labels: rows.passes('{}') ? NONE : textsIn(rows.text()),
        finalUrl: this.hasUrls ? rows.text() : '',
      };
      if (this.networkBids.size > 0) row.bids = this.networkBids.get(rows.text()) ?? null;
      if (!takesBid) {
        const base = asMicros(rows.whole());
        const steps = numbersIn(rows.text()) as BasisPoints[];
        const held = rows.passes('') ? null : asMicros(rows.whole());
        row.bid = bidOf({ base, steps, held }, layout.ladder, increment);
      }
      made.push(row);
    }
    return made;
  }

  private roundsAsPlan(): boolean {
    const { currency } = this.inputs.brief;
    return incrementOf(this.outlet, currency) === minorUnit(currency);
  }

  /** The extras of the plan, of its campaigns and of its ad groups, each place's together. */
  async extras(): Promise<ExtraSheetRow[][]> {
    const kept = await this.rows<{ at: string[]; body: ExtraBody; status: Status }>(
      `select at, body, coalesce(status, 'enabled') as status from extras where plan_id = $1 and (coalesce(cardinality(outlets), 0) = 0 or $2 = any(outlets))
       order by id`,
      [this.outlet.key],
    );
    if (kept.length === 0) return [];
    const at = (key: string, campaign: string, group: string): ExtraSheetRow[] =>
      kept
        .filter((extra) => extra.at.includes(key))
        .map(({ body, status }) => ({ kind: 'extra', campaign, group, extra: body, status }));
    const places: ExtraSheetRow[][] = [at('plan', '', '')];
    const keys = new Set(kept.flatMap((extra) => extra.at));
    const campaigns = new Set<string>();
    this.heads.forEach(({ key, campaignKey }, n) => {
      const { campaign, name } = this.places[n] as OutletPlace;
      if (keys.has(campaignKey) && !campaigns.has(campaign)) places.push(at(campaignKey, campaign, ''));
      campaigns.add(campaign);
      if (keys.has(key)) places.push(at(key, campaign, name));
    });
    return places.filter((rows) => rows.length > 0);
  }

  private async pageOf({ from, to }: Page) {
    const keys = this.heads.slice(from, to).map(({ key }) => key);
    const rows = await this.keywordsOf(keys);
    const fences = this.hasFences
      ? await this.rows<{ key: string; texts: string[]; phrases: number[] }>(
          'select key, texts, phrases from fences where plan_id = $1 and key = any($2::text[])',
          [keys],
        )
      : [];
    const fenceRows = fences.map(({ key, texts, phrases }): [string, NegativeRow[]] => [
      key,
      texts.map((norm, at) => ({ norm, type: phrases[at] === 1 ? 'phrase' : 'exact' })),
    ]);
    return [rows, new Map(fenceRows)] as const;
  }

  /** The keyword rows of ad groups as the database tells them, by their keys: rows are made of them as they are needed. */
  private async keywordsOf(keys: readonly string[]): Promise<Map<string, CopyRows>> {
    const { plan } = this.caller;
    // What a bid is made of is needed only where the outlet rounds it otherwise than the plan does.
    const parts = this.roundsAsPlan() ? '' : ", k.base, k.steps, coalesce(k.held_bid::text, '')";
    const urls = this.hasUrls ? ", coalesce(k.held_url, k.rule_url, '')" : '';
    const own = this.networkBids.size > 0 ? ', k.key' : '';
    const text = await copyText(
      this.transaction,
      `select k.group_key, k.text, k.type, k.bid, k.status, k.marks, k.labels${urls}${own}${parts}
       from keyword_rows k where k.plan_id = ${Number(plan)} and k.group_key = any((select ${arrayOf(keys)})::text[])
       order by k.group_key, k.position, k.type`,
    );
    const byGroup = new Map<string, CopyRows>();
    const rows = new CopyRows(text);
    while (!rows.isDone) {
      const start = rows.at;
      const key = rows.text();
      do rows.skip();
      while (rows.passes(key));
      byGroup.set(key, new CopyRows(text, start, rows.at));
    }
    return byGroup;
  }

  rows<T extends object>(sql: string, bind: unknown[] = []): Promise<T[]> {
    return select<T>(this.caller.database, sql, [this.caller.plan, ...bind], {
      transaction: this.transaction,
    });
  }
}
