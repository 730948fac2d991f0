import { fennelwick, harrowlight, quillmere } from '@sprig/core/outlets';
import { describe, expect, test } from 'vitest';
import type { AccountRow } from '../engine/index.ts';
import { advertiserOf, type Cell, type Demand, reportText, Traffic } from './index.ts';

const { words } = fennelwick;
const row = (kind: AccountRow['kind'], said: AccountRow['said']): AccountRow => ({ kind, said });
const at = (campaign: string, group: string) => ({ campaign, group });
const keyword = (
  place: object,
  text: string,
  type: 'exact' | 'phrase' | 'broad',
  bid = '0.90',
  status = words.enabled,
) => row('keyword', { ...place, keyword: text, 'match-type': words.matchTypes[type], bid, status });
const ad = (place: object, headline1: string, page: string) =>
  row('ad', { ...place, headline1, 'final-url': page, status: words.enabled });

const pots = at('Pots', 'Iron pots');
const cups = at('Cups', 'Tea cups');
const account: AccountRow[] = [
  row('campaign', { campaign: 'Pots', 'daily-budget': '900' }),
  row('campaign', { campaign: 'Cups', 'daily-budget': '30' }),
  row('campaign', { campaign: 'Old', status: words.paused }),
  row('group', pots),
  row('group', cups),
  row('group', at('Cups', 'Without an ad')),
  row('group', at('Old', 'Gone')),
  keyword(pots, 'iron pot', 'phrase'),
  keyword(pots, 'iron pot', 'exact', '1.10'),
  keyword(pots, 'cast pot', 'exact', '0.90', words.paused),
  keyword(cups, 'tea cup', 'phrase', '1.20'),
  keyword(at('Cups', 'Without an ad'), 'soup bowl', 'exact'),
  keyword(at('Old', 'Gone'), 'milk jug', 'exact'),
  ad(pots, 'Iron pots', 'https://leaf.example/pots'),
  ad(pots, 'Heavy pots', 'https://leaf.example/pots'),
  ad(cups, 'Tea cups', 'https://leaf.example/cups'),
  row('negative', { campaign: 'Pots', keyword: 'repair', 'match-type': words.matchTypes.broad }),
];
const advertiser = advertiserOf(account, fennelwick, 2);
const demands: Demand[] = ['iron pot', 'tea cup', 'soup bowl', 'milk jug', 'cast pot', 'garden hose'].map(
  (text) => ({
    text,
    searches: 30_000,
    cpc: 600_000,
  }),
);
const DAYS = 42;
const run = (seed: number, days = DAYS) => {
  const traffic = new Traffic(advertiser, demands, seed, false);
  return { traffic, days: Array.from({ length: days }, (_, nth) => traffic.day(nth, nth % 7, 10)) };
};
const { traffic, days } = run(5);
const { causes } = traffic;
const sum = (cells: readonly Cell[], of: (cell: Cell) => number) =>
  cells.reduce((all, cell) => all + of(cell), 0);
const campaignOf = ({ row: at_ }: Cell) =>
  advertiser.campaigns[advertiser.groups[advertiser.rows[at_]?.group ?? -1]?.campaign ?? -1]?.name;
const pageOf = ({ row: at_, ad: n }: Cell) =>
  advertiser.groups[advertiser.rows[at_]?.group ?? -1]?.ads[n]?.page;
const sold = (cell: Cell) => cell.delays.length;

describe('an account is read as its engine understands it', () => {
  test('without what is paused', () => {
    expect(advertiser.campaigns).toEqual([
      { name: 'Pots', budget: 900_000_000 },
      { name: 'Cups', budget: 30_000_000 },
    ]);
    expect(advertiser.rows.map(({ text, type, bid }) => [text, type, bid])).toEqual([
      ['iron pot', 'phrase', 900_000],
      ['iron pot', 'exact', 1_100_000],
      ['tea cup', 'phrase', 1_200_000],
      ['soup bowl', 'exact', 900_000],
    ]);
  });

  test('by notation and the bid of the ad group, and by the setting of the campaign', () => {
    const on = harrowlight.words.enabled;
    const noted = advertiserOf(
      [
        row('campaign', { campaign: 'A', 'daily-budget': '12,50', status: on }),
        row('group', { ...at('A', 'g'), bid: '0,75', status: on }),
        row('keyword', { ...at('A', 'g'), 'keyword-notation': '[iron pot]', status: on }),
        row('negative', { ...at('A', 'g'), 'keyword-notation': '-"free pots"', status: on }),
      ],
      harrowlight,
      2,
    );
    expect(noted.rows).toEqual([{ text: 'iron pot', type: 'exact', group: 0, bid: 750_000 }]);
    expect(noted.campaigns[0]?.budget).toBe(12_500_000);
    expect(noted.negatives).toEqual([{ text: 'free pots', type: 'phrase', campaign: 0, group: 0 }]);
    const wide = advertiserOf(
      [
        row('campaign', { campaign: 'A', 'match-setting': quillmere.words.matchSettings.wide }),
        row('group', at('A', 'g')),
        row('keyword', { ...at('A', 'g'), keyword: 'iron pot', 'bid-search': '75' }),
      ],
      quillmere,
      2,
    );
    expect(wide.rows).toEqual([{ text: 'iron pot', type: 'broad', group: 0, bid: 750_000 }]);
  });
});

describe('made-up traffic', () => {
  test('is the same for the same seed, whatever days are asked, and another for another', () => {
    expect(run(5, 3).days).toEqual(days.slice(0, 3));
    expect(new Traffic(advertiser, demands, 5, false).day(20, 20 % 7, 10)).toEqual(days[20]);
    expect(run(6, 3).days).not.toEqual(days.slice(0, 3));
  });

  test('comes to what is shown only: not to what is paused, without an ad, or blocked', () => {
    const terms = new Set(days.flat().map(({ term }) => term));
    expect([...terms].some((term) => term.includes('iron pot'))).toBe(true);
    expect([...terms].filter((term) => /bowl|jug|hose|cast/.test(term))).toEqual([]);
    const ofPots = days.flat().filter((cell) => campaignOf(cell) === 'Pots');
    expect(ofPots.filter(({ term }) => term.includes('repair'))).toEqual([]);
    // The search that is the keyword goes to its exact row, all others to the phrase.
    const rows = (term: string) =>
      new Set(ofPots.filter((cell) => cell.term === term).map((cell) => cell.row));
    expect([...rows('iron pot')]).toEqual([1]);
    for (const term of terms) if (/iron pot ./.test(term)) expect([term, ...rows(term)]).toEqual([term, 0]);
  });

  test('holds together: no more clicks than impressions, no more sold than clicked, nothing spent without a click', () => {
    for (const cell of days.flat()) {
      expect(cell.clicks).toBeLessThanOrEqual(cell.impressions);
      expect(cell.delays.length).toBeLessThanOrEqual(cell.clicks);
      expect(cell.cost > 0).toBe(cell.clicks > 0);
      expect(cell.impressions + cell.lostBudget + cell.lostRank).toBe(cell.eligible);
      expect(cell.position).toBeGreaterThanOrEqual(1);
    }
  });

  test('a rival that arrives can be seen in its campaign, and not in the other', () => {
    const { rival } = causes;
    const mean = (name: string, from: number, to: number) => {
      const cells = days
        .slice(from, to)
        .flat()
        .filter((cell) => campaignOf(cell) === name);
      return sum(cells, (one) => one.position * one.impressions) / sum(cells, (one) => one.impressions);
    };
    const from = rival?.from ?? 0;
    for (const name of ['Pots', 'Cups']) {
      const [before, after] = [mean(name, 0, from), mean(name, from, DAYS)];
      if (name === rival?.campaign) expect(after).toBeGreaterThan(before + 0.4);
      else expect(Math.abs(after - before)).toBeLessThan(0.1);
    }
  });

  test('a page that breaks sells nothing while it is broken', () => {
    const { page } = causes;
    const cells = (isIn: (nth: number) => boolean) =>
      days.flatMap((day, nth) => (isIn(nth) ? day.filter((cell) => pageOf(cell) === page?.address) : []));
    const broken = cells((nth) => nth >= (page?.from ?? 0) && nth <= (page?.to ?? 0));
    expect(sum(broken, (one) => one.clicks)).toBeGreaterThan(100);
    expect(sum(broken, sold)).toBe(0);
    expect(
      sum(
        cells((nth) => nth < (page?.from ?? 0)),
        sold,
      ),
    ).toBeGreaterThan(5);
  });

  test('words that only cost, a word that sells, and a better ad', () => {
    const all = days.flat();
    const having = (word: string) => all.filter(({ term }) => term !== 'iron pot' && term.includes(word));
    const costing = causes.onlyCost.flatMap(having);
    expect(sum(costing, (one) => one.cost)).toBeGreaterThan(0);
    expect(sum(costing, sold)).toBe(0);
    const ctr = (headline: string) => {
      const cells = all.filter(
        (one) => advertiser.groups[0]?.ads[one.ad]?.headline === headline && campaignOf(one) === 'Pots',
      );
      return sum(cells, (one) => one.clicks) / sum(cells, (one) => one.impressions);
    };
    const other = causes.ad?.headline === 'Iron pots' ? 'Heavy pots' : 'Iron pots';
    expect(ctr(causes.ad?.headline ?? '') / ctr(other)).toBeGreaterThan(1.15);
    const seeds = Array.from({ length: 12 }, (_, seed) => run(seed, 30));
    const rates = seeds.map((one) => {
      const { word } = one.traffic.causes.worthOwn;
      const cells = one.days.flat().filter(({ term }) => term.includes(word));
      return [sum(cells, sold), sum(cells, (cell) => cell.clicks)] as const;
    });
    const [bought, clicked] = [0, 1].map((n) => rates.reduce((total, pair) => total + (pair[n] ?? 0), 0));
    const usual = sum(all, sold) / sum(all, (one) => one.clicks);
    expect((bought ?? 0) / (clicked ?? 1)).toBeGreaterThan(2 * usual);
  });

  test('a budget that runs out is not overspent by much, and what it missed is told', () => {
    for (const day of days) {
      const cells = day.filter((cell) => campaignOf(cell) === 'Cups');
      expect(sum(cells, (one) => one.cost)).toBeLessThan(30_000_000 * 1.25);
    }
    const all = days.flat().filter((cell) => campaignOf(cell) === 'Cups');
    expect(sum(all, (one) => one.cost) / DAYS).toBeLessThan(31_000_000);
    expect(sum(all, (one) => one.lostBudget)).toBeGreaterThan(1_000);
    // What is still shown sells as it would.
    const runs = Array.from({ length: 8 }, (_, seed) => run(seed, 12).days.flat());
    const rate = (name: string) => {
      const cells = runs.flat().filter((cell) => campaignOf(cell) === name);
      return sum(cells, sold) / sum(cells, (one) => one.clicks);
    };
    expect(rate('Cups') / rate('Pots')).toBeGreaterThan(0.6);
    expect(rate('Cups') / rate('Pots')).toBeLessThan(1.6);
  });
});

describe('the reports of an engine', () => {
  const told = days.slice(0, 10).map((cells, nth) => ({
    advertiser,
    day: { day: `2026-11-${String(nth + 1).padStart(2, '0')}`, cells },
  }));
  const lines = (text: string) => text.trimEnd().split(/\r?\n/);

  test('are in its own columns, and add up to what happened', () => {
    const [head = '', ...rows] = lines(reportText('keywords', told, '2026-11-10', fennelwick));
    const columns = head.split(',');
    expect(columns).toContain('Taps');
    expect(columns).not.toContain('Looked for');
    const clicks = rows.reduce((all, one) => all + Number(one.split(',')[columns.indexOf('Taps')]), 0);
    expect(clicks).toBe(
      sum(
        told.flatMap(({ day }) => day.cells),
        (one) => one.clicks,
      ),
    );
    expect(new Set(rows.map((one) => one.split(',').slice(0, 5).join())).size).toBe(rows.length);
  });

  test('of terms leave out what was hardly seen', () => {
    const clicksIn = (kind: 'terms' | 'keywords') => {
      const [head = '', ...rows] = lines(reportText(kind, told, '2026-11-10', fennelwick));
      const column = head.split(',').indexOf('Seen');
      return rows.reduce((all, one) => all + Number(one.split(',')[column]), 0);
    };
    expect(clicksIn('terms')).toBeLessThanOrEqual(clicksIn('keywords'));
  });

  test('tell conversions that came since', () => {
    const outcomes = (lastDay: string) => {
      const [head = '', ...rows] = lines(reportText('campaigns', told, lastDay, fennelwick));
      const column = head.split(',').indexOf('Outcomes');
      return rows.reduce((all, one) => all + Number(one.split(',')[column]), 0);
    };
    expect(outcomes('2026-11-30')).toBeGreaterThan(outcomes('2026-11-10'));
  });

  test('have decimal commas, days with points and a row of totals on top, where an engine writes so', () => {
    const [head = '', totals = '', first = ''] = lines(
      reportText('campaigns', told, '2026-11-10', harrowlight),
    );
    const columns = head.split(';');
    expect(columns.slice(0, 3)).toEqual(['On', 'Drive', 'Views']);
    expect(totals.split(';').slice(0, 2)).toEqual(['', 'Total']);
    expect(first.split(';')[0]).toBe('01.11.2026');
    expect(totals.split(';')[columns.indexOf('Outlay')]).toMatch(/^\d+,\d\d$/);
  });
});
