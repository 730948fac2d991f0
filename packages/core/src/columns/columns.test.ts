import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asMicros } from '../money/index.ts';
import { fennelwick, plainOutlet } from '../outlets/index.ts';
import { CellMaker, readCells } from '../sheets/index.ts';
import { adFields } from '../write/index.ts';
import {
  type CampaignSettings,
  type CellValue,
  cellValues,
  columnOf,
  columnsOfKind,
  columnTypes,
  moneyWriter,
  namingValues,
  type RowKind,
  readMoney,
  rowKinds,
  type SheetRow,
  settingValues,
} from './index.ts';

const place = {
  campaign: 'Tents',
  group: 'Ridge tents',
  status: 'paused' as const,
  labels: ['autumn', 'sale'],
};
/** A row of each kind that says something in every column that it can have. */
const ROWS: Record<RowKind, SheetRow> = {
  campaign: {
    kind: 'campaign',
    campaign: 'Tents',
    dailyBudget: asMicros(12_500_000),
    matchSetting: 'wide',
    settings: {
      ...(Object.fromEntries(settingValues.map((value) => [value, `some ${value}`])) as CampaignSettings),
      'target-cost': '12.5',
    },
    status: 'paused',
    labels: place.labels,
  },
  group: {
    kind: 'group',
    ...place,
    matchSetting: 'close',
    rotation: 'All ads alike',
    bid: asMicros(400_000),
    bids: { search: asMicros(400_000), partners: asMicros(300_000), display: asMicros(200_000) },
  },
  keyword: {
    kind: 'keyword',
    finalUrl: 'https://site.example/ridge-tent',
    ...place,
    text: 'ridge tent',
    type: 'phrase',
    marks: [],
    bid: asMicros(400_000),
    bids: { search: asMicros(400_000), partners: asMicros(300_000), display: asMicros(200_000) },
  },
  negative: {
    kind: 'negative',
    campaign: 'Tents',
    group: 'Ridge tents',
    text: 'toy tent',
    type: 'exact',
    status: 'paused',
  },
  ad: {
    kind: 'ad',
    ...place,
    form: 'assembled',
    texts: Object.fromEntries(adFields.map((field) => [field, `A ${field}`])),
    kept: { headline1: 1 },
    finalUrl: 'https://tents.example/ridge',
    mobileUrl: 'https://tents.example/m/ridge',
  },
  extra: {
    kind: 'extra',
    campaign: 'Tents',
    group: 'Ridge tents',
    extra: {
      kind: 'sitelink',
      text: 'Pegs',
      line1: 'Steel',
      line2: 'Bronze',
      address: 'https://tents.example/pegs',
    },
    status: 'paused',
  },
};

const writing = (perNetwork: boolean) => ({
  rules: { ...plainOutlet, bids: { perNetwork } },
  money: moneyWriter(plainOutlet, 2),
});

describe.each(columnTypes.map((type) => [type.value, columnOf(type.value)] as const))(
  'the column %s',
  (value, type) => {
    test('stands once, with words of its own', () => {
      expect(cellValues.filter((one) => one === value)).toEqual([value]);
      expect(type.words).not.toBe('');
      expect(columnTypes.filter(({ heading }) => heading === type.heading)).toHaveLength(1);
    });

    test.each(type.kinds)('reads in a row of %s what it has written', (kind) => {
      const perNetwork = value.startsWith('bid-');
      const rules = { ...plainOutlet, bids: { ...plainOutlet.bids, perNetwork } };
      const values = columnsOfKind[kind].map((one) => one.value).filter((one) => one !== 'keyword-notation');
      const told =
        value === 'keyword-notation'
          ? columnsOfKind[kind].map((one) => one.value).filter((one) => one !== 'keyword')
          : values;
      const outlet = {
        ...rules,
        sheets: [
          {
            kind: 'combined' as const,
            fileName: 'all',
            columns: told.map((one) => ({ heading: columnOf(one).heading, value: one })),
          },
        ],
      };
      const row = ROWS[kind];
      const { cells } = new CellMaker({ outlet, decimals: 2 }).of(row);
      const order = new CellMaker({ outlet, decimals: 2 }).values[kind];
      const { rows, problems } = readCells([order.map((one) => columnOf(one).heading), cells], outlet, 2);
      expect(problems).toEqual([]);
      const read = rows[0]?.row as SheetRow;
      const write = type.write(writing(perNetwork));
      expect(write(read)).toBe(write(row));
      const isEmptyHere = value === 'extra-number' || value === 'fixed' || (value === 'bid' && perNetwork);
      expect(write(row) === '').toBe(isEmptyHere);
    });

    test('tells nothing more to be lost of a row that goes without it', () => {
      for (const kind of type.kinds) {
        const row = ROWS[kind];
        const lost = type.loss?.of(row) ?? null;
        if (!type.loss || lost === null) continue;
        const without = type.loss.without(row);
        expect(type.loss.of(without)).toBeNull();
        expect(row).toEqual(ROWS[kind]);
      }
    });
  },
);

test('rows are found by where they stand and what they are, and by nothing that can differ', () => {
  expect([...namingValues].sort()).toEqual(
    [
      'ad-form',
      'extra-kind',
      'campaign',
      'group',
      'keyword',
      'keyword-notation',
      'match-type',
      'row-kind',
    ].sort(),
  );
});

test('every kind of row has a column that tells what it is, where it stands and how it is doing', () => {
  for (const kind of rowKinds) {
    const values: readonly CellValue[] = columnsOfKind[kind].map(({ value }) => value);
    expect(values).toEqual(expect.arrayContaining(['row-kind', 'campaign', 'status']));
  }
});

test('amounts are read as they are written, by either mark and unit', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 100_000_000 }),
      fc.constantFrom<{ mark: '.' | ','; unit: 'major' | 'minor' }>(
        { mark: '.', unit: 'major' },
        { mark: ',', unit: 'major' },
        { mark: '.', unit: 'minor' },
      ),
      (cents, money) => {
        const amount = asMicros(cents * 10_000);
        expect(readMoney(moneyWriter({ money }, 2)(amount), { money }, 2)).toBe(amount);
      },
    ),
  );
});

test('a target cost is an amount like any other of its outlet', () => {
  const rules = { ...fennelwick, money: { mark: ',' as const, unit: 'major' as const } };
  const write = columnOf('target-cost').write({ rules, money: moneyWriter(rules, 2) });
  expect(write(ROWS.campaign)).toBe('12,50');
});
