import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { bringReports } from '../../testing/reports.ts';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const M = 1_000_000;
const HEAD = 'Day,Campaign,Ad group,Keyword,Match type,Search term,Impressions,Clicks,Cost,Conversions\n';

/** A plan with a theme of teapots, and what was searched for there. */
async function teas() {
  const plan = await planOf(server, 'Teas');
  await takeIn(server, plan, 'teapot\t900\t0.60\niron teapot\t400\t0.30\n');
  await server.call(api.makeThemes, {
    params: { plan },
    body: { parent: null, themes: [api.newThemeOf('Teapots', { has: [['teapot']], not: [] })] },
  });
  await built(server, plan);
  const heads = await server.call(api.readHeads, { params: { plan } });
  const [group = '', campaign = ''] = [heads.names[0], heads.campaignNames[0]];
  const row = (term: string, clicks: number, cost: number, sold: number, keyword = 'teapot', at = group) =>
    `2026-11-01,${campaign},${at},${keyword},Phrase,${term},${clicks * 10},${clicks},${cost}.00,${sold}\n`;
  return { plan, group, campaign, key: heads.keys[0] ?? '', row };
}
const bring = (plan: number, text: string) => bringReports(server, plan, { text });
const terms = (plan: number, body: { list?: api.TermList; like?: string } = {}) =>
  server.call(api.readTerms, { params: { plan }, body });
const rows = async (plan: number, list: api.TermList = 'open') => {
  const { order } = await terms(plan, { list });
  return (await server.call(api.readTermRows, { params: { plan }, body: { rows: order } })).rows;
};
const judge = (plan: number, words: string[], judgement: api.TermJudgement) =>
  server.call(api.judgeTerms, { params: { plan }, body: { terms: words, judgement } });

async function searched() {
  const { plan, row, key, group } = await teas();
  await bring(
    plan,
    HEAD +
      row('free teapot', 20, 30, 0) +
      row('teapot free delivery', 5, 9, 0) +
      row('Red  Teapot', 10, 12, 3) +
      row('red teapot', 2, 3, 1, 'iron teapot') +
      row('iron teapot', 4, 6, 1) +
      row('[odd] {teapot}', 1, 1, 0, 'teapot', 'Somewhere'),
  );
  return { plan, key, group };
}

test('look-alikes stand together, the dearest first; before them what the last report tells of first', async () => {
  const { plan, row } = await teas();
  await bring(
    plan,
    HEAD +
      row('blue teapot', 10, 20, 0) +
      row('teapots for sale', 9, 18, 0) +
      row('green teapot', 5, 15, 0) +
      row('teapot sale', 4, 8, 0) +
      row('sale teapot', 1, 2, 0),
  );
  const inOrder = async () => {
    const { alike, fresh } = await terms(plan);
    return { terms: (await rows(plan)).map(({ term, isFresh }, at) => [term, alike[at], isFresh]), fresh };
  };
  expect(await inOrder()).toEqual({
    terms: [
      ['teapots for sale', 2, false],
      ['teapot sale', -1, false],
      ['sale teapot', -1, false],
      ['blue teapot', 0, false],
      ['green teapot', 0, false],
    ],
    fresh: 0,
  });
  const later = row('blue teapot', 1, 2, 0) + row('mini teapot', 1, 1, 0);
  await bring(plan, HEAD + later.replaceAll('2026-11-01', '2026-11-02'));
  const { terms: now, fresh } = await inOrder();
  expect(fresh).toBe(1);
  expect(now.slice(0, 2)).toEqual([
    ['mini teapot', 0, true],
    ['teapots for sale', 2, false],
  ]);
});

describe('search terms', () => {
  test('are listed by what they cost, with what answered them; those that are exact keywords stand apart', async () => {
    const { plan, group, key } = await searched();
    const { lists, onlyCosting, ...head } = await terms(plan);
    expect(head).toMatchObject({ why: null, grain: 'term+keyword/day' });
    expect(lists).toEqual([
      { list: 'open', terms: 4, cost: 55 * M },
      { list: 'kept', terms: 1, cost: 6 * M },
      { list: 'judged', terms: 0, cost: 0 },
    ]);
    const open = await rows(plan);
    expect(open.map(({ term, cost }) => [term, cost])).toEqual([
      ['free teapot', 30 * M],
      ['Red Teapot', 15 * M],
      ['teapot free delivery', 9 * M],
      ['[odd] {teapot}', M],
    ]);
    expect(open[1]).toMatchObject({
      clicks: 12,
      conversions: 4,
      by: { keyword: 'teapot', type: 'phrase', group, key, others: 1 },
      judged: null,
    });
    expect(onlyCosting[0]).toEqual({
      run: 'free',
      terms: 2,
      cost: 39 * M,
      clicks: 25,
      dearest: 'free teapot',
    });
    expect(onlyCosting.map(({ run }) => run)).not.toContain('teapot');
    expect((await terms(plan, { like: 'FREE' })).order).toHaveLength(2);
  });

  test('a block says what else it keeps out, goes in as one change, and the term does not come back', async () => {
    const { plan, key } = await searched();
    const effect = await server.call(api.previewBlock, {
      params: { plan },
      body: { text: 'free', type: 'phrase' },
    });
    expect(effect).toEqual({
      keywords: { count: 0, shown: [] },
      terms: {
        count: 2,
        clicks: 25,
        cost: 39 * M,
        conversions: 0,
        shown: ['free teapot', 'teapot free delivery'],
      },
    });
    const wide = await server.call(api.previewBlock, {
      params: { plan },
      body: { text: 'iron', type: 'broad' },
    });
    expect(wide.keywords).toEqual({ count: 1, shown: ['iron teapot'] });
    await judge(plan, ['free teapot'], { kind: 'block', type: 'phrase', where: 'plan', text: 'free' });
    const { negatives } = await server.call(api.listNegatives, { params: { plan } });
    expect(negatives).toMatchObject([{ text: 'free', type: 'phrase', reason: 'block' }]);
    const [judged] = await rows(plan, 'judged');
    expect(judged).toMatchObject({
      term: 'free teapot',
      judged: { judgement: { kind: 'block', text: 'free' } },
    });
    await server.call(api.undoChange, { params: { plan }, body: { force: false } });
    expect((await server.call(api.listNegatives, { params: { plan } })).negatives).toEqual([]);
    expect(await rows(plan, 'judged')).toEqual([]);

    await judge(plan, ['free teapot'], { kind: 'block', type: 'exact', where: 'group' });
    const placed = await server.call(api.listPlaced, { params: { plan }, query: { place: key } });
    expect(placed.negatives).toMatchObject([{ text: 'free teapot', type: 'exact' }]);
  });

  test('become keywords: in an ad group of their own, fenced off from the one before, or in that', async () => {
    const { plan, key } = await searched();
    await judge(plan, ['red teapot'], { kind: 'own' });
    await built(server, plan);
    const { keys, keywords } = await server.call(api.readHeads, { params: { plan } });
    const own = keys[keywords.indexOf('red teapot')];
    expect(own).toBeDefined();
    expect(own).not.toBe(key);
    // No fences are built in this plan: a negative keeps it out of the ad group that answered it.
    const placed = await server.call(api.listPlaced, { params: { plan }, query: { place: key } });
    expect(placed.negatives).toMatchObject([{ text: 'red teapot', type: 'exact' }]);
    const { sources } = await server.call(api.listSources, { params: { plan } });
    expect(sources.map(({ name }) => name)).toContain('Search terms');
    expect((await rows(plan, 'judged')).map(({ term }) => term)).toEqual(['Red Teapot']);

    await judge(plan, ['teapot free delivery'], { kind: 'into' });
    await built(server, plan);
    const after = await server.call(api.readGroup, { params: { plan, group: key } });
    expect(after.rows.map(({ text }) => text)).toContain('teapot free delivery');
    const { changes } = await server.call(api.planHistory, { params: { plan } });
    expect(changes[0]?.label).toBe('Take 1 search term into their ad groups');
  });

  test('that can’t be keywords, or are of no ad group, are left out and told; others are left', async () => {
    const { plan } = await searched();
    expect(
      await judge(plan, ['[odd] {teapot}', 'free teapot', 'never seen'], { kind: 'into' }),
    ).toMatchObject({
      judged: 1,
      refused: ['[odd] {teapot}', 'never seen'],
    });
    await expect(judge(plan, ['never seen'], { kind: 'leave' })).rejects.toThrow(/None of these/);
    await judge(plan, ['red teapot'], { kind: 'leave' });
    const { lists } = await terms(plan);
    expect(lists.find(({ list }) => list === 'judged')?.terms).toBe(2);
    const other = await planOf(server);
    expect((await terms(other)).why).toEqual({ none: 'reports' });
    await expect(judge(other, ['red teapot'], { kind: 'leave' })).rejects.toThrow(/No report/);
  });
});
