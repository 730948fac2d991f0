import { describe, expect, test } from 'vitest';
import { asDay, NotMetList, noneTold, PlanNames, type ReadFact, type ReportNames } from './index.ts';

function plan(): PlanNames {
  const names = new PlanNames();
  names.addGroup('Teapots', 'Cast iron', 'k12', 'shipped');
  // Renamed since: the outlet knows it by the name above.
  names.addGroup('Teapots', 'Iron', 'k12', 'today');
  names.addGroup('Teapots', 'Glass', 'k13', 'today');
  // Its old name is another one's now: what was shipped goes first.
  names.addGroup('Teapots', 'Cast iron', 'k14', 'today');
  names.addKeyword('k12', 'cast iron teapot', 'exact', 'k12:e');
  names.addKeyword('k12', 'cast iron teapot', 'phrase', 'k12:p');
  names.addKeyword('k13', 'glass teapot', 'broad', 'k13:b');
  names.addAd('k12', 'Cast iron teapots', 't5/a1', 'today');
  return names;
}
const meet = (names: ReportNames) => plan().meet(names);
const group = { campaign: 'Teapots', group: 'Cast iron' };

describe('rows of reports meet the plan', () => {
  test.each<[string, ReportNames, unknown]>([
    ['by the name that was shipped', group, { group: 'k12', row: null, ad: null }],
    [
      'whatever its case',
      { campaign: 'TEAPOTS', group: 'cast  iron' },
      { group: 'k12', row: null, ad: null },
    ],
    ['by its name of today', { campaign: 'Teapots', group: 'Glass' }, { group: 'k13', row: null, ad: null }],
    [
      'as the same ad group under both',
      { campaign: 'Teapots', group: 'Iron' },
      { group: 'k12', row: null, ad: null },
    ],
    [
      'by keyword and type',
      { ...group, keyword: 'Cast iron teapot', match: 'phrase' },
      { group: 'k12', row: 'k12:p', ad: null },
    ],
    [
      'by keyword alone where it has one type',
      { campaign: 'Teapots', group: 'Glass', keyword: 'glass teapot', match: null },
      { group: 'k13', row: 'k13:b', ad: null },
    ],
    [
      'by the words of an ad',
      { ...group, ad: 'Cast iron teapots' },
      { group: 'k12', row: null, ad: 't5/a1' },
    ],
    ['as a campaign', { campaign: 'teapots' }, { group: null, row: null, ad: null }],
    ['as the account', { device: 'phone' }, { group: null, row: null, ad: null }],
  ])('%s', (_, names, met) => {
    expect(meet(names)).toEqual({ ...(met as object), not: null });
  });

  test.each<[string, ReportNames, string, string | null]>([
    ['a campaign that the plan has not', { campaign: 'Cups' }, 'campaign', null],
    ['and what is in it', { campaign: 'Cups', group: 'Cast iron' }, 'campaign', null],
    ['an ad group', { campaign: 'Teapots', group: 'Steel' }, 'group', null],
    ['a keyword', { ...group, keyword: 'teapot', match: 'exact' }, 'keyword', 'k12'],
    [
      'a type that it is not in',
      { ...group, keyword: 'cast iron teapot', match: 'broad' },
      'match-type',
      'k12',
    ],
    ['one of two types', { ...group, keyword: 'cast iron teapot', match: null }, 'match-type', 'k12'],
    ['an ad', { ...group, ad: 'Tea for two' }, 'ad', 'k12'],
  ])('%s is not met, and what it lies in is', (_, names, not, group) => {
    expect(meet(names)).toEqual({ group, row: null, ad: null, not });
  });

  test('a keyword that has left its ad group since that was shipped is met where it is now, if that is one place', () => {
    const names = plan();
    names.addGroup('Teapots', 'Old', 'k99', 'shipped');
    names.addKeyword('t5', 'enamel teapot', 'exact', 'k20:e');
    const old = { campaign: 'Teapots', group: 'Old', keyword: 'Enamel teapot' };
    expect(names.meet({ ...old, match: 'exact' })).toEqual({
      group: 'k99',
      row: 'k20:e',
      ad: null,
      not: null,
    });
    expect(names.meet({ ...old, match: null }).row).toBe('k20:e');
    expect(names.meet({ ...old, match: 'broad' })).toMatchObject({ row: null, not: 'keyword' });
    // Of today's name nothing has left it: it never had this keyword.
    expect(names.meet({ ...old, group: 'Glass', match: 'exact' }).row).toBeNull();
    names.addKeyword('x1.t5', 'enamel teapot', 'exact', 'x1.k20:e');
    expect(names.meet({ ...old, match: 'exact' }).row).toBeNull();
  });

  test('an ad that is called as another of its ad group is not met: which of them is meant can’t be told', () => {
    const names = plan();
    names.addAd('k12', 'CAST iron teapots', 't5/a1', 'today');
    expect(names.meet({ ...group, ad: 'Cast iron teapots' }).ad).toBe('t5/a1');
    names.addAd('k12', 'Cast iron teapots', 't5/a1b', 'today');
    expect(names.meet({ ...group, ad: 'Cast iron teapots' })).toMatchObject({ ad: null, not: 'ad' });
    // As it was shipped one of them alone was called so.
    names.addAd('k12', 'Cast iron teapots', 't5/a1b', 'shipped');
    expect(names.meet({ ...group, ad: 'Cast iron teapots' }).ad).toBe('t5/a1b');
  });

  test('what is not met is listed by campaign, with what it cost, the dearest first', () => {
    const list = new NotMetList();
    const fact = (names: ReportNames, cost: number): ReadFact => ({
      line: 1,
      nth: 0,
      key: '',
      names,
      campaign: '',
      place: '',
      time: { from: asDay(1), to: asDay(1) },
      told: { ...noneTold, clicks: 2, cost },
    });
    list.add(fact({ campaign: 'Teapots', group: 'Steel' }, 100), 'group');
    list.add(fact({ campaign: 'Cups', group: 'Blue' }, 900), 'campaign');
    list.add(fact({ campaign: 'Teapots', group: 'Steel' }, 200), 'group');
    expect(list.list()).toEqual([
      { campaign: 'Cups', why: 'campaign', rows: 1, clicks: 2, cost: 900, samples: ['Blue'] },
      { campaign: 'Teapots', why: 'group', rows: 2, clicks: 4, cost: 300, samples: ['Steel'] },
    ]);
  });
});
