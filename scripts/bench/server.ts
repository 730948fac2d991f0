import { readFileSync } from 'node:fs';
import { readList } from '@sprig/core/gather';
import { decimalFromMicros } from '@sprig/core/money';
import { type DemoKeyword, manyKeywords } from '@sprig/market';
import { startServer as launch } from '../setup/server.mjs';
import { signInOwner } from '../setup/sign-in.mjs';

export type Figure = { name: string; value: string; target: string };

export type Api = (method: string, path: string, body?: unknown) => Promise<Record<string, unknown>>;

export const textOf = (keywords: readonly DemoKeyword[]) =>
  keywords.map(({ text, searches, cpc }) => `${text}\t${searches}\t${decimalFromMicros(cpc, 2)}`).join('\n');

export async function timed(work: () => Promise<unknown>): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

export const PORT = 4_890;
export const seconds = (ms: number) => `${(ms / 1_000).toFixed(2)} s`;

export type Server = { api: Api; pid: number; memory: () => number; stop: () => Promise<void> };

export const URL_HERE = `http://127.0.0.1:${PORT}`;
/** By which the server that runs knows who measures. */
let cookie = '';
export const cookieHere = (): string => cookie;

/** A real server process of its own, as the browser meets it. */
export async function startServer(settings: Record<string, string> = {}): Promise<Server> {
  const { pid, stop } = await launch(
    { PORT: String(PORT), LOG_LEVEL: 'error', ...settings },
    { quiet: true },
  );
  cookie = await signInOwner(URL_HERE, process.env.DATABASE_URL ?? '');
  return {
    pid: pid ?? 0,
    api: async (method, path, body) => {
      const isText = typeof body === 'string';
      const answer = await fetch(`${URL_HERE}/api${path}`, {
        method,
        headers: { cookie, 'content-type': isText ? 'text/plain' : 'application/json' },
        ...(body === undefined ? {} : { body: isText ? body : JSON.stringify(body) }),
      });
      if (!answer.ok) throw new Error(`${method} ${path}: ${await answer.text()}`);
      return (await answer.json()) as Record<string, unknown>;
    },
    memory: () =>
      Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1_024,
    stop,
  };
}

/** The whole path through a real server process, and the most memory it held. */
export async function serverFigures(): Promise<Figure[]> {
  const figures: Figure[] = [];
  const add = (name: string, value: string, target = '–') => figures.push({ name, value, target });
  for (const [count, stored, whole, memory] of [
    [10_000, '3 s', '3 s', '350 MB'],
    [100_000, '3 s', '25 s', '700 MB'],
  ] as const) {
    const server = await startServer();
    const list = textOf(manyKeywords(count));
    const words = count.toLocaleString('en');
    const plan = await planOf(server.api);
    add(
      `${words} pasted lines understood`,
      seconds(await timed(async () => readList(list))),
      count === 10_000 ? '1 s' : '–',
    );
    add(
      `${words} keywords stored, from the upload to the end of its job`,
      seconds(await timed(() => takeIn(server.api, plan, list))),
      stored,
    );
    add(
      `${words} keywords built into ${(count * 3).toLocaleString('en')} rows and ${words} ads, all sheets written and fetched`,
      seconds(await timed(() => buildAndShip(server.api, plan))),
      whole,
    );
    add('most memory that server process held', `${Math.round(server.memory())} MB`, memory);
    await server.stop();
  }
  figures.push(...(await recipeFigures()));
  const server = await startServer();
  const million = textOf(manyKeywords(1_000_000));
  const plan = await planOf(server.api);
  add(
    '1,000,000 keywords stored, from the upload to the end of its job',
    seconds(await timed(() => takeIn(server.api, plan, million))),
    '25 s',
  );
  add('most memory that server process held', `${Math.round(server.memory())} MB`, '400 MB');
  await jobsDone(server.api, plan, 'rebuild');
  add(
    'the whole plan of 1,000,000 keywords proposed and its themes made, by a job',
    seconds(
      await timed(async () => {
        await server.api('POST', `/plans/${plan}/themes/whole`, { parent: null, instead: false });
        await jobsDone(server.api, plan, 'sort');
      }),
    ),
    '40 s',
  );
  add('most memory that server process held', `${Math.round(server.memory())} MB`, '1200 MB');
  const { themes } = (await server.api('GET', `/plans/${plan}/sort`)) as { themes: unknown[] };
  if (themes.length < 1_000) throw new Error(`${themes.length} themes were made`);
  await server.stop();
  return figures;
}

/** A recipe into a pool of 10,000 keywords, and the pool following a change of it. */
async function recipeFigures(): Promise<Figure[]> {
  const server = await startServer();
  const { api } = server;
  const plan = await planOf(api);
  await takeIn(api, plan, textOf(manyKeywords(10_000)));
  const words = (name: string, count: number) => Array.from({ length: count }, (_, at) => `${name}${at}`);
  const slots = [1, 2].map((list) => ({ kind: 'list', list, optional: false }));
  const recipeOf = (...sizes: number[]) => ({
    name: 'Bench',
    on: true,
    lists: sizes.map((size, at) => ({
      id: at + 1,
      kind: 'own',
      name: `List ${at + 1}`,
      text: words(at === 0 ? 'kayak' : 'town', size).join('\n'),
      takes: [],
    })),
    patterns: [{ id: 1, slots, flip: false }],
    never: [],
    repeats: false,
    firstFormOnly: false,
    alone: [],
  });
  const make = async (...sizes: number[]) => {
    const { id } = await api('POST', `/plans/${plan}/recipes`, { recipe: recipeOf(...sizes) });
    return `/plans/${plan}/recipes/${id}`;
  };
  const small = await make(100, 100);
  const into = await timed(() => api('POST', `${small}/pool`, { inPool: true }));
  const before = words('town', 100).join('\n');
  const edits = [{ at: 'lists.1.text', before, after: `${before}\nheronsea` }];
  const followed = await timed(() => api('PATCH', small, { edits }));
  const large = await make(1_000, 100);
  const job = await timed(async () => {
    await api('POST', `${large}/pool`, { inPool: true });
    await jobsDone(api, plan, 'mix');
  });
  await server.stop();
  return [
    { name: '10,000 combinations of a recipe put into the pool', value: seconds(into), target: '–' },
    { name: 'the pool follows a word more in one of its lists', value: seconds(followed), target: '–' },
    {
      name: '100,000 combinations of a recipe put into the pool, by a job',
      value: seconds(job),
      target: '–',
    },
  ];
}

/** Waits until no job of this kind is under way. */
export async function jobsDone(api: Api, plan: number, wanted: string): Promise<void> {
  for (;;) {
    const { jobs } = (await api('GET', `/plans/${plan}/jobs`)) as { jobs: { kind: string }[] };
    if (!jobs.some(({ kind }) => kind === wanted)) return;
    await new Promise((done) => setTimeout(done, 100));
  }
}

export async function planOf(api: Api): Promise<number> {
  const { id } = await api('POST', '/plans', {
    name: 'Bench',
    currency: 'GBP',
    language: 'en',
    site: 'shop.example',
  });
  const plan = Number(id);
  const lines = (field: string, before: string[], after: string[]) => ({
    at: `fields.${field}.lines`,
    before,
    after,
  });
  const edits = [
    lines('headline1', ['@keyword'], ['@keyword', 'Kayaks and boards']),
    lines('headline2', [], ['Saltmarsh Paddle Co.']),
    lines('description1', [], ['Find @keyword and more, try it on the water.', 'Try it on the water.']),
  ];
  await api('PATCH', `/plans/${plan}/patterns/1`, { edits });
  return plan;
}

async function ended(api: Api, plan: number, job: unknown): Promise<Record<string, unknown>> {
  for (;;) {
    const now = await api('GET', `/plans/${plan}/jobs/${job}`);
    if (now.status === 'done') return now;
    if (now.status !== 'queued' && now.status !== 'running') throw new Error(JSON.stringify(now));
    await new Promise((done) => setTimeout(done, 100));
  }
}

export async function takeIn(api: Api, plan: number, list: string) {
  const { upload } = await api('POST', `/plans/${plan}/uploads`, list);
  const { job } = await api('POST', `/plans/${plan}/imports`, {
    upload,
    kind: 'paste',
    name: 'List',
    options: {},
  });
  await ended(api, plan, job);
}

async function buildAndShip(api: Api, plan: number) {
  await api('PATCH', `/plans/${plan}/layout`, { edits: [{ at: 'lanes.0.types', before: 12, after: 13 }] });
  const sheets = ['campaigns', 'groups', 'keywords', 'negatives', 'ads', 'combined'];
  for (;;) {
    const state = await api('GET', `/plans/${plan}`);
    if (state.builtRevision === state.revision) break;
    await new Promise((done) => setTimeout(done, 15));
  }
  const { job } = await api('POST', `/plans/${plan}/sheet-sets`, { outlet: 'plain', format: 'csv', sheets });
  const { result } = await ended(api, plan, job);
  const { sheetSet } = result as { sheetSet: string };
  const zip = await fetch(`${URL_HERE}/api/plans/${plan}/sheet-sets/${sheetSet}/zip`, {
    headers: { cookie },
  });
  await zip.arrayBuffer();
}
