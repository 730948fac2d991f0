import { describe, expect, test } from 'vitest';
import { type Outlet, type OwnCheck, outletProblems, plainOutlet } from '../outlets/index.ts';
import { toldValues } from '../sheets/index.ts';
import { OwnChecks } from './own-checks.ts';

const check = (more: Partial<OwnCheck>): OwnCheck => ({
  value: 'headline1',
  kind: null,
  is: 'with',
  text: '',
  severity: 'warning',
  words: 'Not like this.',
  ...more,
});
const objections = (checks: OwnCheck[], kind: 'ad' | 'campaign', ...rows: Record<string, string>[]) => {
  const outlet: Outlet = { ...plainOutlet, checks };
  const own = new OwnChecks(outlet);
  for (const row of rows)
    own.see(
      kind,
      toldValues(outlet)[kind].map((value) => row[value] ?? ''),
    );
  return own.list().map(({ count, first }) => [count, first]);
};

describe('checks of an outlet’s own', () => {
  test('a text that is there, whatever its case; one that is missing, but not from an empty cell', () => {
    const rows = [{ headline1: 'Best Canoes' }, { headline1: 'best kayaks' }, { headline1: '' }];
    expect(objections([check({ text: 'BEST' })], 'ad', ...rows)).toEqual([[2, 'Best Canoes']]);
    expect(objections([check({ is: 'without', text: 'canoe' })], 'ad', ...rows)).toEqual([
      [1, 'best kayaks'],
    ]);
  });

  test.each([
    ['aaaa', 0],
    ['aaaaa', 0],
    ['aaaaaa', 1],
  ])('%s is longer than five characters: %i', (headline1, count) => {
    expect(objections([check({ is: 'over', text: '5' })], 'ad', { headline1 })).toHaveLength(count);
  });

  test('an empty cell, of the kind of row that is meant', () => {
    const labels = check({ value: 'labels', is: 'empty', kind: 'campaign' });
    expect(objections([labels], 'campaign', { labels: '' }, { labels: 'x' })).toEqual([[1, '']]);
    expect(objections([labels], 'ad', { labels: '' })).toEqual([]);
  });

  test('one that looks at what no sheet tells, or for nothing, is no check', () => {
    const problems = (one: Partial<OwnCheck>) =>
      outletProblems({ ...plainOutlet, checks: [check({ text: 'x', ...one })] }).map(({ at }) => at);
    expect(problems({})).toEqual([]);
    expect(problems({ kind: 'campaign' })).toEqual(['checks.0.value']);
    expect(problems({ text: ' ' })).toEqual(['checks.0.text']);
    expect(problems({ is: 'over', text: 'many' })).toEqual(['checks.0.text']);
    expect(problems({ is: 'over', text: '30' })).toEqual([]);
  });
});
