import { type BuiltPlan, buildPlan } from '@sprig/core/build';
import { matchTypes } from '@sprig/core/match';
import { check, type Finding, type Outlet, type Projection, project, textOf } from '@sprig/core/ship';
import { casingOf, languagePack } from '@sprig/core/text';
import { adFields, compilePattern, unfilledFields } from '@sprig/core/write';
import type { Column } from '../database/copy.ts';
import type { Inputs } from './load-inputs.ts';
import type { DerivedRow } from './replace-rows.ts';

const int = (name: string): Column => ({ name, type: 'int4' });
const text = (name: string): Column => ({ name, type: 'text' });
const amount = (name: string): Column => ({ name, type: 'int8' });

export const groupColumns: Column[] = [
  int('position'),
  int('keyword_id'),
  text('keyword'),
  text('name'),
  int('searches'),
  amount('base'),
  text('base_from'),
  { name: 'covered', type: 'jsonb' },
];
export const rowColumns: Column[] = [
  text('group_key'),
  int('position'),
  text('text'),
  int('type'),
  { name: 'marks', type: 'int2[]' },
  amount('base'),
  { name: 'steps', type: 'int4[]' },
  amount('held_bid'),
];
export const outletGroupColumns: Column[] = [
  int('position'),
  text('campaign'),
  int('part'),
  text('name'),
  amount('bid'),
];
export const adColumns: Column[] = [
  text('group_key'),
  int('position'),
  { name: 'texts', type: 'text[]' },
  text('final_url'),
  { name: 'misfit', type: 'bool' },
];

export type Derived = { built: BuiltPlan; projection: Projection; findings: Finding[] };

/** All that hangs on the inputs, by core functions in the trail's order. */
export function derive(inputs: Inputs, outlet: Outlet): Derived {
  const { keywords, layout, holds, brief, pattern } = inputs;
  const pack = languagePack(brief.language);
  const casing = casingOf([]);
  const built = buildPlan({ keywords, layout, holds, pack, casing });
  const projection = project(
    {
      ...built,
      layout,
      currency: brief.currency,
      site: brief.site,
      pattern: compilePattern(pattern),
      holds,
      writing: { pack, casing },
      partsBefore: inputs.partsBefore,
    },
    outlet,
  );
  const findings = check(
    { ...built, layout, site: brief.site, projection, orphans: built.orphans.length },
    outlet,
  );
  return { built, projection, findings };
}

/** The rows of each derived table; the position is the keyword's id, so that nothing moves when others come or go. */
export function rowsOf({ built, projection }: Derived, inputs: Inputs) {
  const places = new Map(built.groups.map(({ key, keywordId }) => [key, keywordId]));
  const groups: DerivedRow[] = built.groups.map((group, at) => ({
    key: group.key,
    values: [
      group.keywordId,
      group.keywordId,
      group.keyword,
      group.name,
      inputs.keywords[at]?.searches ?? null,
      group.base,
      group.baseFrom,
      group.covered,
    ],
  }));
  const rows: DerivedRow[] = built.rows.map((row) => ({
    key: row.key,
    values: [
      row.groupKey,
      places.get(row.groupKey),
      row.text,
      matchTypes.indexOf(row.type),
      row.marks,
      row.base,
      row.steps,
      row.heldBid,
    ],
  }));
  const outletGroups: DerivedRow[] = projection.groups.map(({ key, campaign, part, name, bid }) => ({
    key,
    values: [places.get(key), campaign, part, name, bid],
  }));
  const ads: DerivedRow[] = projection.ads.map(({ key, groupKey, fit }) => ({
    key,
    values: [
      groupKey,
      places.get(groupKey),
      adFields.map((field) => textOf(fit.fields[field])),
      fit.finalUrl.status === 'fits' ? fit.finalUrl.text : '',
      unfilledFields(fit).length > 0,
    ],
  }));
  return { groups, rows, outletGroups, ads };
}
