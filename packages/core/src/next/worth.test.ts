import { describe, expect, test } from 'vitest';
import { inOrder, openWorth, type Worth, type WorthMark } from './index.ts';

const M = 1_000_000;
const worth = (code: Worth['code'], stake: number | null = null, part: Partial<Worth> = {}): Worth => ({
  code,
  count: 3,
  stake: stake === null ? null : stake * M,
  currency: stake === null ? null : 'GBP',
  account: 'Spring',
  ...part,
});
const codes = (all: readonly Worth[]) => all.map(({ code }) => code);

test('what keeps from shipping stands first, then the most money, then all else in its order', () => {
  const all = [
    worth('few-negatives'),
    worth('terms', 40),
    worth('bids-to-aim'),
    worth('never-pays', 90),
    worth('misfits', null, { account: '' }),
    worth('not-sold', 90),
    worth('blockers', null, { account: '' }),
  ];
  expect(codes(inOrder(all))).toEqual([
    'blockers',
    'misfits',
    'never-pays',
    'not-sold',
    'terms',
    'bids-to-aim',
    'few-negatives',
  ]);
});

test('amounts of two currencies are not held against each other: the one of which more is told goes first', () => {
  const yen = { currency: 'JPY' };
  const all = [worth('terms', 9_000, yen), worth('pays', 10), worth('too-low', 30), worth('look-again')];
  expect(codes(inOrder(all))).toEqual(['too-low', 'pays', 'terms', 'look-again']);
});

describe('what was put away', () => {
  const mark = (part: Partial<WorthMark>): WorthMark => ({
    code: 'terms',
    account: 'Spring',
    until: null,
    count: 3,
    ...part,
  });
  const openAt = (today: string, marks: WorthMark[], count = 3) =>
    openWorth([worth('terms', 40, { count }), worth('pays', 10)], marks, today);

  test('until a day is back on that day', () => {
    const off = [mark({ until: '2026-12-10' })];
    expect(codes(openAt('2026-12-09', off).open)).toEqual(['pays']);
    expect(openAt('2026-12-09', off).away.map(({ worth: one }) => one.code)).toEqual(['terms']);
    expect(codes(openAt('2026-12-10', off).open)).toEqual(['terms', 'pays']);
  });

  test('as done is back when it is about more', () => {
    expect(codes(openAt('2026-12-09', [mark({})]).open)).toEqual(['pays']);
    expect(codes(openAt('2026-12-09', [mark({})], 2).open)).toEqual(['pays']);
    expect(codes(openAt('2026-12-09', [mark({})], 4).open)).toEqual(['terms', 'pays']);
  });

  test('in one account stands in another; the last word counts; what is about nothing is not there', () => {
    expect(codes(openAt('2026-12-09', [mark({ account: 'Autumn' })]).open)).toEqual(['terms', 'pays']);
    const twice = [mark({ until: '2027-01-01' }), mark({ until: '2026-12-01' })];
    expect(codes(openAt('2026-12-09', twice).open)).toEqual(['terms', 'pays']);
    expect(openWorth([worth('terms', 40, { count: 0 })], [], '2026-12-09')).toEqual({ open: [], away: [] });
  });
});
