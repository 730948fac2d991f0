import {
  type BuiltGroup,
  type BuiltRow,
  bidOf,
  type Hold,
  type Layout,
  UniqueNames,
} from '../build/index.ts';
import { type Micros, minorUnit } from '../money/index.ts';
import { cutAtWord, type TokenValues } from '../text/index.ts';
import {
  type AdField,
  adFields,
  type CompiledPattern,
  type FieldFit,
  type FittedAd,
  fitAd,
  type Writing,
} from '../write/index.ts';
import type { SheetRow } from './cell-values.ts';
import type { Outlet } from './outlet.ts';
import { partName, splitParts } from './split-parts.ts';

/** An ad group as one outlet gets it. */
export type ProjectedGroup = { key: string; campaign: string; part: number; name: string; bid: Micros };

export type ProjectedAd = {
  key: string;
  groupKey: string;
  fit: FittedAd;
  covered: Record<string, string> | null;
};

export type Projection = { groups: ProjectedGroup[]; ads: ProjectedAd[] };

export type ProjectInput = {
  groups: readonly BuiltGroup[];
  rows: readonly BuiltRow[];
  layout: Layout;
  currency: string;
  site: string;
  pattern: CompiledPattern;
  holds: readonly Hold[];
  writing: Writing;
  /** The part of each group, and the names given out before: where a plan is projected page by page. */
  page?: { parts: ArrayLike<number>; names: UniqueNames };
};

export const incrementOf = (outlet: Outlet, currency: string): Micros =>
  outlet.bidIncrement ?? minorUnit(currency);

export const adKeyOf = (groupKey: string): string => `${groupKey}/a1`;

/**
 * What one outlet gets of the plan: names cut to its limits and unique again, campaigns split into parts, ads
 * fitted with what is held for it on top. Rows need no more than `projectRow`, one at a time. O(groups + rows).
 */
export function project(input: ProjectInput, outlet: Outlet): Projection {
  const { groups, layout, currency } = input;
  const { parts, names } = input.page ?? {
    parts: splitParts(rowsPerGroup(input), partLimits(outlet)),
    names: new UniqueNames(outlet.limits.groupName),
  };
  const increment = incrementOf(outlet, currency);
  const holds = adHolds(input.holds, outlet.key);
  const projected: ProjectedGroup[] = [];
  const ads: ProjectedAd[] = [];
  groups.forEach((group, at) => {
    const part = parts[at] as number;
    const bid = bidOf(
      { base: group.base, steps: [], held: group.baseFrom === 'held' ? group.base : null },
      layout.ladder,
      increment,
    );
    const name = names.take(group.name);
    projected.push({ key: group.key, campaign: campaignAt(layout, outlet, part), part, name, bid });
    ads.push(projectAd(group, input, outlet, holds));
  });
  return { groups: projected, ads };
}

export const partLimits = ({ limits }: Outlet) => ({
  groups: limits.groupsPerCampaign,
  rows: limits.rowsPerCampaign,
});

function rowsPerGroup({ groups, rows }: Pick<ProjectInput, 'groups' | 'rows'>): Uint32Array {
  const counts = new Map<string, number>();
  for (const { groupKey } of rows) counts.set(groupKey, (counts.get(groupKey) ?? 0) + 1);
  return Uint32Array.from(groups, ({ key }) => counts.get(key) ?? 0);
}

/** The name of a campaign's part within the outlet's limit; the number is never what is cut. */
export function campaignAt(layout: Layout, outlet: Outlet, part: number): string {
  const room = outlet.limits.campaignName - (part === 1 ? 0 : String(part).length + 1);
  return partName(cutAtWord(layout.campaignName, room), part);
}

/** What a group's tokens stand for. The site is as one would say it: without its scheme. */
export const tokensOf = (group: Pick<BuiltGroup, 'keyword' | 'name'>, site: string): TokenValues => ({
  keyword: group.keyword,
  group: group.name,
  site: site
    .trim()
    .replace(/^https?:\/\//i, '')
    .replace(/\/+$/, ''),
});

type AdHolds = ReadonlyMap<string, Map<string, string>>;

/** Held ad texts by ad and field; what is held for this outlet goes before what is held for all. */
function adHolds(holds: readonly Hold[], outletKey: string): AdHolds {
  const byAd = new Map<string, Map<string, string>>();
  const forAllFirst = [...holds].sort((a, b) => Number(a.outlet !== null) - Number(b.outlet !== null));
  for (const hold of forAllFirst) {
    if (!hold.rowKey.includes('/a') || (hold.outlet !== null && hold.outlet !== outletKey)) continue;
    const fields = byAd.get(hold.rowKey) ?? new Map<string, string>();
    fields.set(hold.field, String(hold.value));
    byAd.set(hold.rowKey, fields);
  }
  return byAd;
}

function projectAd(group: BuiltGroup, input: ProjectInput, outlet: Outlet, holds: AdHolds): ProjectedAd {
  const key = adKeyOf(group.key);
  const fit = fitAd(input.pattern, tokensOf(group, input.site), outlet.ad, input.writing);
  const held = holds.get(key);
  return held
    ? withHeld({ key, groupKey: group.key, fit, covered: null }, held, outlet, input)
    : { key, groupKey: group.key, fit, covered: null };
}

/** A held text stands as written; where it is too long it is unfilled, like a rule's. */
function withHeld(
  ad: ProjectedAd,
  held: Map<string, string>,
  outlet: Outlet,
  input: ProjectInput,
): ProjectedAd {
  const fields = { ...ad.fit.fields };
  const covered: Record<string, string> = {};
  for (const [field, text] of held) {
    if (!isAdField(field)) continue;
    covered[field] = textOf(ad.fit.fields[field]);
    const line = { lines: [{ parts: [{ kind: 'text', text }] }], style: 'as-is' } as const;
    const single: CompiledPattern = { ...input.pattern, fields: { ...input.pattern.fields, [field]: line } };
    const refit = fitAd(single, {}, outlet.ad, { ...input.writing, casing: null }).fields[field];
    fields[field] = text === '' && !outlet.ad[field].required ? { status: 'empty' } : refit;
  }
  return { ...ad, fit: { ...ad.fit, fields }, covered };
}

const isAdField = (field: string): field is AdField => (adFields as readonly string[]).includes(field);

/** What is shown of a field: its text, also where it is too long; empty where there is none. */
export const textOf = (fit: FieldFit): string =>
  fit.status === 'fits' ? fit.text : fit.status === 'unfilled' && fit.why === 'too-long' ? fit.text : '';

/** A keyword row as one outlet gets it. */
export function projectRow(
  row: BuiltRow,
  group: Pick<ProjectedGroup, 'campaign' | 'name'>,
  layout: Layout,
  increment: Micros,
): SheetRow {
  const bid = bidOf({ base: row.base, steps: row.steps, held: row.heldBid }, layout.ladder, increment);
  const { text, type, marks } = row;
  return { kind: 'keyword', campaign: group.campaign, group: group.name, text, type, marks, bid };
}
