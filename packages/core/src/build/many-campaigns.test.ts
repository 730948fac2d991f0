import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asMicros } from '../money/index.ts';
import { rewriteNames, settleCampaigns, shareBudget } from './index.ts';

type Body = { rotation: string; places: string[]; ends: string | null };
const brief: Body = { rotation: 'best', places: [], ends: null };
const even: Body = { ...brief, rotation: 'even' };
const campaign = (key: string, settings: number | null = null) => ({
  key,
  name: `Campaign ${key}`,
  settings,
});

describe('settings of many campaigns', () => {
  const numbers = () => {
    let next = 100;
    return () => next++;
  };

  test('that have the brief’s get settings of their own, which all of them share', () => {
    const settled = settleCampaigns(
      { sets: [], brief, campaigns: ['a', 'b', 'c'].map((key) => campaign(key)) },
      new Set(['a', 'c']),
      { rotation: 'even' },
      numbers(),
    );
    expect(settled).toEqual([{ id: 100, name: 'Settings', how: 'made', body: even, campaigns: ['a', 'c'] }]);
  });

  test('of one campaign are called by it, with a number where that is taken', () => {
    const sets = [{ id: 1, name: 'campaign a', body: { ...brief, places: ['Hull'] } }];
    const [made] = settleCampaigns(
      { sets, brief, campaigns: [campaign('a')] },
      new Set(['a']),
      { rotation: 'even' },
      numbers(),
    );
    expect(made?.name).toBe('Campaign a 2');
  });

  test('under a name are changed where they stand if nobody else has them, else others are made', () => {
    const sets = [{ id: 7, name: 'North', body: { ...brief, places: ['Milltown'] } }];
    const campaigns = [campaign('a', 7), campaign('b', 7)];
    const settle = (chosen: string[]) =>
      settleCampaigns({ sets, brief, campaigns }, new Set(chosen), { rotation: 'even' }, numbers());
    expect(settle(['a', 'b'])).toMatchObject([
      { id: 7, name: 'North', how: 'changed', campaigns: ['a', 'b'] },
    ]);
    expect(settle(['a', 'b'])[0]?.body).toEqual({ ...even, places: ['Milltown'] });
    expect(settle(['b'])).toMatchObject([{ id: 100, name: 'Campaign b', how: 'made', campaigns: ['b'] }]);
  });

  test('that somebody has already are given, the brief’s first; what is so already is left', () => {
    const sets = [{ id: 7, name: 'Even', body: even }];
    const campaigns = [campaign('a'), campaign('b', 7)];
    const settle = (chosen: string[], rotation: string) =>
      settleCampaigns({ sets, brief, campaigns }, new Set(chosen), { rotation }, numbers());
    expect(settle(['a'], 'even')).toMatchObject([{ id: 7, how: 'there', campaigns: ['a'] }]);
    expect(settle(['b'], 'best')).toMatchObject([{ id: null, how: 'there', campaigns: ['b'] }]);
    expect(settle(['a', 'b'], 'even')).toMatchObject([{ id: 7, campaigns: ['a'] }]);
    expect(settle(['b'], 'even')).toEqual([]);
  });

  test('can be emptied', () => {
    const sets = [{ id: 7, name: 'Till May', body: { ...brief, ends: '2027-05-31' } }];
    const settled = settleCampaigns(
      { sets, brief: even, campaigns: [campaign('a', 7)] },
      new Set(['a']),
      { ends: null },
      numbers(),
    );
    expect(settled).toMatchObject([{ id: 7, how: 'changed', body: { ends: null } }]);
  });

  test('never change those of a campaign that was not chosen, and are as wanted in those that were', () => {
    const bodies = fc.record({
      rotation: fc.constantFrom('best', 'even'),
      places: fc.subarray(['Hull', 'York']),
      ends: fc.constantFrom(null, '2027-05-31'),
    });
    fc.assert(
      fc.property(
        fc.array(bodies, { maxLength: 4 }),
        bodies,
        fc.array(fc.tuple(fc.nat(5), fc.boolean()), { minLength: 1, maxLength: 8 }),
        fc.record(
          { rotation: fc.constantFrom('best', 'even'), places: fc.subarray(['Hull']) },
          { requiredKeys: [] },
        ),
        (kept, own, having, values) => {
          const sets = kept.map((body, at) => ({ id: at + 1, name: `Set ${at + 1}`, body }));
          const campaigns = having.map(([set], at) =>
            campaign(String(at), set >= 1 && set <= sets.length ? set : null),
          );
          const chosen = new Set(having.flatMap(([, isChosen], at) => (isChosen ? [String(at)] : [])));
          const settled = settleCampaigns({ sets, brief: own, campaigns }, chosen, values, numbers());
          const after = new Map<number | null, Body>([
            [null, own],
            ...sets.map(({ id, body }) => [id, body] as const),
          ]);
          const given = new Map(campaigns.map(({ key, settings }) => [key, settings]));
          for (const { id, how, body, campaigns: keys } of settled) {
            if (how !== 'there') after.set(id, body);
            for (const key of keys) given.set(key, id);
          }
          for (const { key, settings } of campaigns) {
            const before = settings === null ? own : (sets.find(({ id }) => id === settings)?.body as Body);
            expect(after.get(given.get(key) ?? null)).toEqual(
              chosen.has(key) ? { ...before, ...values } : before,
            );
          }
        },
      ),
      { seed: 22 },
    );
  });
});

describe('names of many', () => {
  const groups = [
    { key: 'a', within: '1', name: 'Kettles' },
    { key: 'b', within: '1', name: 'Iron kettles' },
    { key: 'c', within: '2', name: 'Iron kettles' },
    { key: 'd', within: '2', name: 'Pots' },
  ];
  const all = () => true;

  test('are rewritten where they are chosen and change', () =>
    expect(
      rewriteNames(
        groups,
        (key) => key !== 'c',
        (name) => name.replace('Iron', 'Steel'),
      ),
    ).toEqual({
      changed: [{ key: 'b', before: 'Iron kettles', after: 'Steel kettles' }],
      refused: [],
    }));

  test('that would be the same as another within the same stay, whatever the case', () =>
    expect(rewriteNames(groups, all, (name) => name.replace('Iron kettles', 'KETTLES'))).toEqual({
      changed: [{ key: 'c', before: 'Iron kettles', after: 'KETTLES' }],
      refused: [{ key: 'b', before: 'Iron kettles', after: 'KETTLES', code: 'taken' }],
    }));

  test('may take the name of one that gets another, and of several alike the first becomes it', () => {
    const swapped = rewriteNames(groups, all, (name) =>
      name === 'Kettles' ? 'Iron kettles' : name === 'Iron kettles' ? 'Kettles' : name,
    );
    expect(swapped.refused).toEqual([]);
    expect(swapped.changed).toHaveLength(3);
    const alike = rewriteNames(groups, all, () => 'Same');
    expect(alike.changed.map(({ key }) => key)).toEqual(['a', 'c']);
    expect(alike.refused.map(({ key, code }) => [key, code])).toEqual([
      ['b', 'taken'],
      ['d', 'taken'],
    ]);
  });

  test('that can’t move keep others from their place', () => {
    // b stays Iron kettles, since Pots (x) is there; so a can't become it either.
    const names = [...groups.slice(0, 2), { key: 'x', within: '1', name: 'Pots' }];
    const { changed, refused } = rewriteNames(names, all, (name) =>
      name === 'Kettles' ? 'Iron kettles' : name === 'Iron kettles' ? 'Pots' : name,
    );
    expect(changed).toEqual([]);
    expect(refused.map(({ key }) => key).sort()).toEqual(['a', 'b']);
  });

  test.each([
    ['', 'empty'],
    ['  ', 'empty'],
    ['x'.repeat(501), 'too-long'],
  ])('that would be %j are refused', (after, code) =>
    expect(rewriteNames(groups.slice(0, 1), all, () => after).refused).toMatchObject([{ code }]),
  );
  test('of just 500 characters are kept', () =>
    expect(rewriteNames(groups.slice(0, 1), all, () => 'x'.repeat(500)).changed).toHaveLength(1));
});

describe('a total shared among budgets', () => {
  const penny = asMicros(10_000);
  const shared = (total: number, weights: number[]) => shareBudget(asMicros(total), weights, penny);

  test.each<[number, number[], number[] | null]>([
    [1_000_000, [2, 1], [670_000, 330_000]],
    [1_000_000, [0, 0, 0], [340_000, 330_000, 330_000]],
    [1_000_000, [1, 0], [990_000, 10_000]],
    [20_000, [5, 1], [10_000, 10_000]],
    [19_999, [5, 1], null],
    [1_000_000, [], null],
  ])('%i among %j is %j', (total, weights, parts) => expect(shared(total, weights)).toEqual(parts));

  test('is given whole, to each at least a unit, and to no heavier one less', () =>
    fc.assert(
      fc.property(
        fc.nat(5_000),
        fc.array(fc.nat(1_000), { minLength: 1, maxLength: 40 }),
        (units, weights) => {
          const parts = shared((units + weights.length) * penny, weights);
          expect(parts?.reduce((sum, part) => sum + part, 0)).toBe((units + weights.length) * penny);
          expect(Math.min(...(parts ?? []))).toBeGreaterThanOrEqual(penny);
          for (const [a, weight] of weights.entries())
            for (const [b, other] of weights.entries())
              if (weight > other) expect(parts?.[a]).toBeGreaterThanOrEqual(parts?.[b] ?? 0);
        },
      ),
      { seed: 22 },
    ));
});
