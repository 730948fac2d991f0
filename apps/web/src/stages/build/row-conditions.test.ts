import { expect, test } from 'vitest';
import { conditionsIn, readBounds, rowConditions } from './row-conditions.ts';

const none = Object.fromEntries(rowConditions.map((name) => [name, '']));
const read = (typed: Record<string, string>) => readBounds((name) => typed[name] ?? '');

test('conditions are read as they stand in the address, and back', () => {
  const typed = {
    bidFrom: '0.40',
    bidTo: '2',
    searchesTo: '1,300',
    positionTo: '2,5',
    label: 'spring',
    stage: 'ready',
    theme: '5',
  };
  const conditions = {
    ...none,
    bidFrom: '400000',
    bidTo: '2000000',
    searchesTo: '1300',
    positionTo: '2.5',
    label: 'spring',
    stage: 'ready',
    theme: '5',
  };
  expect(read(typed)).toEqual({ conditions });
  expect(conditionsIn(new URLSearchParams(conditions))).toEqual(conditions);
  expect(conditionsIn(new URLSearchParams())).toEqual(none);
});

test.each([
  [{ bidFrom: 'much' }, 'no amount'],
  [{ searchesFrom: 'few' }, 'no number of searches'],
  [{ bidFrom: '3', bidTo: '2' }, 'above the greatest'],
  [{ searchesFrom: '30', searchesTo: '4' }, 'above the greatest'],
  [{ positionFrom: '0.5' }, 'no position'],
  [{ positionTo: 'top' }, 'no position'],
  [{ positionFrom: '3', positionTo: '2' }, 'above the greatest'],
])('%j is refused', (typed, words) => expect(read(typed)).toEqual({ words: expect.stringContaining(words) }));

test('what an address says wrongly is left out', () =>
  expect(conditionsIn(new URLSearchParams({ bidFrom: 'x', stage: 'late' }))).toEqual(none));
