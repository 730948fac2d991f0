import { unfilledOfAd, type WrittenAd } from '@sprig/core/ads';
import type { BuiltCampaign, BuiltGroup, BuiltRow } from '@sprig/core/build';
import type { AdMarks, GroupFinding } from '@sprig/core/findings';
import { codeOf } from '@sprig/core/match';
import type { Micros } from '@sprig/core/money';
import type { Outlet } from '@sprig/core/outlets';
import type { OutletPlace } from '@sprig/core/sheets';
import { inNotation, storedFields, textOf } from '@sprig/core/write';
import * as tables from '../../db/tables/build.ts';
import { columnsOf, type Table, type TableName, type TableRow } from '../../db/tables/index.ts';
import { outletGroups } from '../../db/tables/ship.ts';
import { ads } from '../../db/tables/write.ts';
import type { DerivedRow, DerivedTable } from './replace-rows.ts';

const derived = (table: Table, options: Omit<DerivedTable, 'name' | 'columns'>): DerivedTable => ({
  name: table.name as DerivedTable['name'],
  columns: columnsOf(table, ({ isAside }, name) => !isAside && name !== 'key' && name !== 'outlet'),
  ...options,
});
export const campaignTable = derived(tables.campaigns, { outlet: null, by: null });
export const groupTable = derived(tables.adGroups, { outlet: null, by: 'key' });
export const rowTable = derived(tables.keywordRows, { outlet: null, by: 'group_key', counted: 'bid' });
export const outletGroupTable = (outlet: string) => derived(outletGroups, { outlet, by: 'key' });
export const adTable = (outlet: string) => derived(ads, { outlet, by: 'group_key' });
export const fenceTable = derived(tables.fences, { outlet: null, by: null });

/** What a derived row of a table says, without what tells it. */
type Says<N extends TableName> = Omit<TableRow<N>, 'key' | 'outlet' | 'hash'>;
/** A row's values in the order of its table's columns: a column that is forgotten does not compile. */
const inOrder = <N extends TableName>({ columns }: DerivedTable) => {
  const names = columns.map(({ name }) => name) as (keyof Says<N>)[];
  return (row: Says<N>): unknown[] => names.map((name) => row[name]);
};
const inCampaignTable = inOrder<'campaigns'>(campaignTable);
const inGroupTable = inOrder<'ad_groups'>(groupTable);
const inRowTable = inOrder<'keyword_rows'>(rowTable);
const inOutletGroupTable = inOrder<'outlet_groups'>(outletGroupTable(''));
const inAdTable = inOrder<'ads'>(adTable(''));

export const campaignRow = (campaign: BuiltCampaign): DerivedRow => ({
  key: campaign.key,
  values: inCampaignTable({
    position: campaign.position,
    name: campaign.name,
    daily_budget: campaign.dailyBudget,
    status: campaign.status,
    labels: campaign.labels,
    settings_id: campaign.settings,
    lane: campaign.lane,
    place: campaign.place,
    covered: campaign.covered,
  }),
});

export const groupRow = (
  group: BuiltGroup,
  rows: number,
  findings: readonly GroupFinding[],
  madeOf: number,
): DerivedRow => ({
  key: group.key,
  values: inGroupTable({
    campaign_key: group.campaign,
    kind: group.kind,
    theme_id: group.theme,
    position: group.position,
    keyword_id: group.keywordId,
    keyword: group.keyword,
    name: group.name,
    keywords: group.keywords,
    rows: rows,
    searches: group.searches,
    base: group.base,
    base_from: group.baseFrom,
    step: group.step,
    status: group.status,
    labels: group.labels,
    lane: group.lane,
    place: group.place,
    stage: group.stage,
    covered: group.covered,
    findings: findings.length > 0 ? findings : null,
    takes_ads: group.ads,
    made_of: madeOf,
  }),
});

export const keywordRow = (row: BuiltRow, bid: Micros, ruleUrl: string | null): DerivedRow => ({
  key: row.key,
  values: inRowTable({
    group_key: row.groupKey,
    position: row.keywordId,
    keyword_id: row.keywordId,
    text: row.text,
    type: codeOf(row.type),
    marks: row.marks,
    base: row.base,
    steps: row.steps,
    held_bid: row.heldBid,
    held_url: row.heldUrl,
    rule_url: ruleUrl,
    bid: bid,
    status: row.status,
    labels: row.labels,
  }),
});

export const outletGroupRow = (
  { key, position, campaign }: Pick<BuiltGroup, 'key' | 'position' | 'campaign'>,
  placed: OutletPlace,
  bid: Micros,
): DerivedRow => ({
  key,
  values: inOutletGroupTable({
    position: position,
    campaign_key: campaign,
    campaign: placed.campaign,
    part: placed.part,
    name: placed.name,
    bid: bid,
  }),
});

export const adRow = (
  ad: WrittenAd,
  position: number,
  { insertion }: Outlet['ad'],
  { relevance, problems }: AdMarks,
): DerivedRow => {
  const { final, mobile } = ad.address;
  const said = storedFields.map((field) => textOf(ad.fields[field]));
  while (said.length > 0 && said.at(-1) === '') said.pop();
  const notation = storedFields.flatMap((field) => {
    const fit = ad.fields[field];
    if (fit?.status !== 'fits' || fit.live.length === 0) return [];
    return [[field, inNotation(fit.text, fit.live, insertion)]];
  });
  return {
    key: ad.key,
    values: inAdTable({
      group_key: ad.groupKey,
      position: position,
      pattern_id: ad.pattern,
      form: ad.form,
      status: ad.status,
      labels: ad.labels,
      texts: said,
      notation: notation.length > 0 ? Object.fromEntries(notation) : null,
      kept: Object.keys(ad.kept).length > 0 ? ad.kept : null,
      final_url: final.status === 'address' ? final.href : '',
      mobile_url: mobile?.status === 'address' ? mobile.href : '',
      misfit: unfilledOfAd(ad).length > 0,
      relevance: Math.round(relevance * 10_000),
      problems: problems,
    }),
  };
};

/** The texts of a stored ad by their fields. */
export const adTexts = (said: readonly string[]): Record<string, string> =>
  Object.fromEntries(storedFields.flatMap((field, at) => (said[at] ? [[field, said[at]]] : [])));
