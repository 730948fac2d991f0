import * as api from '@sprig/contracts';
import { emptyRecipe, type Recipe } from '@sprig/core/mix';
import { plainOutlet } from '@sprig/core/outlets';
import { patternOf } from '@sprig/core/write';
import { bringReports } from './reports.ts';
import { shipping } from './shipping.ts';
import { built, finished, planOf, poolOf, type TestServer, takeIn, upload } from './start-test-server.ts';

const LIST = `cast iron teapot\t900\t0.60
teapot\t800\t0.40
tea pots\t300\t0.30
[green tea]\t700\t0.50
"black tea"\t600
white tea\t500
green tea wrenport\t90
-free
[open`;

const recipe: Recipe = {
  ...emptyRecipe('Teas by place'),
  lists: [
    { id: 1, kind: 'own', name: 'Teas', text: 'oolong\nmate', takes: [] },
    { id: 2, kind: 'own', name: 'Places', text: 'wrenport\nheronsea', takes: [] },
  ],
  patterns: [
    {
      id: 1,
      slots: [
        { kind: 'list', list: 1, optional: false },
        { kind: 'list', list: 2, optional: true },
      ],
      flip: false,
    },
  ],
};

export type FullPlan = {
  plan: number;
  group: string;
  campaign: string;
  source: number;
  recipe: number;
  set: string;
  outlet: string;
  job: string;
};

/** A plan with something of everything that a plan can have, made as people make it. */
export async function fullPlan(server: TestServer, name = 'Teas'): Promise<FullPlan> {
  const { choose, check, ship } = shipping(() => server);
  const plan = await planOf(server, name);
  const params = { plan };
  await takeIn(server, plan, LIST);
  await takeIn(server, plan, 'teapot\t700\nrooibos\t50\n');
  await brief(server, plan, {
    client: 'Leaf by Leaf',
    places: [['Wrenport', 'wren port'], ['Heronsea']],
    rivals: ['Kettle & Cup'],
    locations: [{ name: 'Eastmere', level: 'region' }],
    languages: ['English'],
  });
  await server.call(api.dismissIdeas, { params, body: { texts: ['teapot gift'], dismissed: true } });
  const made = await poolAndSort(server, plan);
  await built(server, plan);
  const outlet = `form-${plan}`;
  await server.call(api.keepOutlet, {
    params: { plan, outlet },
    body: { outlet: { ...structuredClone(plainOutlet), key: outlet, name: `Form ${plan}` }, isNew: true },
  });
  await choose(plan, outlet);
  await choose(plan, 'fennelwick', true, ['consent']);
  const { group, campaign } = await byHand(server, plan);
  await ads(server, plan);
  const view = await check(plan);
  const finding = view.findings.find(({ severity, outlet: at }) => severity === 'warning' && at !== null);
  const blocker = view.findings.find(({ severity }) => severity === 'blocker');
  if (blocker) throw new Error(`In the way: ${JSON.stringify(blocker)}`);
  if (!finding) throw new Error('There is no finding to accept.');
  const { rule, field, facts, outlet: at } = finding;
  await server.call(api.acceptFinding, {
    params,
    body: { rule, field, outlet: at, facts, reason: 'It is to be so.' },
  });
  await check(plan);
  const { sheetSet: set } = await ship(plan, 'fennelwick');
  const { job } = await server.call(api.handIn, { params: { plan, set } });
  await finished(server, plan, job);
  const { job: running } = await server.call(api.runAccount, {
    params: { plan, outlet: 'fennelwick' },
    body: { days: 2 },
  });
  await finished(server, plan, running);
  const { job: asked } = await server.call(api.checkAddresses, { params });
  await finished(server, plan, asked);
  const sheet = 'Campaign,Ad group,Keyword,Match type\nTeas,teapot,teapots for two,Exact\n';
  const files = [{ upload: await upload(server, plan, sheet), name: 'keywords.csv' }];
  const { job: read } = await server.call(api.startReadBack, { params, body: { files, by: 'plain' } });
  await finished(server, plan, read);
  const heads = await server.call(api.readHeads, { params });
  const place = `${heads.campaignNames[heads.campaigns[0] ?? 0]},${heads.names[0]}`;
  const results = `Day,Campaign,Ad group,Clicks,Cost\n2026-11-01,${place},4,2.50\n`;
  const searched = `Day,Campaign,Ad group,Search term,Clicks\n2026-11-01,${place},cheap pots,1\n`;
  await bringReports(
    server,
    plan,
    { text: results, name: 'results.csv' },
    { text: searched, name: 'terms.csv' },
  );
  await server.call(api.keepLook, { params, body: { name: 'By group', look: { by: 'group' } } });
  await server.call(api.judgeTerms, {
    params,
    body: { terms: ['cheap pots'], judgement: { kind: 'leave' } },
  });
  const { rows } = await server.call(api.readVerdictRows, { params, body: { by: 'group', rows: [0] } });
  const keys = rows.map(({ key }) => key);
  await server.call(api.markWorth, {
    params: { plan },
    body: { code: 'terms', account: '', mark: { until: null, count: 1 } },
  });
  await server.call(api.actOnVerdicts, {
    params,
    body: { by: 'group', keys, act: { kind: 'seen' }, until: '2099-01-01' },
  });
  await server.call(api.keepOutset, {
    params,
    body: { name: `Outset ${plan}`, parts: [...api.outsetParts], instead: null },
  });
  return { plan, group, campaign, set, outlet, job, ...made };
}

/** Changes the brief, whatever it was. */
export async function brief(server: TestServer, plan: number, after: Partial<api.Facts>): Promise<void> {
  const { facts } = await server.call(api.readFacts, { params: { plan } });
  const edits = Object.entries(after).map(([at, value]) => ({
    at,
    before: facts[at as keyof api.Facts],
    after: value,
  }));
  await server.call(api.editFacts, { params: { plan }, body: { edits } });
}

async function poolAndSort(server: TestServer, plan: number) {
  const params = { plan };
  const call = server.call;
  const { ids, norms } = await poolOf(server, plan);
  const id = (norm: string) => ids[norms.indexOf(norm)] ?? 0;
  await call(api.setCut, { params, body: { ids: [id('white tea')], cut: true } });
  await call(api.foldKeywords, {
    params,
    body: { folds: [{ keeper: id('teapot'), others: [id('tea pots')] }] },
  });
  await call(api.addNegatives, {
    params,
    body: { negatives: [{ text: 'recipe', type: 'phrase' }], reason: 'hand' },
  });
  await call(api.keepWords, { params, body: { words: ['iron'], keep: true } });
  const { id: list } = await call(api.makeShared, { params, body: { name: `Never ${plan}`, about: 'All' } });
  await call(api.addNegatives, {
    params,
    body: { negatives: [{ text: 'broken', type: 'broad' }], reason: 'hand', list },
  });
  await call(api.makeWordList, { params, body: { name: `Cups ${plan}`, text: 'cup\nmug', takes: [] } });
  const { id: made } = await call(api.makeRecipe, { params, body: { recipe } });
  await call(api.cutCombinations, {
    params: { plan, recipe: made },
    body: { texts: ['mate heronsea'], cut: true },
  });
  await call(api.poolRecipe, { params: { plan, recipe: made }, body: { inPool: true } });
  await call(api.makeThemes, {
    params,
    body: {
      parent: null,
      themes: [
        api.newThemeOf('Pots', { has: [['teapot']], not: [] }),
        api.newThemeOf('Teas', { has: [['tea']], not: [] }),
      ],
    },
  });
  const { themes, settings } = await call(api.readSort, { params });
  await call(api.placeByHand, {
    params,
    body: { keywords: [id('green tea wrenport')], theme: themes[0]?.id ?? 0 },
  });
  await call(api.stageByHand, { params, body: { keywords: [id('teapot')], stage: 'ready' } });
  await call(api.editSortSettings, {
    params,
    body: { edits: [{ at: 'target', before: settings.target, after: settings.target + 1 }] },
  });
  await call(api.lookedAtSort, { params, body: { keyword: id('teapot') } });
  const { sources } = await call(api.listSources, { params });
  return { source: sources[0]?.id ?? 0, recipe: made };
}

/** What is set by hand in Build. */
async function byHand(server: TestServer, plan: number) {
  const params = { plan };
  const { call } = server;
  const { campaigns } = await call(api.viewBuild, { params });
  const campaign = campaigns[0]?.key ?? '';
  const { keys } = await call(api.readHeads, { params });
  const group = keys[0] ?? '';
  const { layout } = await call(api.readLayout, { params });
  await call(api.editLayout, {
    params,
    body: { edits: [{ at: 'fences', before: layout.fences, after: 'exact' }] },
  });
  await call(api.holdValue, {
    params,
    body: { rowKey: group, field: 'name', value: 'Pots of ours', before: null },
  });
  await call(api.makeSettingSet, { params, body: { name: 'At night', from: null, campaigns: [campaign] } });
  await call(api.placeNegatives, {
    params,
    body: { places: [campaign, group], negatives: [{ text: 'cracked', type: 'broad' }] },
  });
  await call(api.copyBuilt, { params, body: { of: group, name: 'Pots again', ads: true } });
  await built(server, plan);
  const { keys: fences } = await call(api.orderAllNegatives, { params, query: { level: 'fence' } });
  await call(api.changeAllNegatives, {
    params,
    body: { keys: fences.slice(0, 1), change: { kind: 'remove', reason: 'Both may show' } },
  });
  await built(server, plan);
  return { group, campaign };
}

async function ads(server: TestServer, plan: number) {
  const params = { plan };
  const { call } = server;
  const { patterns, address } = await call(api.readPatterns, { params });
  const lines = {
    headline1: ['@keyword', 'Teas'],
    headline2: ['Leaf by Leaf'],
    description1: ['Packed on the day it is sent.'],
  };
  await call(api.editPattern, {
    params: { plan, pattern: 1 },
    body: {
      edits: [{ at: 'fields', before: patterns[0]?.body.fields, after: patternOf(lines, 'title').fields }],
    },
  });
  await call(api.makePattern, {
    params,
    body: { body: patternOf({ ...lines, headline2: ['By the pound'] }, 'title'), behind: 1 },
  });
  await call(api.editAddressRule, {
    params,
    body: { edits: [{ at: 'path', before: address.path, after: '/@keyword' }] },
  });
  await call(api.addRivalNote, {
    params,
    body: { note: { theme: null, group: null, rival: 'Spout & Sons', text: 'Teapots From £9' }, ban: false },
  });
  await call(api.makeExtra, {
    params,
    body: { at: ['plan'], body: { kind: 'callout', text: 'Open on Sundays' } },
  });
  await built(server, plan);
  const query = { filter: '', sort: 'searches', down: 'true', only: 'all', pattern: 0 } as never;
  const { keys } = await call(api.orderAds, { params, query });
  await call(api.reviewAds, {
    params,
    body: { keys: keys.slice(0, 1), state: 'limited', reason: 'Look again', fields: [] },
  });
  await built(server, plan);
}
