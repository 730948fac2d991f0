import { unfilledOfAd, type WrittenAd } from '@sprig/core/ads';
import type { BuiltCampaign, BuiltGroup, BuiltRow } from '@sprig/core/build';
import type { AdMarks, GroupFinding } from '@sprig/core/findings';
import { codeOf } from '@sprig/core/match';
import type { Micros } from '@sprig/core/money';
import type { Outlet } from '@sprig/core/outlets';
import type { ProjectedGroup } from '@sprig/core/sheets';
import { inNotation, storedFields, textOf } from '@sprig/core/write';
import type { Column } from '../../db/copy.ts';
import type { DerivedRow, DerivedTable } from './replace-rows.ts';

const int = (name: string): Column => ({ name, type: 'int4' });
const text = (name: string): Column => ({ name, type: 'text' });
const amount = (name: string): Column => ({ name, type: 'int8' });
const json = (name: string): Column => ({ name, type: 'jsonb' });
const texts = (name: string): Column => ({ name, type: 'text[]' });

export const campaignTable: DerivedTable = {
  name: 'campaigns',
  outlet: null,
  by: null,
  columns: [
    int('position'),
    text('name'),
    amount('daily_budget'),
    text('status'),
    texts('labels'),
    int('settings_id'),
    int('lane'),
    text('place'),
    json('covered'),
  ],
};
export const groupTable: DerivedTable = {
  name: 'ad_groups',
  outlet: null,
  by: 'key',
  columns: [
    text('campaign_key'),
    text('kind'),
    int('theme_id'),
    int('position'),
    int('keyword_id'),
    text('keyword'),
    text('name'),
    int('keywords'),
    int('rows'),
    int('searches'),
    amount('base'),
    text('base_from'),
    int('step'),
    text('status'),
    texts('labels'),
    int('lane'),
    text('place'),
    text('stage'),
    json('covered'),
    json('findings'),
    { name: 'takes_ads', type: 'bool' },
    amount('made_of'),
  ],
};
export const rowTable: DerivedTable = {
  name: 'keyword_rows',
  outlet: null,
  by: 'group_key',
  counted: 'bid',
  columns: [
    text('group_key'),
    int('position'),
    int('keyword_id'),
    text('text'),
    int('type'),
    { name: 'marks', type: 'int2[]' },
    amount('base'),
    { name: 'steps', type: 'int4[]' },
    amount('held_bid'),
    amount('bid'),
    text('status'),
    texts('labels'),
  ],
};
export const outletGroupTable = (outlet: string): DerivedTable => ({
  name: 'outlet_groups',
  outlet,
  by: 'key',
  columns: [
    int('position'),
    text('campaign_key'),
    text('campaign'),
    int('part'),
    text('name'),
    amount('bid'),
  ],
});
export const adTable = (outlet: string): DerivedTable => ({
  name: 'ads',
  outlet,
  by: 'group_key',
  columns: [
    text('group_key'),
    int('position'),
    int('pattern_id'),
    text('form'),
    text('status'),
    texts('labels'),
    texts('texts'),
    json('notation'),
    json('kept'),
    text('final_url'),
    text('mobile_url'),
    { name: 'misfit', type: 'bool' },
    int('relevance'),
    int('problems'),
  ],
});
export const fenceTable: DerivedTable = {
  name: 'fences',
  outlet: null,
  by: null,
  columns: [texts('texts'), { name: 'phrases', type: 'int2[]' }, texts('keepers')],
};

export const campaignRow = (campaign: BuiltCampaign): DerivedRow => ({
  key: campaign.key,
  values: [
    campaign.position,
    campaign.name,
    campaign.dailyBudget,
    campaign.status,
    campaign.labels,
    campaign.settings,
    campaign.lane,
    campaign.place,
    campaign.covered,
  ],
});

export const groupRow = (
  group: BuiltGroup,
  rows: number,
  findings: readonly GroupFinding[],
  madeOf: number,
): DerivedRow => ({
  key: group.key,
  values: [
    group.campaign,
    group.kind,
    group.theme,
    group.position,
    group.keywordId,
    group.keyword,
    group.name,
    group.keywords,
    rows,
    group.searches,
    group.base,
    group.baseFrom,
    group.step,
    group.status,
    group.labels,
    group.lane,
    group.place,
    group.stage,
    group.covered,
    findings.length > 0 ? findings : null,
    group.ads,
    madeOf,
  ],
});

export const keywordRow = (row: BuiltRow, bid: Micros): DerivedRow => ({
  key: row.key,
  values: [
    row.groupKey,
    row.keywordId,
    row.keywordId,
    row.text,
    codeOf(row.type),
    row.marks,
    row.base,
    row.steps,
    row.heldBid,
    bid,
    row.status,
    row.labels,
  ],
});

export const outletGroupRow = (placed: ProjectedGroup, { position, campaign }: BuiltGroup): DerivedRow => ({
  key: placed.key,
  values: [position, campaign, placed.campaign, placed.part, placed.name, placed.bid],
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
    values: [
      ad.groupKey,
      position,
      ad.pattern,
      ad.form,
      ad.status,
      ad.labels,
      said,
      notation.length > 0 ? Object.fromEntries(notation) : null,
      Object.keys(ad.kept).length > 0 ? ad.kept : null,
      final.status === 'address' ? final.href : '',
      mobile?.status === 'address' ? mobile.href : '',
      unfilledOfAd(ad).length > 0,
      Math.round(relevance * 10_000),
      problems,
    ],
  };
};

/** The texts of a stored ad by their fields. */
export const adTexts = (said: readonly string[]): Record<string, string> =>
  Object.fromEntries(storedFields.flatMap((field, at) => (said[at] ? [[field, said[at]]] : [])));
