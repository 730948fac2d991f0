import * as api from '@sprig/contracts';
import { readList } from '@sprig/core/gather';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { execute, select } from '../../db/connect.ts';
import {
  planOf,
  poolOf,
  Refused,
  startTestServer,
  type TestServer,
  takeIn,
  upload,
} from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const textsOf = async (plan: number) => (await poolOf(server, plan)).norms;

test('a list in mixed notation goes in: keywords, figures, negatives and lines to mend', async () => {
  const plan = await planOf(server);
  const job = await takeIn(
    server,
    plan,
    'Keyword,Searches,CPC\nRed Kayak,"1,300",0.40\n[red kayak],,\n-free,,\n[open,5,\nsup 🛶,90,\n',
  );
  expect(job).toMatchObject({
    status: 'done',
    result: { added: 2, alreadyThere: 0, negatives: 1, problems: 1 },
  });
  const pool = await poolOf(server, plan);
  expect(pool.texts).toEqual(['Red Kayak', 'sup 🛶']);
  expect([...pool.asked]).toEqual([8, 0]);
  expect([...pool.searches]).toEqual([1300, 90]);
  expect([...pool.cpc]).toEqual([400_000, -1]);
  const { negatives } = await server.call(api.listNegatives, { params: { plan } });
  expect(negatives).toMatchObject([{ text: 'free', type: 'broad' }]);
});

test('lines of nothing but what nobody sees are problems with their number; all others go in', async () => {
  const plan = await planOf(server);
  const lines = ['kayak', '\u200b', '"\u00ad"', '[\u2060]', '-\u202e', '\ufe0f', '\u3164', '\u007f', 'canoe'];
  const job = await takeIn(server, plan, lines.join('\n'));
  expect(job).toMatchObject({ status: 'done', result: { added: 2, negatives: 0, problems: 7 } });
  expect(await textsOf(plan)).toEqual(['kayak', 'canoe']);
  const { sources } = await server.call(api.listSources, { params: { plan } });
  const { problems } = await server.call(api.listProblems, { params: { plan, source: sources[0]!.id } });
  expect(problems.map(({ line }) => line)).toEqual([2, 3, 4, 5, 6, 7, 8]);
});

test('a second source: the newer figures win, sources are kept, removing it gives the older back', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\t100\t0.40\ncanoe\t50\t0.30\n');
  await takeIn(server, plan, 'kayak\t200\t--\n[sup]\t5\t1.00\n');
  let pool = await poolOf(server, plan);
  expect([...pool.searches]).toEqual([200, 50, 5]);
  expect([...pool.cpc]).toEqual([400_000, 300_000, 1_000_000]);
  const { sources } = await server.call(api.listSources, { params: { plan } });
  expect(sources.map(({ keywords, onlyHere }) => [keywords, onlyHere])).toEqual([
    [2, 1],
    [2, 1],
  ]);
  await server.call(api.removeSource, { params: { plan, source: sources[1]!.id } });
  pool = await poolOf(server, plan);
  expect(pool.norms).toEqual(['kayak', 'canoe']);
  expect([...pool.searches]).toEqual([100, 50]);
  await server.call(api.undoChange, { params: { plan }, body: {} });
  expect([...(await poolOf(server, plan)).searches]).toEqual([200, 50, 5]);
});

test('a source is renamed, not over another window’s name, and undone', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\n');
  const listed = async () => (await server.call(api.listSources, { params: { plan } })).sources[0]!;
  const { id: source, name: before } = await listed();
  const rename = (name: string, seen: string) =>
    server.call(api.renameSource, { params: { plan, source }, body: { name, before: seen } });
  await rename(' March report ', before);
  expect((await listed()).name).toBe('March report');
  await expect(rename('Other', before)).rejects.toMatchObject({ status: 409 });
  await expect(rename(' ', 'March report')).rejects.toMatchObject({ status: 400 });
  await server.call(api.undoChange, { params: { plan }, body: {} });
  expect((await listed()).name).toBe(before);
});

test('a delta since a revision is what a whole download would add', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\ncanoe\nsup\n');
  const { revision, ids } = await poolOf(server, plan);
  await server.call(api.setCut, { params: { plan }, body: { ids: [ids[1]!], cut: true } });
  await takeIn(server, plan, 'raft\nkayak\n');
  const delta = await poolOf(server, plan, revision);
  expect(delta.delta).toBe(true);
  expect([...delta.norms].sort()).toEqual(['canoe', 'kayak', 'raft']);
  expect(delta.sources[delta.norms.indexOf('kayak')]).toHaveLength(2);
  await server.call(api.undoChange, { params: { plan }, body: {} });
  const back = await poolOf(server, plan, delta.revision);
  expect(back.removed).toHaveLength(1);
  expect(await textsOf(plan)).toEqual(['kayak', 'canoe', 'sup']);
});

test('a keyword is changed by hand; what is set by hand stays on top of later lists', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\t100\ncanoe\t50\n');
  const [kayak] = (await poolOf(server, plan)).ids;
  const edit = (
    body: Parameters<
      typeof server.call<
        typeof api.editKeyword.params,
        typeof api.editKeyword.query,
        typeof api.editKeyword.body,
        typeof api.editKeyword.answer
      >
    >[1],
  ) => server.call(api.editKeyword, { params: { plan, keyword: kayak! }, ...body });
  await edit({ body: { field: 'searches', before: 100, after: 777 } });
  await takeIn(server, plan, 'kayak\t300\n');
  expect((await poolOf(server, plan)).searches[0]).toBe(777);
  await expect(edit({ body: { field: 'searches', before: 100, after: 1 } })).rejects.toMatchObject({
    status: 409,
    failure: { code: 'conflict', current: 777 },
  });
  await expect(edit({ body: { field: 'text', before: 'kayak', after: 'canoe' } })).rejects.toMatchObject({
    status: 400,
  });
  await expect(edit({ body: { field: 'text', before: 'kayak', after: '[kayak' } })).rejects.toThrow(
    /bracket at column 1/,
  );
  await edit({ body: { field: 'text', before: 'kayak', after: 'Sea kayak' } });
  expect((await textsOf(plan))[0]).toBe('sea kayak');
});

test('a line with an error is mended in its place', async () => {
  const plan = await planOf(server);
  const job = await takeIn(server, plan, 'kayak\n[canoe\nred, sup\n');
  const { source } = job.result as { source: number };
  const list = async () => (await server.call(api.listProblems, { params: { plan, source } })).problems;
  const [first, second] = await list();
  await expect(
    server.call(api.mendProblem, { params: { plan, problem: first!.id }, body: { text: '[canoe' } }),
  ).rejects.toBeInstanceOf(Refused);
  await server.call(api.mendProblem, { params: { plan, problem: first!.id }, body: { text: '[canoe]' } });
  await server.call(api.mendProblem, { params: { plan, problem: second!.id }, body: { text: null } });
  expect(await textsOf(plan)).toEqual(['kayak', 'canoe']);
  expect(await list()).toEqual([]);
});

test.each([
  ['an empty file', new Uint8Array(), /empty/],
  [
    'a picture',
    Uint8Array.from([
      0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52, 0, 0, 4, 0,
    ]),
    /no text/,
  ],
  ['blank lines', '\n \n\t\n', /empty/],
])('%s is refused with what to do, and nothing goes in', async (_, content, words) => {
  const plan = await planOf(server);
  const job = await takeIn(server, plan, content);
  expect(job.status).toBe('failed');
  expect(job.failure?.message).toMatch(words);
  expect(await textsOf(plan)).toEqual([]);
});

test('hostile lines are plain data or errors, never lost and never run', async () => {
  const plan = await planOf(server);
  const lines = [
    '=cmd()',
    '<img src=x onerror=alert(1)>',
    "kayak'; drop table keywords; --",
    'nul\0kayak',
    '"',
    'x'.repeat(100_000),
    "o'neill kayak",
    '\ud83d kayak',
    'back\\slash',
    'tab kayak',
  ];
  const job = await takeIn(server, plan, lines.join('\n'), { delimiter: null });
  expect(job).toMatchObject({ status: 'done', result: { added: 4, problems: 6 } });
  expect(await textsOf(plan)).toEqual(['nulkayak', "o'neill kayak", '\ufffd kayak', 'tab kayak']);
});

test('over 100 MB is refused before it is read', async () => {
  const plan = await planOf(server);
  const part = new Uint8Array(4_000_000).fill(107);
  const stream = new ReadableStream({
    start(controller) {
      for (let n = 0; n < 26; n++) controller.enqueue(part);
      controller.close();
    },
  });
  const answer = await fetch(`${server.url}/api/plans/${plan}/uploads`, {
    method: 'POST',
    body: stream,
    duplex: 'half',
  } as RequestInit);
  expect(answer.status).toBe(413);
  expect(((await answer.json()) as { message: string }).message).toMatch(/Split the file/);
});

test('an upload that is broken off leaves nothing behind', async () => {
  const plan = await planOf(server);
  const kept = async () => {
    const [row] = await select<{ uploads: number; parts: number }>(
      server.database,
      `select (select count(*)::int from uploads where plan_id = $1) as uploads,
         (select count(*)::int from upload_parts p join uploads u on u.id = p.upload_id where u.plan_id = $1) as parts`,
      [plan],
    );
    return row;
  };
  const stop = new AbortController();
  const part = new Uint8Array(3_000_000).fill(107);
  const stream = new ReadableStream({ start: (controller) => controller.enqueue(part) });
  const sent = fetch(`${server.url}/api/plans/${plan}/uploads`, {
    method: 'POST',
    body: stream,
    duplex: 'half',
    signal: stop.signal,
  } as RequestInit).catch(() => 'broken off');
  await vi.waitFor(async () => expect((await kept())?.parts).toBeGreaterThan(0), 10_000);
  stop.abort();
  expect(await sent).toBe('broken off');
  await vi.waitFor(async () => expect(await kept()).toEqual({ uploads: 0, parts: 0 }), 10_000);
});

test('a disk that is full in the middle of a list is told, and nothing of the list is in', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\n');
  await server.database.query(`create function disk_full() returns trigger language plpgsql as $$ begin
      if new.line > 500 then raise exception 'no space left' using errcode = '53100'; end if; return new; end $$;
    create trigger disk_full before insert on mentions for each row execute function disk_full()`);
  const list = Array.from({ length: 1_000 }, (_, at) => `canoe ${at}`).join('\n');
  const job = await takeIn(server, plan, list);
  await server.database.query('drop function disk_full cascade');
  expect(job).toMatchObject({
    status: 'failed',
    failure: { code: 'unavailable', message: expect.stringContaining('The disk of the database is full') },
  });
  expect(await textsOf(plan)).toEqual(['kayak']);
  expect((await server.call(api.listSources, { params: { plan } })).sources).toHaveLength(1);
  expect(await takeIn(server, plan, list)).toMatchObject({ status: 'done', result: { added: 1_000 } });
});

test('a workspace has a bounded room for uploads, which is free again after a day', async () => {
  const plan = await planOf(server);
  await execute(
    server.database,
    `insert into uploads (workspace_id, plan_id, bytes, whole) values (1, $1, 4999999999, true)`,
    [plan],
  );
  await expect(upload(server, plan, 'kayak')).rejects.toMatchObject({
    failure: { code: 'too-large', message: expect.stringContaining('5,000 MB') },
  });
  await execute(
    server.database,
    `update uploads set created_at = now() - interval '25 hours' where plan_id = $1`,
    [plan],
  );
  await upload(server, plan, 'kayak');
});

test('plans of another workspace are not there', async () => {
  const plan = await planOf(server);
  const [other] = await select<{ id: number }>(
    server.database,
    `insert into workspaces (name) values ('Other') returning id`,
  );
  const [foreign] = await select<{ id: number }>(
    server.database,
    `insert into plans (workspace_id, created_by) values ($1, $2) returning id`,
    [other!.id, server.caller.actor],
  );
  const at = { plan: foreign!.id };
  await expect(server.call(api.openPlan, { params: at })).rejects.toMatchObject({ status: 404 });
  await expect(server.call(api.setCut, { params: at, body: { ids: [1], cut: true } })).rejects.toMatchObject({
    status: 404,
  });
  await expect(upload(server, foreign!.id, 'kayak')).rejects.toMatchObject({ status: 404 });
  expect((await fetch(`${server.url}/api/plans/${foreign!.id}/pool`)).status).toBe(404);
  expect((await fetch(`${server.url}/api/plans/${foreign!.id}/events`)).status).toBe(404);
  expect((await server.call(api.openPlan, { params: { plan } })).id).toBe(plan);
});

test('what goes into the pool is what the core reads of the list, whatever is said twice and in what order', async () => {
  const line = fc.constantFrom(
    'kayak\t10\t0.40',
    '[kayak]\t\t',
    'Kayak\t--\t0.50',
    '+sea +kayak\t5\t',
    'sea kayak\t\t0.30',
    '+sea kayak\t7\t0.90',
    '-free\t\t',
    '-[free]\t\t',
    '[open\t\t',
    'canoe\tmany\t',
    '"canoe"\t< 10\t1.00',
  );
  await fc.assert(
    fc.asyncProperty(fc.array(line, { minLength: 1, maxLength: 14 }), async (lines) => {
      const text = `Keyword\tSearches\tCPC\n${lines.join('\n')}`;
      const reading = readList(text);
      const plan = await planOf(server);
      const job = await takeIn(server, plan, text);
      expect(job.result).toMatchObject({
        added: reading.keywords.length,
        negatives: reading.negatives.length,
        problems: reading.problems.length,
      });
      const [source] = (await server.call(api.listSources, { params: { plan } })).sources;
      expect(source).toMatchObject({
        lines: reading.counts.lines,
        repeated: reading.counts.repeated + reading.counts.askedAgain,
      });
      const rows = await select<Record<string, unknown>>(
        server.database,
        'select text, norm, asked, marks, searches, searches_about, cpc from keywords where plan_id = $1 order by id',
        [plan],
      );
      expect(rows).toEqual(
        reading.keywords.map(({ text: given, norm, asked, marks, searches, cpc }) => ({
          text: given,
          norm,
          asked,
          marks,
          searches: searches?.value ?? null,
          searches_about: searches?.approximate ?? false,
          cpc: cpc?.value ?? null,
        })),
      );
    }),
    { seed: 41, numRuns: 25 },
  );
});

test('import order does not change the pool but for which figures are the newer', async () => {
  const lists = ['kayak\t10\ncanoe\t20\n', '"kayak"\t\nraft\t5\n', '+sea +kayak\n[canoe]\n'];
  const poolAfter = async (order: number[]) => {
    const plan = await planOf(server);
    for (const at of order) await takeIn(server, plan, lists[at] ?? '');
    const rows = await select<Record<string, unknown>>(
      server.database,
      'select norm, asked, marks, searches, cpc, cut from keywords where plan_id = $1 order by norm',
      [plan],
    );
    return rows;
  };
  const first = await poolAfter([0, 1, 2]);
  for (const order of [
    [2, 1, 0],
    [1, 0, 2],
  ])
    expect(await poolAfter(order)).toEqual(first);
});

test('many texts change in one step; each that can not is refused by itself', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak hire\ncanoe hire\nraft hire\nkayak rental\n');
  const pool = await poolOf(server, plan);
  const edits = Array.from(pool.ids, (id, at) => ({
    id,
    before: pool.texts[at] ?? '',
    after: (pool.texts[at] ?? '').replace('hire', 'rental').replace('raft', 'r[aft'),
  }));
  const answer = await server.call(api.rewriteKeywords, {
    params: { plan },
    body: { edits: edits.slice(0, 3) },
  });
  expect(answer).toMatchObject({ changed: 1, refusedCount: 2 });
  expect(answer.refused.map(({ text, why }) => [text, why])).toEqual([
    ['r[aft rental', expect.stringContaining('stands inside the text')],
    ['kayak rental', '“kayak rental” is in the pool already.'],
  ]);
  expect(await textsOf(plan)).toEqual(['kayak hire', 'canoe rental', 'raft hire', 'kayak rental']);
  const stale = await server.call(api.rewriteKeywords, {
    params: { plan },
    body: { edits: [{ id: edits[1]!.id, before: 'canoe hire', after: 'canoe' }] },
  });
  expect(stale).toMatchObject({ changed: 0, refusedCount: 1 });
  await server.call(api.undoChange, { params: { plan }, body: {} });
  expect(await textsOf(plan)).toEqual(['kayak hire', 'canoe hire', 'raft hire', 'kayak rental']);
});

test('cells pasted into the pool: texts and figures go in as one change, and are taken back as one', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'keyword\tsearches\nkayak hire\t40\ncanoe hire\t50\nraft hire\t60\n');
  const read = async () => {
    const { texts, searches, cpc } = await poolOf(server, plan);
    return texts.map((text, at) => [text, searches[at], cpc[at]]);
  };
  const first = await read();
  const [kayak = 0, canoe = 0, raft = 0] = (await poolOf(server, plan)).ids;
  const answer = await server.call(api.fillKeywords, {
    params: { plan },
    body: {
      texts: [
        { id: kayak, before: 'kayak hire', after: 'canoe hire' },
        { id: raft, before: 'raft hire', after: 'raft rental' },
      ],
      figures: [
        { id: kayak, searches: 70 },
        { id: canoe, searches: 80, cpc: 400_000 },
        { id: 9_999, searches: 1 },
      ],
    },
  });
  expect(answer).toMatchObject({
    refusedCount: 1,
    refused: [{ id: kayak, why: '“canoe hire” is in the pool already.' }],
  });
  expect(await read()).toEqual([
    ['kayak hire', 70, -1],
    ['canoe hire', 80, 400_000],
    ['raft rental', 60, -1],
  ]);
  // One that is emptied again falls back to what its list tells; the other of the same keyword stays.
  await server.call(api.fillKeywords, {
    params: { plan },
    body: { texts: [], figures: [{ id: canoe, searches: null }] },
  });
  expect((await read())[1]).toEqual(['canoe hire', 50, 400_000]);
  await server.call(api.undoChange, { params: { plan }, body: {} });
  await server.call(api.undoChange, { params: { plan }, body: {} });
  expect(await read()).toEqual(first);
});
