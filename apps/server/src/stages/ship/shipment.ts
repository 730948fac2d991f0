import { createHash } from 'node:crypto';
import type { ChangedRow, OutletCheck, RowChange, SheetFile } from '@sprig/contracts';
import { decimalsOf } from '@sprig/core/money';
import {
  eachKind,
  kindsIn,
  type Outlet,
  type RowKind,
  rowKinds,
  type SheetFormat,
  type SheetProfile,
} from '@sprig/core/outlets';
import {
  type CampaignSheetRow,
  Carrier,
  CellMaker,
  type CellRow,
  Difference,
  type ExtraSheetRow,
  type FieldChange,
  type GroupRows,
  incrementOf,
  kindOfRow,
  knownRow,
  type LeftRow,
  type Loss,
  type MatchSetting,
  type NetworkSteps,
  RowPacker,
  SheetFiles,
  type SheetRow,
  splitCells,
  staysWhenGone,
} from '@sprig/core/sheets';
import type { ChosenOutlet } from '../../plan/outlets.ts';
import type { KnownSet } from './known-set.ts';
import type { PlanCampaign, PlanGroup, PlanRows } from './plan-rows.ts';

/** Changed rows, and rows of which something is lost, that are shown. */
const SHOWN = 300;
const SAMPLES = 20;
const MOST_BEFORE = 5_000;
const NO_FIELDS: readonly FieldChange[] = [];

export type ShipOptions = {
  format: SheetFormat;
  sheets: readonly SheetProfile[];
  what: 'all' | 'difference';
  /** Where a file's text goes; none: it is only counted. */
  sink: ((file: string, text: string) => void) | null;
  /** Takes what the outlet has once the sheets are taken. */
  keepState: ((packed: string) => void) | null;
  /** Between two pages. */
  settle: (done: number, total: number) => Promise<void>;
  /** Looks at a group as it was planned and as it is carried. */
  onGroup?: (planned: PlanGroup, carried: GroupRows) => void;
  onCampaign?: (row: CampaignSheetRow, planned: PlanCampaign) => void;
  onExtra?: (row: ExtraSheetRow) => void;
  onRow?: (row: CellRow) => void;
  /** Hears of every row how it stands; the fields of a change come later, up to the end. */
  onSeen?: (row: CellRow, change: RowChange, fields: readonly FieldChange[]) => void;
};

/** What was written, or would be: files, counts, what is lost, what differs. */
export type Shipped = Pick<OutletCheck, 'rows' | 'losses' | 'notCarried' | 'difference'> & {
  files: { name: string; kind: SheetProfile['kind']; rows: number }[];
  budgetChanges: number;
};

/** Takes a plan's rows to an outlet: what it can carry of them, what differs from what it has, in its sheets. */
export class Shipment {
  private readonly maker: CellMaker;
  private readonly packer = new RowPacker();
  private readonly carrier: Carrier;
  private readonly difference: Difference;
  private readonly files: SheetFiles[];
  /** The kinds of rows that the sheets tell, of others the outlet has what it had; without sheets all are only looked at. */
  private readonly kinds: ReadonlySet<RowKind>;
  /** Rows that differ and that sheets can tell. */
  private readonly told = eachKind(() => 0);
  private readonly rows: Record<RowKind, number>;
  private readonly losses = new Map<Loss['rule'], { count: number; samples: Loss[] }>();
  private readonly shown: ChangedRow[] = [];
  private untold = 0;
  /** Campaigns that go because an ad group in them does. */
  private readonly begun = new Set<string>();
  /** Nobody asks what rows say: the outlet has none, and its sheets are not written. */
  private readonly isOnlyCounted: boolean;

  constructor(
    private readonly plan: PlanRows,
    { outlet, body }: Pick<ChosenOutlet, 'outlet' | 'body'>,
    currency: string,
    private readonly known: KnownSet,
    private readonly receipt: string | null,
    budgetChangesLeft: number,
    private readonly options: ShipOptions,
  ) {
    this.outlet = outlet;
    this.maker = new CellMaker({ outlet, decimals: decimalsOf(currency) });
    this.carrier = new Carrier(outlet, body.steps as NetworkSteps, incrementOf(outlet, currency), (loss) =>
      this.lose(loss),
    );
    const { part } = plan;
    const kinds = options.sheets.length > 0 ? kindsIn(options.sheets) : new Set(rowKinds);
    this.kinds = new Set([...kinds].filter((kind) => part === null || part.kinds.has(kind)));
    const isTold = (key: string) => {
      const { campaign, group, kind } = placeOf(key);
      return part === null || part.holds(campaign, kind === 'campaign' ? '' : group);
    };
    this.difference = new Difference(
      known.rows,
      this.maker,
      outlet,
      budgetChangesLeft,
      this.kinds,
      part && isTold,
    );
    this.rows = eachKind(() => 0);
    this.files = options.sheets.map(
      (profile) => new SheetFiles(outlet, profile, options.format, this.maker.values, options.sink),
    );
    this.isOnlyCounted =
      known.rows.size === 0 &&
      !options.keepState &&
      !options.onRow &&
      !options.onSeen &&
      !this.files.some(({ needsRows }) => needsRows);
  }

  private readonly outlet: Outlet;

  async run(): Promise<Shipped> {
    let done = 0;
    let matchSetting: MatchSetting | null = null;
    for await (const { campaign, groups } of this.plan.parts()) {
      if (campaign) {
        const row = this.carrier.campaign(campaign.row, campaign.types, campaign.networks);
        matchSetting = row.matchSetting;
        this.options.onCampaign?.(row, campaign);
        this.emit(row);
        for (const negative of this.carrier.negatives(campaign.negatives)) this.emit(negative);
      }
      for (const group of groups) this.group(group, matchSetting);
      done += groups.length;
      await this.options.settle(done, this.plan.groups);
      this.packer.begin();
    }
    for (const rows of await this.plan.extras())
      for (const row of this.carrier.extras(rows)) {
        this.options.onExtra?.(row);
        this.emit(row);
      }
    await this.tellGone();
    for (const file of this.files) file.end();
    const { counts, waiting, budgetChanges } = this.difference;
    return {
      rows: this.rows,
      files: this.files.flatMap(({ files }) => files),
      losses: [...this.losses].map(([rule, { count, samples }]) => ({ rule, count, samples })),
      notCarried: this.files.flatMap(({ problems }) => problems),
      difference: {
        receipt: this.receipt,
        ...counts,
        untold: this.untold,
        told: this.told,
        waiting,
        rows: this.shown,
      },
      budgetChanges,
    };
  }

  private group(planned: PlanGroup, matchSetting: MatchSetting | null) {
    const carried = this.carrier.group(planned, matchSetting);
    const { group, keywords, negatives, ads } = carried;
    this.options.onGroup?.(planned, carried);
    this.emit(group);
    for (const row of negatives) this.emit(row);
    for (const row of keywords) this.emit(row);
    for (const row of ads) this.emit(row);
  }

  private emit(row: SheetRow) {
    const { keepState, onRow, onSeen, what } = this.options;
    if (!this.kinds.has(row.kind) || this.isOutside(row)) return;
    if (this.isOnlyCounted && this.shown.length >= SHOWN) {
      this.rows[row.kind]++;
      this.difference.counts.added++;
      this.told[row.kind]++;
      for (const file of this.files) file.count(row.kind);
      return;
    }
    const cells = this.maker.of(row);
    this.rows[row.kind]++;
    onRow?.(cells);
    const change = this.difference.see(cells, this.shown.length < SHOWN || this.wantsFields());
    onSeen?.(cells, change.change, change.change === 'changed' ? change.fields : NO_FIELDS);
    keepState?.(this.packer.row(cells));
    if (change.change !== 'same') {
      this.told[row.kind]++;
      this.show(cells, change.change, change.change === 'changed' ? change.fields : []);
    }
    if (what === 'all' || change.change !== 'same') for (const file of this.files) file.add(cells);
  }

  /** Of no part that is told. A campaign that the outlet does not have yet comes before its ad groups, with its own negatives. */
  private isOutside(row: SheetRow): boolean {
    const { part } = this.plan;
    if (!part || part.holds(row.campaign, row.kind === 'campaign' ? '' : row.group)) return false;
    if (row.kind === 'campaign') {
      if (this.known.rows.rowOf(this.maker.of(row).key) >= 0) return true;
      this.begun.add(row.campaign);
      return false;
    }
    return row.group !== '' || !this.begun.has(row.campaign);
  }

  /** Rows that are gone ship with the difference; where all of the plan ships they are told the next time. */
  private async tellGone() {
    for (const { kinds, rows } of this.difference.rounds())
      await this.known.again(rows, (key, known) => {
        const left = this.difference.again(key, known, kinds);
        if (left) this.left(left);
      });
  }

  private left({ row, known, wasGone, isOutside }: LeftRow) {
    const { keepState, what } = this.options;
    if (wasGone || isOutside || !this.kinds.has(row.kind))
      return keepState?.(this.packer.known(row.key, known));
    this.options.onSeen?.(row, 'removed', NO_FIELDS);
    const isTold = this.difference.tellsGone(row.kind);
    if (isTold) this.told[row.kind]++;
    else this.untold++;
    this.show(row, 'removed', []);
    if (what === 'all') return keepState?.(this.packer.known(row.key, known));
    if (!isTold) return;
    for (const file of this.files) file.add(row);
    if (staysWhenGone(this.outlet, row.kind))
      keepState?.(this.packer.known(row.key, knownRow(row.joined, true)));
  }

  /** Of so many changed rows it is kept what they said before, where somebody hears of all rows. */
  private wantsFields(): boolean {
    return this.options.onSeen !== undefined && this.difference.counts.changed < MOST_BEFORE;
  }

  private show(row: CellRow, change: ChangedRow['change'], fields: ChangedRow['fields']) {
    if (this.shown.length < SHOWN) this.shown.push({ change, ...placeOf(row.key), fields });
  }

  private lose(loss: Loss) {
    const there = this.losses.get(loss.rule) ?? { count: 0, samples: [] };
    this.losses.set(loss.rule, there);
    there.count++;
    if (there.samples.length < SAMPLES) there.samples.push(loss);
  }
}

/** What a row's key says, for people: where it is and what it says. */
export function placeOf(key: string): Pick<ChangedRow, 'kind' | 'campaign' | 'group' | 'text'> {
  const kind = kindOfRow(key);
  const [, campaign = '', group = '', ...rest] = splitCells(key);
  switch (kind) {
    case 'campaign':
      return { kind, campaign, group: '', text: campaign };
    case 'group':
      return { kind, campaign, group, text: group };
    case 'keyword':
    case 'negative':
      return { kind, campaign, group, text: `${rest[1] ?? ''} (${rest[0] ?? ''})` };
    case 'ad':
      return {
        kind,
        campaign,
        group,
        text: (rest.find((part) => part.startsWith('headline1=')) ?? '').slice('headline1='.length),
      };
    case 'extra':
      return { kind, campaign, group, text: rest[1] ?? '' };
  }
}

/** The hash of a whole set: of its files' names and hashes in their order. */
export const setHash = (files: readonly (SheetFile & { hash: string })[]): string => {
  const hash = createHash('sha256');
  for (const { name, hash: own } of files) hash.update(`${name} ${own}\n`);
  return hash.digest('hex');
};
