import type { VariantOptions } from '@sprig/core/mix';
import { asMicros } from '@sprig/core/money';
import { describe, expect, test } from 'vitest';
import { VariantList } from './variant-list.ts';

const options: VariantOptions = {
  types: ['phrase', 'exact'],
  marks: 'every',
  chosen: [],
  order: 'keyword',
  bids: null,
};
const bids = {
  base: asMicros(400_000),
  steps: { broad: 7_000, modified: 8_500, phrase: 10_000, exact: 12_500 },
  increment: asMicros(10_000),
};

describe('variants of a pasted list', () => {
  test('any notation is taken, each keyword once, negatives apart; what is none is told', () => {
    const list = new VariantList();
    expect(list.read('kayak hire\n"kayak hire"\n[sea kayak]\n-jobs\n-"jobs"\nsea!\n')).toMatchObject({
      keywords: 2,
      negatives: 1,
      repeated: 1,
      problemCount: 1,
      problems: [{ line: 6, code: 'not-allowed' }],
    });
    expect(list.make(options)).toEqual({ rows: 6, unmarked: 0 });
    expect(list.text('notation').split('\n')).toEqual([
      '"kayak hire"',
      '[kayak hire]',
      '"sea kayak"',
      '[sea kayak]',
      '-"jobs"',
      '-[jobs]',
    ]);
  });

  test('columns with headings; a CPC of the sheet goes before the base', () => {
    const list = new VariantList();
    expect(list.read('Keyword\tCPC\nkayak\t0.80\ncanoe\t\n').withCpc).toBe(1);
    list.make({ ...options, types: ['modified', 'exact'], bids });
    expect(list.cells('columns')).toEqual([
      ['Keyword', 'Match type', 'Max CPC'],
      ['+kayak', 'Modified broad', '0.68'],
      ['kayak', 'Exact', '1.00'],
      ['+canoe', 'Modified broad', '0.34'],
      ['canoe', 'Exact', '0.50'],
    ]);
    list.make(options);
    expect(list.text('columns').split('\n')[0]).toBe('Keyword\tMatch type');
    list.make({ ...options, types: ['phrase'], order: 'type' });
    expect(list.page([1, 9]).map(({ at, text }) => [at, text])).toEqual([[1, 'canoe']]);
  });

  test('made again from the list that was read last', () => {
    const list = new VariantList();
    list.read('kayak');
    list.make({ ...options, types: ['exact'] });
    list.prepare('notation');
    expect(list.text('columns')).toBe('Keyword\tMatch type\nkayak\tExact');
    expect(list.text('notation')).toBe('[kayak]');
    list.read('canoe');
    list.make({ ...options, types: ['broad'] });
    expect(list.text('notation')).toBe('canoe');
    expect(new VariantList().make(options)).toEqual({ rows: 0, unmarked: 0 });
  });
});
