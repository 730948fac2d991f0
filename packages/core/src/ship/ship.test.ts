import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type BuildKeyword, buildPlan, defaultLayout, type Hold } from '../build/index.ts';
import { asMicros } from '../money/index.ts';
import { english, lengthOf } from '../text/index.ts';
import { type AdPattern, adFields, compilePattern } from '../write/index.ts';
import {
  check,
  type Outlet,
  plainOutlet,
  project,
  projectRow,
  type SheetRow,
  SheetWriter,
  settingValues,
  splitParts,
  writeField,
} from './index.ts';

describe('splitting over campaigns', () => {
  const groups = (count: number, rows = 1) => Array.from({ length: count }, () => rows);
  const split = (...given: Parameters<typeof splitParts>) => [...splitParts(...given)];

  test('as even as can be when first made', () => {
    expect(split(groups(7), { groups: 3, rows: 100 })).toEqual([1, 1, 1, 2, 2, 3, 3]);
    expect(split(groups(4, 2), { groups: 9, rows: 4 })).toEqual([1, 1, 2, 2]);
    expect(split([], { groups: 3, rows: 3 })).toEqual([]);
  });

  test('sticky: what stands somewhere stays, new ones take the first free place', () => {
    const before = [1, 2, 2, 0, 3, 0];
    expect(split(groups(6), { groups: 2, rows: 100 }, before)).toEqual([1, 2, 2, 1, 3, 3]);
  });

  test('no part is ever over its limits, and nothing moves when the pool grows', () => {
    const limits = { groups: 4, rows: 9 };
    const list = fc.array(fc.integer({ min: 1, max: 4 }), { maxLength: 60 });
    fc.assert(
      fc.property(list, list, (first, more) => {
        const all = [...first, ...more];
        const parts = split(first, limits);
        const grown = split(all, limits, parts);
        expect(grown.slice(0, first.length)).toEqual(parts);
        const used = new Map<number, { groups: number; rows: number }>();
        grown.forEach((part, at) => {
          const sum = used.get(part) ?? { groups: 0, rows: 0 };
          used.set(part, { groups: sum.groups + 1, rows: sum.rows + (all[at] ?? 0) });
        });
        for (const { groups: count, rows } of used.values()) {
          expect(count).toBeLessThanOrEqual(limits.groups);
          expect(rows).toBeLessThanOrEqual(limits.rows);
        }
      }),
      { seed: 31 },
    );
  });
});

const layout = defaultLayout('Kayaks', 'GBP');
const keyword = (id: number, norm: string): BuildKeyword => ({
  id,
  text: norm,
  norm,
  asked: 0,
  marks: [],
  cpc: null,
});
const pattern: AdPattern = {
  name: 'Ad',
  finalUrl: '@site/@keyword',
  fields: Object.fromEntries(
    adFields.map((field) => [
      field,
      { lines: field.startsWith('path') ? [] : ['@keyword hire'], style: 'title' },
    ]),
  ) as AdPattern['fields'],
};

function planOf(
  keywords: BuildKeyword[],
  holds: Hold[] = [],
  outlet: Outlet = plainOutlet,
  site = 'saltmarshpaddle.example',
) {
  const built = buildPlan({ keywords, layout, holds, pack: english, casing: null });
  const writing = { pack: english, casing: null };
  const input = { ...built, layout, currency: 'GBP', site, pattern: compilePattern(pattern), holds, writing };
  const projection = project(input, outlet);
  return {
    ...built,
    projection,
    findings: check({ ...built, layout, site, projection, orphans: built.orphans.length }, outlet),
  };
}

describe('what an outlet gets', () => {
  const small: Outlet = {
    ...plainOutlet,
    limits: { ...plainOutlet.limits, groupName: 12, groupsPerCampaign: 2 },
  };

  test('names cut and unique again, campaigns in parts, bids at the increment', () => {
    const { projection, rows } = planOf(
      [keyword(1, 'sea kayak hire'), keyword(2, 'sea kayak sale'), keyword(3, 'canoe')],
      [],
      small,
    );
    expect(projection.groups.map(({ campaign, name, bid }) => [campaign, name, bid])).toEqual([
      ['Kayaks', 'sea kayak', 400_000],
      ['Kayaks', 'sea (2)', 400_000],
      ['Kayaks 2', 'canoe', 400_000],
    ]);
    const group = projection.groups[2];
    expect(group && projectRow(rows[5]!, group, layout, asMicros(10_000))).toMatchObject({
      group: 'canoe',
      type: 'exact',
      bid: 500_000,
    });
    for (const { name } of projection.groups) expect(lengthOf(name)).toBeLessThanOrEqual(12);
  });

  test('held ad texts stand as written, for all outlets or for this one before all', () => {
    const holds: Hold[] = [
      { rowKey: 'k1/a1', field: 'headline1', outlet: 'plain', value: 'Here only' },
      { rowKey: 'k1/a1', field: 'headline1', outlet: null, value: 'Everywhere' },
      { rowKey: 'k1/a1', field: 'headline2', outlet: 'other', value: 'Elsewhere' },
    ];
    const [ad] = planOf([keyword(1, 'canoe')], holds).projection.ads;
    expect(ad?.fit.fields.headline1).toMatchObject({ text: 'Here only' });
    expect(ad?.fit.fields.headline2).toMatchObject({ text: 'Canoe Hire' });
    expect(ad?.covered).toEqual({ headline1: 'Canoe Hire' });
  });
});

describe('findings', () => {
  test('an empty plan', () => {
    expect(planOf([]).findings.map(({ rule, severity }) => [rule, severity])).toEqual([
      ['no-keywords', 'blocker'],
    ]);
  });

  test('unfilled fields, per field, with the group to mend', () => {
    const { findings } = planOf([keyword(1, 'canoe'), keyword(2, 'an inflatable two person sea kayak')]);
    const unfilled = findings.filter(({ rule }) => rule === 'field-unfilled');
    expect(unfilled.map(({ field, count, place }) => [field, count, place.key])).toEqual([
      ['headline1', 1, 'k2'],
      ['headline2', 1, 'k2'],
      ['headline3', 1, 'k2'],
    ]);
  });

  test('keywords over the limits', () => {
    const { findings } = planOf([keyword(1, 'a b c d e f g h i j k'), keyword(2, 'x'.repeat(81))]);
    expect(findings.map(({ rule }) => rule)).toEqual(
      expect.arrayContaining(['keyword-too-many-words', 'keyword-too-long']),
    );
  });

  test('no site: nothing to link to', () => {
    const { findings } = planOf([keyword(1, 'canoe')], [], plainOutlet, '');
    expect(findings.map(({ rule }) => rule)).toEqual(['address-unfilled', 'no-site']);
  });
});

describe('sheets', () => {
  const context = { outlet: plainOutlet, decimals: 2 };
  const combined = plainOutlet.sheets.find(({ kind }) => kind === 'combined')!;
  const row: SheetRow = {
    kind: 'keyword',
    campaign: 'A, "B"',
    group: '=cmd()',
    text: 'red kayak',
    type: 'modified',
    marks: [1],
    bid: asMicros(575_000),
  };

  test('fields are quoted as RFC 4180 says, and are otherwise exact', () => {
    expect(['a', 'a,b', 'a"b', 'a\nb', '=1', '+k'].map((text) => writeField(text, 'csv'))).toEqual([
      'a',
      '"a,b"',
      '"a""b"',
      '"a\nb"',
      '=1',
      '+k',
    ]);
    expect(['a,b', 'a\tb'].map((text) => writeField(text, 'tsv'))).toEqual(['a,b', '"a\tb"']);
  });

  test('a row of the combined sheet', () => {
    const writer = new SheetWriter(combined.columns, 'csv', '\r\n', context);
    expect(writer.row(row)).toBe(
      'Keyword,"A, ""B""",=cmd(),,red +kayak,Modified broad,0.575,,,,,,,,,Enabled\r\n',
    );
    expect(writer.header().split(',').length).toBe(combined.columns.length);
  });

  test('every sheet has as many cells as headings, whatever the row', () => {
    const rows: SheetRow[] = [
      row,
      {
        kind: 'campaign',
        campaign: 'C',
        dailyBudget: asMicros(20_000_000),
        settings: Object.fromEntries(settingValues.map((name) => [name, name])) as never,
      },
      { kind: 'negative', campaign: 'C', text: 'free', type: 'phrase' },
      {
        kind: 'ad',
        campaign: 'C',
        group: 'G',
        finalUrl: 'https://x.example/',
        texts: Object.fromEntries(adFields.map((f) => [f, f])) as never,
      },
    ];
    for (const sheet of plainOutlet.sheets) {
      const writer = new SheetWriter(sheet.columns, 'tsv', '\n', context);
      for (const one of rows) expect(writer.row(one).split('\t').length).toBe(sheet.columns.length);
    }
  });
});
