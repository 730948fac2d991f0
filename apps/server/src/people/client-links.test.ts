import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { execute, select } from '../db/connect.ts';
import { startTestServer, type TestServer } from '../testing/start-test-server.ts';
import { firstOwner, joined, refusal, tokenOf, Visitor } from '../testing/visitor.ts';

let server: TestServer;
let owner: Visitor;
let plan: number;
beforeAll(async () => {
  server = await startTestServer({ door: true });
  owner = await firstOwner(server);
  const make = (name: string) =>
    owner.call(api.makePlan, { body: { name, currency: 'EUR', language: 'en', site: 'teeth.example' } });
  plan = (await make('Teeth')).id;
  await make('Somebody else');
  const answer = await owner.fetch(`/api/plans/${plan}/uploads`, {
    method: 'POST',
    headers: { 'content-type': 'text/plain' },
    body: 'dental implants\t900\t2.10\nteeth whitening\t400\t0.90\n',
  });
  const { upload } = (await answer.json()) as { upload: string };
  await owner.call(api.startImport, {
    params: { plan },
    body: { upload, kind: 'paste', name: 'List', options: {} },
  });
  for (let times = 0; times < 400; times++) {
    const state = await owner.call(api.openPlan, { params: { plan } });
    if (state.counts.rows > 0 && state.builtRevision === state.revision) break;
    await new Promise((go) => setTimeout(go, 25));
  }
});
afterAll(() => server.stop());

const client = () => new Visitor(server);
const view = { groups: 12, keywords: 12, without: [] as api.ClientPart[] };
const make = async (more: object = {}, by = owner) =>
  tokenOf(
    (
      await by.call(api.makeClientLink, {
        params: { plan },
        body: { name: 'Dr Fell', view, days: 30, ...more },
      })
    ).link,
  );
const read = (token: string, by = client()) => by.call(api.readSharedPlan, { body: { token } });

test('whoever has the link reads that one plan, and nothing else', async () => {
  const visitor = client();
  const { plan: told, from, view: shown } = await read(await make(), visitor);
  expect([told.name, from, shown]).toEqual(['Teeth', 'Leaf by Leaf', view]);
  expect(told.page.campaigns.flatMap(({ shown: groups }) => groups.map(({ name }) => name))).toEqual([
    'dental implants',
    'teeth whitening',
  ]);
  expect(told.counts.rows).toBeGreaterThan(0);
  // It makes nobody somebody who is signed in.
  expect(visitor.cookie).toBe('');
  expect(await refusal(visitor.call(api.openPlan, { params: { plan } }))).toMatchObject({ status: 401 });
  expect(await refusal(visitor.call(api.listPlans))).toMatchObject({ status: 401 });
});

test('what is left out is not answered', async () => {
  const all = JSON.stringify(await read(await make()));
  expect(all).toContain('dental implants');
  const { plan: told } = await read(
    await make({ view: { ...view, without: ['keywords', 'bids', 'ads', 'forecast', 'out'] } }),
  );
  expect(told.forecast).toBeNull();
  expect(told.counts).toMatchObject({ cut: 0, blocked: 0 });
  const groups = told.page.campaigns.flatMap(({ shown }) => shown);
  expect(groups.length).toBeGreaterThan(0);
  expect(groups.flatMap(({ shown, ads }) => [...shown, ...ads])).toEqual([]);
  const { plan: bidless } = await read(await make({ view: { ...view, without: ['bids'] } }));
  const keywords = bidless.page.campaigns.flatMap(({ shown }) => shown.flatMap(({ shown: own }) => own));
  expect(keywords.length).toBeGreaterThan(0);
  expect(keywords.every(({ bidFrom, bidTo }) => bidFrom === 0 && bidTo === 0)).toBe(true);
});

test('it ends by its day, and once it is taken back; how often it was read is told', async () => {
  const token = await make({ name: 'Ends' });
  await read(token);
  await read(token);
  const links = async () => (await owner.call(api.listClientLinks, { params: { plan } })).links;
  const one = (await links()).find(({ name }) => name === 'Ends');
  expect(one).toMatchObject({ timesRead: 2, from: 'Olive Brindle' });
  await owner.call(api.endClientLink, { params: { plan, link: one?.id ?? 0 } });
  expect(await refusal(read(token))).toMatchObject({ status: 404 });
  expect(
    await refusal(owner.call(api.endClientLink, { params: { plan, link: one?.id ?? 0 } })),
  ).toMatchObject({ status: 404 });
  const old = await make({ days: 1 });
  const later = (hours: number) =>
    execute(
      server.database,
      `update client_links set ends_at = ends_at - $1 * interval '1 hour', ended_at = ended_at - $1 * interval '1 hour'`,
      [hours],
    );
  await later(23);
  await read(old);
  await later(2);
  expect(await refusal(read(old))).toMatchObject({ status: 404 });
  await later(30 * 24);
  expect(await links()).toEqual([]);
  await later(30 * 24);
  await server.people.tidy();
  expect(await select(server.database, 'select 1 from client_links')).toEqual([]);
});

test('no other word opens it, and what is kept of it does not either', async () => {
  const token = await make();
  const [kept] = await select<{ row: string; key: string }>(
    server.database,
    'select l::text as row, key from client_links l order by id desc limit 1',
  );
  expect(kept?.row).not.toContain(token);
  expect(await refusal(read(kept?.key ?? ''))).toMatchObject({ status: 404 });
  const other = `${token.slice(0, -2)}${token.endsWith('aa') ? 'bb' : 'aa'}`;
  expect(await refusal(read(other))).toMatchObject({ status: 404 });
  for (const wrong of ['', 'x', `${token}x`, `${token.slice(0, 42)}'`])
    expect(await refusal(read(wrong))).toMatchObject({ status: 400 });
});

test('only who may change the plan makes one; it stands in the audit trail', async () => {
  const reader = await joined(owner, 'rita@tea.example', { role: 'reader' });
  const writer = await joined(owner, 'tom@tea.example', { role: 'writer' });
  for (const by of [reader, writer]) {
    expect(await refusal(make({}, by))).toMatchObject({ status: 403 });
    expect(await refusal(by.call(api.listClientLinks, { params: { plan } }))).toMatchObject({ status: 403 });
  }
  await make({ name: 'For the books' });
  const { entries } = await owner.call(api.readAudit, { query: { kind: 'client-link-made' } });
  expect(entries[0]).toMatchObject({ name: 'Olive Brindle', about: 'For the books: Teeth' });
  for (const bad of [{ days: 0 }, { days: 367 }, { name: ' ' }, { view: { ...view, groups: 0 } }])
    expect(await refusal(make(bad))).toMatchObject({ status: 400 });
});
