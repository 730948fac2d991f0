import { expect, test } from 'vitest';
import type { PoolRow } from '../../pool/pool-store.ts';
import { poolColumns } from './pool-columns.tsx';

const columns = poolColumns(1, 'EUR', {} as Parameters<typeof poolColumns>[2], new Map(), ['Clinic']);
const read = (id: string, typed: string) =>
  columns.find((column) => column.id === id)?.read?.(typed, {} as PoolRow);

test.each([
  ['searches', '1300', 1300],
  ['searches', '1,300', 1300],
  ['searches', '1.300.000', 1_300_000],
  ['searches', '1 300', 1300],
  ['searches', '1,30,000', 130_000],
  ['searches', '', null],
  ['searches', '–', null],
  ['cpc', '0.40', 400_000],
  ['cpc', '€ 1,25', 1_250_000],
  ['cpc', ' ', null],
  ['text', 'tooth crown', 'tooth crown'],
])('a cell of %s takes %j', (id, typed, value) => {
  expect(read(id, typed)).toEqual({ value });
});

test.each([
  ['searches', 'many', '“many” is no number of searches. Type it like 1300.'],
  ['searches', '1300.5', '“1300.5” is no number of searches. Type it like 1300.'],
  ['searches', '1,3', '“1,3” is no number of searches. Type it like 1300.'],
  ['searches', '1,300.000', '“1,300.000” is no number of searches. Type it like 1300.'],
  ['searches', '-5', '“-5” is no number of searches. Type it like 1300.'],
  ['searches', '1234567890', '“1234567890” is no number of searches. Type it like 1300.'],
  ['cpc', 'lots', '“lots” is no amount. Type it like 0.40.'],
  ['text', '', 'A keyword can’t be empty. Cut it instead.'],
])('a cell of %s refuses %j with its remedy', (id, typed, words) => {
  expect(read(id, typed)).toEqual({ words });
});

test('what only a source says takes nothing', () => {
  expect(columns.filter((column) => column.read).map(({ id }) => id)).toEqual(['text', 'searches', 'cpc']);
});
