import { matchTypes } from '@sprig/core/match';
import { expect, test } from 'vitest';
import { optionsOf, readSettings, STEPS } from './variant-settings.ts';

const settings = (address: string) => readSettings(new URLSearchParams(address));

test('without anything said: phrase and exact, in notation, without bids', () => {
  expect(settings('')).toEqual({
    types: ['phrase', 'exact'],
    marks: 'every',
    chosen: [],
    order: 'keyword',
    form: 'notation',
    base: null,
    steps: STEPS,
  });
  expect(optionsOf(settings('bid=500000')).bids).toBeNull();
});

test('what an address says is what is made', () => {
  const read = settings(
    'types=exact,broad&marks=chosen&words=sea%0Akayak%0A&order=type&form=columns&bid=500000&step-exact=20000',
  );
  // In the order of match types, whatever the address says first.
  expect(read.types).toEqual(['broad', 'exact']);
  expect(read.chosen).toEqual(['sea', 'kayak']);
  expect(optionsOf(read)).toMatchObject({
    order: 'type',
    marks: 'chosen',
    bids: { base: 500_000, steps: { ...STEPS, exact: 20_000 }, increment: 10_000 },
  });
});

test.each(['bid=-5', 'bid=NaN', 'bid=Infinity', 'bid=1e15', 'bid=0.5', 'bid=', 'bid=ten'])(
  '%s is no bid',
  (address) => expect(settings(`form=columns&${address}`).base).toBeNull(),
);

test.each(['-1', '1.5', 'NaN', '100001', 'much'])('a step of %s is the usual one', (step) => {
  for (const type of matchTypes) expect(settings(`step-${type}=${step}`).steps[type]).toBe(STEPS[type]);
});

test('words that mean nothing here are left out', () => {
  expect(settings('types=exact,<script>,PHRASE&marks=some&order=up&form=sheet')).toMatchObject({
    types: ['exact'],
    marks: 'every',
    order: 'keyword',
    form: 'notation',
  });
  expect(settings('types=').types).toEqual([]);
});
