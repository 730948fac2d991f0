import { gotten, stringAt } from '../access/index.ts';
import {
  type AdSheetRow,
  type CellValue,
  type KeywordSheetRow,
  type MatchSetting,
  namingValues,
  type RowKind,
  type SheetRow,
  silentValues,
} from '../columns/index.ts';
import { type MatchType, matchTypes } from '../match/index.ts';
import { normalise } from '../text/index.ts';
import { type CellMaker, joinCells, KEY_GAP, keyOf, splitCells } from './cells.ts';
import type { FieldChange } from './difference.ts';

/** A row of the plan as its outlet gets it: the cells of `CellMaker`, joined, by `keyOf`. */
export type PlanCells = ReadonlyMap<string, string>;

/**
 * What a row of a sheet is to the plan: `added`: the plan has it not; `changed`: some of its fields differ; `removed`: the
 * sheet says that it is gone, and the plan has it; `missing`: the plan has it, and the sheets do not.
 */
export const mergeKinds = ['added', 'changed', 'removed', 'missing'] as const;
export type MergeKind = (typeof mergeKinds)[number];
export type MergedRow = {
  change: MergeKind;
  kind: RowKind;
  /** Of the row as the plan has it; where it has it not, as it would have it. */
  key: string;
  /** null of rows that are missing. */
  row: SheetRow | null;
  fields: FieldChange[];
};

/** Finds rows of sheets in a plan by what names them, and tells how they differ in what the sheets tell. */
export class RowMerge {
  readonly counts = { twice: 0, unknownRemoved: 0 };
  private readonly names = new Map<string, string>();
  private readonly groups = new Map<string, string>();
  private readonly seen = new Set<string>();
  private lastPlace = { typed: ['', ''] as [campaign: string, group: string], campaign: '', group: '' };
  /** How campaigns and ad groups match, by the sheets: their rows are to be seen before those of their keywords. */
  private readonly settings = new Map<string, MatchSetting>();
  /** Ads of a group that no row of the plan says word for word; `told` by their sheet. */
  private readonly ads = new Map<string, { row: AdSheetRow; told: ReadonlySet<CellValue> }[]>();

  /** `wasCalled`: names by which groups were shipped before, `campaign` and `group` with a gap between, with today's. */
  constructor(
    private readonly plan: PlanCells,
    private readonly maker: CellMaker,
    private readonly wasCalled: ReadonlyMap<string, readonly [campaign: string, group: string]> = new Map(),
  ) {
    for (const key of plan.keys()) {
      const [kind, campaign = '', group = ''] = splitCells(key);
      if (kind === 'campaign') this.names.set(campaign.toLowerCase(), campaign);
      if (kind === 'group') this.groups.set(joinCells([campaign, group.toLowerCase()]), group);
    }
  }

  /** Null where it differs in nothing, or only later can be told. */
  see(typed: SheetRow, told: ReadonlySet<CellValue>): MergedRow | null {
    const row = this.named(typed);
    if (row.kind === 'campaign' && row.matchSetting) this.settings.set(row.campaign, row.matchSetting);
    if (row.kind === 'group' && row.matchSetting)
      this.settings.set(joinCells([row.campaign, row.group]), row.matchSetting);
    if (row.kind === 'keyword' && !told.has('match-type') && !told.has('keyword-notation'))
      row.type = this.typeOf(row);
    const key = keyOf(row);
    if (this.seen.has(key)) {
      this.counts.twice++;
      return null;
    }
    this.seen.add(key);
    const before = this.plan.get(key);
    if (row.status === 'removed') {
      if (before !== undefined) return { change: 'removed', kind: row.kind, key, row, fields: [] };
      this.counts.unknownRemoved++;
      return null;
    }
    if (before !== undefined) return this.compared(row, key, before, told);
    if (row.kind !== 'ad') return { change: 'added', kind: row.kind, key, row, fields: [] };
    const place = joinCells([row.campaign, row.group]);
    const there = this.ads.get(place);
    if (there) there.push({ row, told });
    else this.ads.set(place, [{ row, told }]);
    return null;
  }

  /**
   * What could not be told before: ads that say something else than the plan's are, in their order, those of the same
   * group and form that no row of the sheets says; and what the sheets have not at all of the kinds that they list.
   */
  *finish(listed: ReadonlySet<RowKind>): Generator<MergedRow> {
    const left = new Map<string, string[]>();
    if (this.ads.size > 0)
      for (const key of this.plan.keys()) {
        if (!key.startsWith('ad') || this.seen.has(key)) continue;
        const [kind, campaign = '', group = '', form = ''] = splitCells(key);
        if (kind !== 'ad') continue;
        const place = joinCells([campaign, group, form]);
        left.set(place, [...(left.get(place) ?? []), key]);
      }
    for (const rows of this.ads.values())
      for (const { row, told } of rows) {
        const key = left.get(joinCells([row.campaign, row.group, row.form]))?.shift();
        if (key === undefined) {
          yield { change: 'added', kind: 'ad', key: keyOf(row), row, fields: [] };
          continue;
        }
        this.seen.add(key);
        const merged = this.compared(row, key, gotten(this.plan, key), told);
        if (merged) yield merged;
      }
    for (const key of this.plan.keys()) {
      const kind = key.slice(0, key.indexOf(KEY_GAP)) as RowKind;
      if (listed.has(kind) && !this.seen.has(key))
        yield { change: 'missing', kind, key, row: null, fields: [] };
    }
  }

  /** Under the names that the plan has it by today, its keyword in normal form. */
  private named(typed: SheetRow): SheetRow {
    const row = { ...typed };
    const { campaign, group } = this.placeNamed(typed.campaign, 'group' in typed ? typed.group : '');
    row.campaign = campaign;
    if ('group' in row) row.group = group;
    if (row.kind === 'keyword' || row.kind === 'negative') row.text = normalise(row.text);
    return row;
  }

  /** Rows of one place come one after another, so the last one is remembered. */
  private placeNamed(campaign: string, group: string): RowMerge['lastPlace'] {
    const { lastPlace } = this;
    if (lastPlace.typed[0] === campaign && lastPlace.typed[1] === group) return lastPlace;
    const named = this.names.get(campaign.toLowerCase()) ?? campaign;
    const there = group === '' ? '' : this.groups.get(joinCells([named, group.toLowerCase()]));
    const was = there === undefined ? this.wasCalled.get(joinCells([campaign, group])) : undefined;
    this.lastPlace = was
      ? { typed: [campaign, group], campaign: was[0], group: was[1] }
      : { typed: [campaign, group], campaign: named, group: there ?? group };
    return this.lastPlace;
  }

  /** Of a keyword whose sheet does not tell it: as the plan has it there, else as its ad group or its campaign is set to match. */
  private typeOf(row: KeywordSheetRow): MatchType {
    const there = matchTypes.find((type) => this.plan.has(keyOf({ ...row, type })));
    const setting =
      this.settings.get(joinCells([row.campaign, row.group])) ?? this.settings.get(row.campaign);
    return there ?? (setting === 'wide' ? 'broad' : row.type);
  }

  private compared(
    row: SheetRow,
    key: string,
    before: string,
    told: ReadonlySet<CellValue>,
  ): MergedRow | null {
    const { cells, joined } = this.maker.of(row);
    if (joined === before) return null;
    const old = splitCells(before);
    const fields: FieldChange[] = [];
    this.maker.values[row.kind].forEach((value, at) => {
      const after = stringAt(cells, at);
      if (namingValues.has(value) || !told.has(value) || old[at] === after) return;
      if (after === '' && silentValues.has(value)) return;
      fields.push({ value, before: old[at] ?? '', after });
    });
    return fields.length === 0 ? null : { change: 'changed', kind: row.kind, key, row, fields };
  }
}
