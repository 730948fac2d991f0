import { bidFields, type ReadBack, type TakeOptions, type TakeResult, takeOptions } from '@sprig/contracts';
import type { Layout } from '@sprig/core/build';
import { type MatchType, typeOf } from '@sprig/core/match';
import { type Micros, minorUnit, multiplied } from '@sprig/core/money';
import { type Outlet, plainOutlet, type RowKind, rowKinds, settingValues } from '@sprig/core/outlets';
import {
  type FieldChange,
  type GroupSheetRow,
  incrementOf,
  joinCells,
  type KeywordSheetRow,
  kindOfRow,
  type MergeKind,
  type NetworkSteps,
  readRotation,
  splitCells,
  usualNetworkSteps,
} from '@sprig/core/sheets';
import { z } from 'zod';
import { copyOut } from '../../../db/copy.ts';
import { type Change, inChange } from '../../../plan/change/index.ts';
import { chosenOutlets, outletOf } from '../../../plan/outlets.ts';
import { InputReader, type Inputs } from '../../../plan/rebuild/load-inputs.ts';
import { SprigFailure } from '../../../platform/failure.ts';
import { grouped } from '../../../platform/grouped.ts';
import type { JobContext } from '../../../platform/jobs/context.ts';
import { Amounts } from './amounts.ts';
import { Held } from './held.ts';
import { ladderOf } from './ladder-of.ts';
import { mostOf, Notes } from './notes.ts';
import { Places } from './places.ts';
import { readBackOf } from './staged.ts';
import { type StagedRow, unpackStaged } from './staged-body.ts';
import { AdsTaken } from './take-ads.ts';
import { added, close, namedGroups, nameOf, resultOf } from './take-kept.ts';
import { bidOfRow, KeywordsTaken, type ShareOf } from './take-keywords.ts';
import { ExtrasTaken, NegativesTaken } from './take-rest.ts';
import { SettingsTaken } from './take-settings.ts';

const input = z.object({ readBack: z.uuid(), options: takeOptions });

/** Takes what was chosen of sheets that were read back into the plan: one change, taken back by one step. */
export async function takeBackJob(context: JobContext): Promise<TakeResult> {
  const { caller } = context;
  const { readBack: id, options } = input.parse(context.input);
  const before = await resultOf(context, id);
  if (before) return before;
  await context.phase('taking in');
  const { revision, result } = await inChange(
    caller,
    ({ name }: { name: string; taken: Omit<TakeResult, 'revision'> }) => `Take in ${name}`,
    async (change) => {
      const readBack = await readBackOf(caller, id, change.transaction);
      if (change.revision !== readBack.revision + 1)
        throw new SprigFailure(
          'conflict',
          'The plan has changed since these sheets were compared with it. Compare them again.',
        );
      const inputs = await new InputReader(caller, change.transaction).inputs();
      const outlet =
        readBack.by === 'columns' ? plainOutlet : await outletOf(caller, readBack.by, change.transaction);
      const chosen = await chosenOutlets(caller, change.transaction);
      const own = chosen.find((one) => one.outlet.key === outlet.key)?.body.steps;
      const steps = (own ?? usualNetworkSteps) as NetworkSteps;
      const taken = await new Taking(context, change, readBack, inputs, outlet, steps, options).run();
      await close(context, change, id, { revision: change.revision, ...taken });
      return { name: nameOf(readBack), taken };
    },
  );
  return { revision, ...result.taken };
}

const networkOf = { 'bid-partners': 'partners', 'bid-display': 'display' } as const;

type GroupRow = { key: string; group: string; text: string; type: MatchType; bid: number };

class Taking {
  private readonly held = new Held();
  private readonly notes = new Notes();
  private readonly amounts: Amounts;
  private readonly places: Places;
  private readonly keywords: KeywordsTaken;
  private readonly ads: AdsTaken;
  private readonly settings: SettingsTaken;
  private readonly negatives: NegativesTaken;
  private readonly extras: ExtrasTaken;
  private readonly taken: TakeResult['taken'] = {
    campaigns: 0,
    groups: 0,
    keywords: 0,
    negatives: 0,
    ads: 0,
    extras: 0,
    values: 0,
    paused: 0,
  };
  private readonly isEmpty: boolean;
  /** What campaigns of the sheets say, by their names: an ad group that says the same says nothing of its own. */
  private readonly rotations = new Map<string, string>();

  constructor(
    private readonly context: JobContext,
    private readonly change: Change,
    private readonly readBack: ReadBack,
    private readonly inputs: Inputs,
    private readonly outlet: Outlet,
    steps: NetworkSteps,
    private readonly options: TakeOptions,
  ) {
    const { held, notes } = this;
    this.isEmpty = readBack.isEmpty;
    this.amounts = new Amounts(options, inputs.brief.currency);
    this.places = new Places(change, inputs, this.isEmpty, held, notes);
    const from = { name: nameOf(readBack), job: context.id };
    const increment = incrementOf(outlet, inputs.brief.currency);
    const shareOf: ShareOf = (bid, network) => multiplied(bid, [steps[network]], increment);
    this.keywords = new KeywordsTaken(change, from, this.amounts, shareOf, held, notes);
    this.ads = new AdsTaken(change, inputs, outlet, held, notes);
    this.settings = new SettingsTaken(change, inputs, options.timeZone, held, notes);
    this.negatives = new NegativesTaken(change, notes);
    this.extras = new ExtrasTaken(change, notes, outlet.key);
  }

  async run(): Promise<Omit<TakeResult, 'revision'>> {
    const rows = await this.chosen();
    const of = (kind: RowKind) => rows.get(kind) ?? [];
    await this.places.open(namedGroups([...of('group'), ...of('keyword'), ...of('ad')]));
    await this.negatives.open();
    await this.extras.open();
    const layout: Partial<Layout> = {};
    this.campaigns(of('campaign'), layout);
    const groupBids = this.groups(of('group'));
    await this.context.progress('taking in', 1, 4);
    for (const { row, line, campaign, group } of added(of('keyword')))
      if (row?.kind === 'keyword')
        this.keywords.add({
          row,
          line,
          place: this.places.groupPlace(row.campaign, row.group, group, campaign),
        });
    for (const { row, campaign, group } of added(of('ad')))
      if (row?.kind === 'ad')
        this.ads.add(row, this.places.groupPlace(row.campaign, row.group, group, campaign));
    for (const staged of of('negative')) this.negative(staged);
    for (const staged of of('extra')) this.extra(staged);
    const usualBid = this.bids(groupBids, layout);
    await this.keepLayout({ ...this.places.shape(), ...layout });
    this.taken.groups += await this.places.write();
    if (this.inputs.layout.asAsked === false && !this.isEmpty && added(of('keyword')).length > 0)
      this.notes.add('types-not-asked');
    await this.context.progress('taking in', 2, 4);
    this.taken.keywords = await this.keywords.write(usualBid, this.isEmpty, () => this.goneKeywords());
    await this.changedRows([...of('keyword'), ...of('group')]);
    for (const staged of of('ad')) this.changedAd(staged);
    await this.context.progress('taking in', 3, 4);
    this.taken.ads = await this.ads.write(this.isEmpty, this.groupsWithAds(of('ad'), of('group')));
    this.taken.negatives = await this.negatives.write();
    await this.extras.write();
    this.taken.campaigns += await this.settings.write(this.isEmpty);
    this.taken.values = await this.held.write(this.change);
    return { taken: this.taken, notes: this.notes.all };
  }

  /** What is to be taken, by kind: it was chosen, and its kind is wanted. */
  private async chosen(): Promise<Map<RowKind, StagedRow[]>> {
    const kinds = rowKinds.filter((kind) => this.options.kinds.includes(kind));
    const rows = new Map<RowKind, StagedRow[]>();
    // All of it comes from our code: a number that was parsed, and words of lists.
    await copyOut(
      this.change.transaction,
      `select kind, change, body from read_back_rows where read_back_id = '${z.uuid().parse(this.readBack.id)}' and taken
         and kind in (${kinds.map((kind) => `'${kind}'`).join(', ')}) ${this.options.missing ? '' : `and change <> 'missing'`} order by n`,
      ([kind = '', change = '', body = '']) => {
        const staged = unpackStaged(body, change as MergeKind);
        const there = rows.get(kind as RowKind);
        if (there) there.push(staged);
        else rows.set(kind as RowKind, [staged]);
      },
    );
    return rows;
  }

  /** Of each keyword how many of the plan's rows the sheets have no more, whether that is taken or not. */
  private async goneKeywords(): Promise<Map<string, number>> {
    const rows = await this.change.rows<{ body: string; change: MergeKind }>(
      `select body, change from read_back_rows where $1 > 0 and read_back_id = $2 and kind = 'keyword' and change in ('missing', 'removed')`,
      [this.readBack.id],
    );
    const gone = new Map<string, number>();
    for (const { body, change } of rows) {
      const text = splitCells(unpackStaged(body, change).key)[4] ?? '';
      gone.set(text, (gone.get(text) ?? 0) + 1);
    }
    return gone;
  }

  private campaigns(rows: readonly StagedRow[], layout: Partial<Layout>) {
    const budgets: Micros[] = [];
    const wanted: { key: string; budget: Micros }[] = [];
    for (const { change, row, campaign, key: place, fields } of rows) {
      const name = splitCells(place)[1] ?? '';
      const key = change === 'added' ? this.places.campaignKey(name, campaign) : campaign;
      if (key === null) {
        this.notes.add('campaign-by-rule', name);
        continue;
      }
      if (change === 'missing' || change === 'removed') {
        this.pause(key);
        continue;
      }
      if (row?.kind !== 'campaign') continue;
      this.rotations.set(row.campaign, row.settings.rotation);
      const says = (value: FieldChange['value']) =>
        change === 'added' || fields.some((field) => field.value === value);
      const budget = says('daily-budget') ? this.amounts.budget(row.dailyBudget) : null;
      if (budget !== null) {
        budgets.push(budget);
        wanted.push({ key, budget });
      }
      if (says('status')) this.setStatus(key, row.status, change === 'added');
      if (says('labels') && (change === 'changed' || row.labels.length > 0))
        this.held.add(key, 'labels', row.labels.join(', '));
      if (says('match-setting') && change === 'changed' && row.matchSetting !== null)
        this.held.add(key, 'matching', row.matchSetting);
      if (!this.options.settings) continue;
      this.settings.add(name, key, row.settings, settingValues.filter(says));
    }
    const usual = this.isEmpty ? mostOf(budgets) : undefined;
    if (usual !== undefined) layout.dailyBudget = usual;
    for (const { key, budget } of wanted) if (budget !== usual) this.held.add(key, 'budget', budget);
  }

  /** New ad groups; answers what they bid of their own. */
  private groups(rows: readonly StagedRow[]): Map<string, Micros> {
    const bids = new Map<string, Micros>();
    for (const { change, row, campaign, group } of rows) {
      if (change === 'missing' || change === 'removed') {
        if (group !== null) this.pause(group);
        continue;
      }
      if (change !== 'added' || row?.kind !== 'group') continue;
      const { key } = this.places.groupPlace(row.campaign, row.group, group, campaign);
      const bid = this.amounts.bid(bidOfRow(row));
      if (bid !== null) bids.set(key, bid);
      this.setStatus(key, row.status, true);
      if (row.labels.length > 0) this.held.add(key, 'labels', row.labels.join(', '));
      // How it matches is said by the match types of its keywords.
      this.rotationOf(key, row);
    }
    return bids;
  }

  /** How the ads of an ad group take turns, where it differs from its campaign. */
  private rotationOf(key: string, { campaign, rotation }: GroupSheetRow) {
    if (rotation === '' || rotation === this.rotations.get(campaign)) return;
    const read = readRotation(rotation);
    if (read) this.held.add(key, 'rotation', read);
    else this.notes.add('setting', `${campaign}, rotation: ${rotation}`);
  }

  /** What new rows bid where nothing is held of them. In a plan that was empty the ladder is made after the sheets. */
  private bids(
    groupBids: ReadonlyMap<string, Micros>,
    layout: Partial<Layout>,
  ): (group: string, type: MatchType) => Micros | null {
    if (!this.isEmpty) {
      for (const [key, bid] of groupBids) this.held.add(key, 'bid', bid);
      return () => null;
    }
    const ladder = ladderOf(
      groupBids,
      [...this.keywords.bids()],
      this.inputs.layout.ladder,
      minorUnit(this.inputs.brief.currency),
    );
    if (!ladder) return () => null;
    layout.ladder = ladder.ladder;
    for (const [key, base] of ladder.bases)
      if (base !== ladder.ladder.defaultBase) this.held.add(key, 'bid', base);
    return ladder.bidOf;
  }

  private async keepLayout(patch: Partial<Layout>) {
    if (Object.keys(patch).length === 0) return;
    await this.change.update('layouts', [1], { body: { ...this.inputs.layout, ...patch } });
  }

  private negative(staged: StagedRow) {
    const { change, row, key } = staged;
    const [, campaign = '', , type = '', text = ''] = splitCells(key);
    const place = this.placeOf(staged);
    if (change === 'missing' || change === 'removed') {
      if (place !== null && this.negatives.remove(text, type, place)) this.taken.paused++;
    } else if (row?.kind === 'negative' && change === 'added') {
      if (place === null) this.notes.add('campaign-by-rule', campaign);
      else this.negatives.add(row, place);
    }
  }

  private extra(staged: StagedRow) {
    const { change, row, fields } = staged;
    if (row?.kind !== 'extra') return;
    const place = this.placeOf(staged);
    if (change === 'changed') {
      const isOther = fields.some(({ value }) => value === 'status');
      if (isOther && place !== null && this.extras.changeStatus(row, place)) this.taken.extras++;
      return;
    }
    if (change !== 'added') {
      if (place !== null && this.extras.remove(row.extra, place)) this.taken.paused++;
    } else if (place === null) this.notes.add('campaign-by-rule', row.campaign);
    else if (this.extras.add(row, place)) this.taken.extras++;
  }

  /** What a negative or an extra stands at, made where it is new; null where the plan has no such place. */
  private placeOf({ change, key, campaign, group }: StagedRow): string | null {
    const [, campaignName = '', groupName = ''] = splitCells(key);
    if (campaignName === '') return 'plan';
    if (change !== 'added') return groupName === '' ? campaign : group;
    return groupName === ''
      ? this.places.campaignKey(campaignName, campaign)
      : this.places.groupPlace(campaignName, groupName, group, campaign).key;
  }

  private pause(key: string) {
    this.held.add(key, 'status', 'paused');
    this.taken.paused++;
  }

  private setStatus(key: string, status: string, isNew: boolean) {
    if (status === 'paused') this.held.add(key, 'status', 'paused');
    else if (!isNew) this.held.add(key, 'status', 'enabled');
  }

  /** Values of ad groups and keywords that the plan has. */
  private async changedRows(rows: readonly StagedRow[]) {
    const own = rows.filter(({ change, group }) => change !== 'added' && group !== null);
    if (own.length === 0) return;
    const there = grouped(
      await this.rowsOf([...new Set(own.map(({ group }) => group as string))]),
      ({ group }) => group,
    );
    const byText = grouped([...there.values()].flat(), ({ group, text }) => joinCells([group, text]));
    for (const staged of own) if (kindOfRow(staged.key) === 'keyword') this.changedKeyword(staged, byText);
    for (const staged of own)
      if (kindOfRow(staged.key) === 'group')
        this.changedGroup(staged, there.get(staged.group as string) ?? []);
  }

  private async rowsOf(groups: readonly string[]): Promise<GroupRow[]> {
    const rows = await this.change.rows<Omit<GroupRow, 'type'> & { type: number }>(
      `select key, group_key as "group", text, type, bid from keyword_rows
       where plan_id = $1 and group_key = any($2::text[])`,
      [groups],
    );
    return rows.map((row) => ({ ...row, type: typeOf(row.type) }));
  }

  private changedKeyword(
    { change, row, key, group, fields }: StagedRow,
    byText: ReadonlyMap<string, GroupRow[]>,
  ) {
    const [, , , type = '', text = ''] = splitCells(key);
    const like = byText.get(joinCells([group as string, text])) ?? [];
    // Where the outlet has another type in its place, or none, all rows of the keyword are meant.
    const exact = like.filter((one) => one.type === type);
    for (const one of exact.length > 0 ? exact : like) {
      if (change === 'missing' || change === 'removed') {
        this.pause(one.key);
        continue;
      }
      if (row?.kind === 'keyword')
        this.takeValues(one.key, row, fields, text, (bid) => this.held.add(one.key, 'bid', bid));
    }
    if (like.length === 0) this.notes.add('nothing-to-pause', text);
  }

  private changedGroup({ change, row, group, fields }: StagedRow, rows: readonly GroupRow[]) {
    if (change !== 'changed' || row?.kind !== 'group' || group === null) return;
    this.takeValues(group, row, fields, row.group, (bid) => this.changedGroupBid(bid, group, rows));
  }

  /** What differs of an ad group or a keyword. */
  private takeValues(
    key: string,
    row: GroupSheetRow | KeywordSheetRow,
    fields: readonly FieldChange[],
    name: string,
    takeBid: (bid: Micros) => void,
  ) {
    for (const { value } of fields)
      if (row.kind === 'group' && value === 'match-setting') {
        if (row.matchSetting !== null) this.held.add(key, 'matching', row.matchSetting);
      } else if (row.kind === 'group' && value === 'rotation') this.rotationOf(key, row);
      else if (value === 'status') this.setStatus(key, row.status, false);
      else if (value === 'labels') this.held.add(key, 'labels', row.labels.join(', '));
      else if (value === 'bid' || value === 'bid-search') {
        const bid = this.amounts.bid(bidOfRow(row));
        if (bid !== null) takeBid(bid);
      } else if (value === 'final-url') {
        if (row.kind === 'keyword') this.held.addAddress(key, row.finalUrl, this.notes);
      } else if (value === 'bid-partners' || value === 'bid-display') {
        const network = networkOf[value];
        const amount = this.amounts.bid(row.bids?.[network] ?? null);
        if (amount === null) continue;
        // What an ad group bids on a network is its keywords' there, which have bids of their own.
        if (row.kind === 'keyword') this.held.add(key, bidFields[network], amount);
        else this.notes.add('bid-network', name);
      }
  }

  /** Where keywords bid, they go on as they do; where only groups bid, all their keywords bid that. */
  private changedGroupBid(bid: Micros, group: string, rows: readonly GroupRow[]) {
    this.held.add(group, 'bid', bid);
    for (const { key, bid: before } of rows)
      if (this.outlet.bids.on === 'group') this.held.add(key, 'bid', bid);
      else if (!this.held.has(key, 'bid')) this.held.add(key, 'bid', before);
  }

  private changedAd(staged: StagedRow) {
    const { change, ad } = staged;
    if (change === 'added' || ad === null) return;
    if (change === 'changed') this.ads.changed(staged);
    else this.pause(ad);
  }

  /** How many ad groups there will be: an ad that stands in all of them is for all. */
  private groupsWithAds(ads: readonly StagedRow[], groups: readonly StagedRow[]): number {
    return new Set(
      [...ads, ...groups].flatMap(({ row }) =>
        row && 'group' in row ? [joinCells([row.campaign, row.group])] : [],
      ),
    ).size;
  }
}
