import type { NegativeType } from '@sprig/core/match';
import { expect, test } from 'vitest';
import { grouped } from '../platform/grouped.ts';
import { Blocks } from './blocks.ts';
import { overlapTable, targetingOf } from './targeting.ts';

const negative = (id: number, norm: string, type: NegativeType) => ({ id, norm, type });
const blocks = new Blocks({
  groups: [
    { key: 't1', campaign: 'c1' },
    { key: 't2', campaign: 'c1' },
    { key: 't3', campaign: 'c2' },
  ],
  plan: [negative(1, 'jobs', 'broad')],
  listed: [
    { ...negative(1, 'free', 'phrase'), campaigns: null },
    { ...negative(2, 'film', 'broad'), campaigns: ['c2'] },
  ],
  placed: [
    { ...negative(1, 'cheap', 'broad'), place: 'c1' },
    { ...negative(2, 'hire', 'broad'), place: 't1' },
  ],
  fences: [{ key: 't2', texts: ['kayak', 'red kayak'], phrases: [0, 1] }],
});

test.each([
  [0, 'kayak jobs', '-jobs', 'plan'],
  [2, 'free kayak', '-"free"', 'list'],
  [2, 'kayak film', '-film', 'list'],
  [0, 'kayak film', undefined, undefined],
  [1, 'cheap kayak', '-cheap', 'campaign'],
  [2, 'cheap kayak', undefined, undefined],
  [0, 'kayak hire', '-hire', 'group'],
  [1, 'kayak hire', undefined, undefined],
  [1, 'kayak', '-[kayak]', 'fence'],
  [1, 'big red kayak', '-"red kayak"', 'fence'],
  [0, 'kayak', undefined, undefined],
  // The nearest one is told.
  [0, 'cheap hire jobs', '-hire', 'group'],
] as const)('group %i, “%s”: %s', (group, search, text, level) => {
  const block = blocks.blockOf(group, search);
  expect([block?.text, block?.level]).toEqual([text, level]);
});

test('campaigns overlap unless a place, a language or a time keeps them apart', () => {
  const all = { locations: [], languages: [], schedule: [] };
  const town = (name: string) => ({ ...all, locations: [{ name, level: 'town' as const }] });
  const overlaps = overlapTable(
    [
      all,
      town('Wrenport'),
      town('Heronsea'),
      { ...all, locations: [{ name: 'Eastmere', level: 'region' as const }] },
      { ...all, languages: ['English'] },
      { ...all, languages: ['Welsh'] },
      { ...all, schedule: [{ days: ['mon' as const], from: 0, to: 600 }] },
      { ...all, schedule: [{ days: ['mon' as const], from: 600, to: 900 }] },
    ].map(targetingOf),
  );
  expect(overlaps(0, 1)).toBe(true);
  expect(overlaps(1, 2)).toBe(false);
  expect(overlaps(1, 3)).toBe(true);
  expect(overlaps(4, 5)).toBe(false);
  expect(overlaps(0, 5)).toBe(true);
  expect(overlaps(6, 7)).toBe(false);
  expect(overlaps(0, 7)).toBe(true);
});

test('grouped keeps the order in which keys come', () =>
  expect([...grouped([3, 1, 4, 1, 5], (one) => one % 2)]).toEqual([
    [1, [3, 1, 1, 5]],
    [0, [4]],
  ]));
