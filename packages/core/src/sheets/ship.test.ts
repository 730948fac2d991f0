import { describe, expect, test } from 'vitest';
import { frameInputOf, keywordOf } from '../../fixtures/build.ts';
import { HeldAds } from '../ads/index.ts';
import { type BuildKeyword, bidOfGroup, buildPlan, defaultLayout, type Hold } from '../build/index.ts';
import { checkGroup, checkPlan, Findings } from '../findings/index.ts';
import { asMicros } from '../money/index.ts';
import { type Outlet, plainOutlet, settingValues } from '../outlets/index.ts';
import { AdSteps } from '../plan/index.ts';
import { english, ListedWords, lengthOf } from '../text/index.ts';
import { adFields, patternOf, usualAddressRule } from '../write/index.ts';
import {
  CellMaker,
  incrementOf,
  type OutletPlace,
  placeGroups,
  type SheetRow,
  SheetWriter,
  writeField,
} from './index.ts';

const layout = defaultLayout('Kayaks', 'GBP');
const keyword = (id: number, norm: string): BuildKeyword => keywordOf(id, norm);
const lines = ['@keyword hire'];
const pattern = patternOf(
  {
    headline1: lines,
    headline2: ['@keyword for hire'],
    headline3: ['Hire @keyword'],
    description1: ['@keyword hire by the hour, the day or the week'],
  },
  'title',
);

function planOf(
  keywords: BuildKeyword[],
  holds: Hold[] = [],
  outlet: Outlet = plainOutlet,
  site = 'saltmarshpaddle.example',
) {
  const built = buildPlan(frameInputOf({ keywords, layout, holds }));
  const writing = { pack: english, casing: null };
  const rules = {
    patterns: [{ id: 1, body: pattern }],
    address: { ...usualAddressRule(), path: '/@keyword' },
    common: { site, offer: '', year: '2027', brands: new ListedWords([]) },
    held: new HeldAds(holds),
    writing,
    themes: new Map(),
  };
  const names = new Map(built.campaigns.map(({ key, name }) => [key, name]));
  const rowsOf = (key: string) => built.rows.filter(({ groupKey }) => groupKey === key);
  const places = placeGroups(
    built.groups.map(({ key, campaign, name }) => ({
      campaign,
      campaignName: names.get(campaign) ?? '',
      name,
      rows: rowsOf(key).length,
    })),
    outlet,
  );
  const steps = new AdSteps(
    rules,
    { site, words: { banned: new ListedWords([]), casing: new Set() }, refused: [], places: [], writing },
    outlet,
  );
  const projection = {
    groups: built.groups.map((group, at) => ({
      ...(places[at] as OutletPlace),
      bid: bidOfGroup(group, layout.ladder, incrementOf(outlet, 'GBP')),
    })),
    ads: new Map(
      built.groups.map((group) => [group.key, steps.written({ ...group, campaignKey: group.campaign })]),
    ),
  };
  const found = new Findings();
  built.groups.forEach((group, at) => {
    const rows = rowsOf(group.key);
    found.addGroup(group.key, checkGroup({ group, rows, place: places[at] as OutletPlace }, outlet));
    const norms = [...new Set(rows.map(({ text }) => text))];
    const { findings } = steps.checked(
      { ...group, campaignKey: group.campaign },
      projection.ads.get(group.key) ?? [],
      norms,
    );
    found.addGroup(group.key, findings);
  });
  checkPlan(found, {
    groups: built.groups.length,
    campaignName: layout.campaignName,
    site,
    orphans: built.orphans.length,
    conflicts: [],
    bare: [],
    rows: built.rows.length,
    mute: [],
    named: [],
  });
  return { ...built, projection, findings: found.list() };
}

describe('what an outlet gets', () => {
  const small: Outlet = {
    ...plainOutlet,
    limits: { ...plainOutlet.limits, groupName: 12, groupsPerCampaign: 2 },
  };

  test('names cut and unique again, campaigns in parts, bids at the increment', () => {
    const { projection } = planOf(
      [keyword(1, 'sea kayak hire'), keyword(2, 'sea kayak sale'), keyword(3, 'canoe')],
      [],
      small,
    );
    expect(projection.groups.map(({ campaign, name, bid }) => [campaign, name, bid])).toEqual([
      ['Kayaks', 'sea kayak', 400_000],
      ['Kayaks', 'sea (2)', 400_000],
      ['Kayaks 2', 'canoe', 400_000],
    ]);
    for (const { name } of projection.groups) expect(lengthOf(name)).toBeLessThanOrEqual(12);
  });

  test('40,000 groups of a campaign that may have 20,000: numbered parts, nothing lost, nothing moving later', () => {
    const outlet: Outlet = { ...plainOutlet, limits: { ...plainOutlet.limits, groupsPerCampaign: 20_000 } };
    const group = (at: number) => ({ campaign: 'c', campaignName: 'Kayaks', name: `kayak ${at}`, rows: 1 });
    const groups = Array.from({ length: 40_000 }, (_, at) => group(at));
    const places = placeGroups(groups, outlet);
    expect(places).toHaveLength(40_000);
    const sizes = new Map<string, number>();
    for (const { campaign } of places) sizes.set(campaign, (sizes.get(campaign) ?? 0) + 1);
    expect([...sizes]).toEqual([
      ['Kayaks', 20_000],
      ['Kayaks 2', 20_000],
    ]);
    const grown = placeGroups([...groups, group(40_000)], outlet, (at) => places[at]?.part ?? 0);
    expect(grown.slice(0, 40_000)).toEqual(places);
    expect(grown.at(-1)).toMatchObject({ campaign: 'Kayaks 3', part: 3 });
  });

  test('held ad texts stand as written, for all outlets or for this one before all', () => {
    const holds: Hold[] = [
      { rowKey: 'k1/a1', field: 'headline1', outlet: 'plain', value: 'Here only' },
      { rowKey: 'k1/a1', field: 'headline1', outlet: null, value: 'Everywhere' },
      { rowKey: 'k1/a1', field: 'headline2', outlet: 'other', value: 'Elsewhere' },
    ];
    const [ad] = planOf([keyword(1, 'canoe')], holds).projection.ads.get('k1') ?? [];
    expect(ad?.fields.headline1).toMatchObject({ text: 'Here only' });
    expect(ad?.fields.headline2).toMatchObject({ text: 'Canoe for Hire' });
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
    expect(findings.map(({ rule }) => rule)).toEqual(['address-unfilled', 'few-ads', 'no-site']);
  });
});

describe('sheets', () => {
  const maker = new CellMaker({ outlet: plainOutlet, decimals: 2 });
  const combined = plainOutlet.sheets.find(({ kind }) => kind === 'combined')!;
  const row: SheetRow = {
    kind: 'keyword',
    finalUrl: '',
    campaign: 'A, "B"',
    group: '=cmd()',
    text: 'red kayak',
    type: 'modified',
    marks: [1],
    bid: asMicros(575_000),
    bids: null,
    labels: [],
    status: 'paused',
  };

  test('fields are quoted as RFC 4180 says, and are otherwise exact', () => {
    expect(['a', 'a,b', 'a"b', 'a\nb', '=1', '+k'].map((text) => writeField(text, ','))).toEqual([
      'a',
      '"a,b"',
      '"a""b"',
      '"a\nb"',
      '=1',
      '+k',
    ]);
    expect(['a,b', 'a\tb'].map((text) => writeField(text, '\t'))).toEqual(['a,b', '"a\tb"']);
  });

  test('a row of the combined sheet', () => {
    const writer = new SheetWriter(combined.columns, maker.values, ',', '\r\n');
    expect(writer.row(maker.of(row))).toBe(
      `Keyword,"A, ""B""",=cmd(),,red +kayak,Modified broad,0.575${','.repeat(combined.columns.length - 7)}Paused\r\n`,
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
        status: 'enabled',
        matchSetting: null,
        labels: [],
        settings: Object.fromEntries(settingValues.map((name) => [name, name])) as never,
      },
      { kind: 'negative', campaign: 'C', group: '', text: 'free', type: 'phrase', status: 'enabled' },
      {
        kind: 'ad',
        campaign: 'C',
        group: 'G',
        form: 'assembled',
        kept: { headline1: 1 },
        finalUrl: 'https://x.example/',
        mobileUrl: '',
        labels: ['a', 'b'],
        status: 'paused',
        texts: Object.fromEntries(adFields.map((f) => [f, f])) as never,
      },
    ];
    for (const sheet of plainOutlet.sheets) {
      const writer = new SheetWriter(sheet.columns, maker.values, '\t', '\n');
      for (const one of rows) expect(writer.row(maker.of(one)).split('\t').length).toBe(sheet.columns.length);
    }
  });
});
