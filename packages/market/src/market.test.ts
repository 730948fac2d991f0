import { seeded } from '@sprig/core/text';
import { describe, expect, test } from 'vitest';
import {
  clientSite,
  DEMO_SIZE,
  demoKeywords,
  demoPool,
  figuresOf,
  manyKeywords,
  pageHtml,
  standInMarket,
  standInPlace,
} from './index.ts';

const OCTOBER = 9;
const figures = (text: string) => figuresOf(text, OCTOBER);

describe('figures behave like real ones', () => {
  test('every search has its figures, the same each time', () => {
    expect(figures('kayak hire')).toEqual(figures('kayak hire'));
    expect(figures('kayak hire')).not.toEqual(figures('canoe hire'));
    expect(figures('kayak hire').months).toHaveLength(12);
  });

  test('longer is rarer', () => {
    const chain = ['kayak', 'kayak hire', 'inflatable kayak hire', 'inflatable kayak hire wrenport'];
    const searches = chain.map((text) => figures(text).searches);
    expect(searches).toEqual(searches.toSorted((a, b) => b - a));
    expect(new Set(searches).size).toBe(searches.length);
  });

  test('ready to buy is dearer than early', () => {
    for (const good of ['kayak', 'canoe', 'paddle board', 'dry bag'])
      expect(figures(`buy ${good}`).cpc).toBeGreaterThan(2 * figures(`what size ${good}`).cpc);
  });

  test('another order or number of the same words is close, not equal', () => {
    for (const [usual, other] of [
      ['kayak hire', 'hire kayak'],
      ['inflatable kayak', 'inflatable kayaks'],
      ['canoe lessons', 'lessons canoe'],
    ] as const) {
      const [a, b] = [figures(usual), figures(other)];
      expect(b.searches).not.toBe(a.searches);
      expect(b.searches / a.searches).toBeGreaterThan(0.1);
      expect(b.searches / a.searches).toBeLessThan(1);
      expect(Math.abs(b.cpc - a.cpc) / a.cpc).toBeLessThan(0.12);
    }
  });

  test('unknown words are near zero', () => {
    expect(figures('kayak').searches).toBeGreaterThan(10_000);
    expect(figures('zorbled kayak').searches).toBeLessThan(10);
    expect(figures('gearbox').searches).toBeLessThan(40);
  });

  test('summer goods are searched in summer, and the months add up to the mean', () => {
    const { months, searches } = figures('paddle board hire');
    // November to October: July is the ninth.
    expect(months[8]).toBeGreaterThan(2 * (months[1] ?? 0));
    const mean = months.reduce((sum, month) => sum + month, 0) / 12;
    expect(mean / searches).toBeGreaterThan(0.9);
    expect(mean / searches).toBeLessThan(1.1);
  });

  test('a better position costs more and brings more', async () => {
    const list = await standInMarket(OCTOBER).positions('kayak hire');
    for (let at = 1; at < list.length; at++) {
      expect(list[at]!.bid).toBeLessThan(list[at - 1]!.bid);
      expect(list[at]!.clicks).toBeLessThan(list[at - 1]!.clicks);
      expect(list[at]!.share).toBeLessThan(list[at - 1]!.share);
    }
  });

  test('competition and clicks stay within what they can be', () => {
    for (const { text } of demoKeywords()) {
      const { competition, ctr, impressions, searches, cpc } = figures(text);
      expect(competition).toBeGreaterThan(0);
      expect(competition).toBeLessThan(100);
      expect(ctr).toBeLessThan(10_000);
      expect(impressions).toBeLessThanOrEqual(searches);
      expect(cpc % 10_000).toBe(0);
    }
  });
});

describe('ideas', () => {
  const market = standInMarket(OCTOBER);

  test('related searches hold the seed first or near it, each once, most searched first', async () => {
    const list = await market.related(['kayak hire'], 300);
    expect(list).toContain('kayak hire');
    expect(list).toContain('kayak hire wrenport');
    expect(list).toContain('hire kayak');
    expect(list).toContain('inflatable kayak');
    expect(new Set(list).size).toBe(list.length);
    const searches = list.map((text) => figures(text).searches);
    expect(searches).toEqual(searches.toSorted((a, b) => b - a));
  });

  test('a seed from outside the trade still gives searches around it, nearly unheard of', async () => {
    const list = await market.related(['zither strings'], 50);
    expect(list.length).toBeGreaterThan(20);
    expect(list.every((text) => figures(text).searches < 10 || text.includes('kayak'))).toBe(true);
  });

  test('completions begin with what was typed', async () => {
    const list = await market.completions('Inflatable k', 10);
    expect(list.length).toBe(10);
    expect(list.every((text) => text.startsWith('inflatable k'))).toBe(true);
    expect(await market.completions('', 3)).toHaveLength(3);
  });

  test('a page of a stand-in site is read; no other address is', async () => {
    const page = await market.readPage('https://saltmarshpaddle.example/hire');
    expect(page?.seeds.slice(0, 4)).toContain('kayak hire');
    expect(await market.readPage('/stand-in/rival/paddle-boards')).toMatchObject({ title: 'Paddle boards' });
    expect(await market.readPage('https://shop.example/hire')).toBeNull();
    expect(await market.readPage('https://saltmarshpaddle.example/none')).toBeNull();
    expect(standInPlace('javascript:alert(1)')).toBeNull();
    for (const path of Object.keys(clientSite.pages)) expect(pageHtml(clientSite, path)).toContain('<h1>');
  });
});

test('the demo has as many keywords as it says, each once, the same each time', () => {
  const list = demoPool();
  expect(list.length).toBe(DEMO_SIZE);
  expect(new Set(list.map(({ text }) => text)).size).toBe(list.length);
  expect(demoPool()).toEqual(list);
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
