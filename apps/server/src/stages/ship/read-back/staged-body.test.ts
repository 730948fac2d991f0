import { matchTypes } from '@sprig/core/match';
import { asMicros } from '@sprig/core/money';
import { type KeywordSheetRow, keyOf, mergeKinds } from '@sprig/core/sheets';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { packStaged, type StagedRow, unpackStaged } from './staged-body.ts';

const text = fc.oneof(fc.string({ maxLength: 12 }), fc.constantFrom('', '[', '{"a":1}', 'a\tb\n"c"', '🛶'));
const keyword: fc.Arbitrary<KeywordSheetRow> = fc.record({
  kind: fc.constant('keyword' as const),
  finalUrl: fc.constantFrom('', 'https://site.example/own'),
  campaign: text,
  group: text,
  text,
  type: fc.constantFrom(...matchTypes),
  marks: fc.constantFrom([], [0], [1, 2]),
  bid: fc.constantFrom(null, asMicros(0), asMicros(400_000)),
  bids: fc.constantFrom(null, { search: asMicros(10_000) }),
  labels: fc.array(text, { maxLength: 2 }),
  status: fc.constantFrom('enabled' as const, 'paused' as const, 'removed' as const),
});
const staged: fc.Arbitrary<StagedRow> = fc
  .record({
    row: keyword,
    change: fc.constantFrom(...mergeKinds),
    fields: fc.constant([]),
    campaign: fc.option(text),
    group: fc.option(text),
    ad: fc.constant(null),
    sheet: fc.integer({ min: -1, max: 9 }),
    line: fc.nat(),
  })
  .map((one) => ({ ...one, key: keyOf(one.row) }));

const said = ({ key, change, row, fields, campaign, group, ad, sheet, line }: StagedRow) => ({
  key,
  change,
  row,
  fields,
  campaign,
  group,
  ad,
  sheet,
  line,
});

test('rows that wait are read as they were kept', () => {
  fc.assert(
    fc.property(staged, (one) => {
      expect(said(unpackStaged(packStaged(one), one.change))).toEqual(said(one));
    }),
  );
});

test('of a new keyword nothing is kept twice', () => {
  const row: KeywordSheetRow = {
    kind: 'keyword',
    finalUrl: '',
    campaign: 'C',
    group: 'G',
    text: 'sea kayak',
    type: 'exact',
    marks: [],
    bid: asMicros(400_000),
    bids: null,
    labels: [],
    status: 'enabled',
  };
  const fresh = {
    change: 'added' as const,
    row,
    fields: [],
    campaign: null,
    group: null,
    ad: null,
    sheet: 0,
    line: 2,
  };
  expect(packStaged({ ...fresh, key: keyOf(row) })).toBe(
    '["C","G","sea kayak","exact",400000,2,0,null,null]',
  );
});
