import { expect, test } from 'vitest';
import { DEMO_SIZE, demoKeywords, manyKeywords, seeded } from './index.ts';

test('the demo has as many keywords as it says, each once, the same each time', () => {
  const list = demoKeywords();
  expect(list.length).toBeGreaterThan(DEMO_SIZE);
  expect(new Set(list.map(({ text }) => text)).size).toBe(list.length);
  expect(demoKeywords()).toEqual(list);
});

test('longer is rarer, ready to buy is dearer', () => {
  const byText = new Map(demoKeywords().map((keyword) => [keyword.text, keyword]));
  const searches = (text: string) => byText.get(text)?.searches ?? Number.NaN;
  expect(searches('kayak')).toBeGreaterThan(searches('kayak hire'));
  expect(searches('kayak hire')).toBeGreaterThan(searches('inflatable kayak hire wrenport'));
  expect(byText.get('buy kayak')!.cpc).toBeGreaterThan(byText.get('what size kayak')!.cpc);
});

test('many keywords are distinct and follow their seed', () => {
  const list = manyKeywords(2_000, 5);
  expect(new Set(list.map(({ text }) => text)).size).toBe(2_000);
  expect(manyKeywords(2_000, 5)).toEqual(list);
  expect(manyKeywords(2_000, 6)).not.toEqual(list);
});

test('the generator of numbers is even enough', () => {
  const random = seeded(3);
  const mean = Array.from({ length: 10_000 }, random).reduce((sum, value) => sum + value, 0) / 10_000;
  expect(Math.abs(mean - 0.5)).toBeLessThan(0.02);
});
