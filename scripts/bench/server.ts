import { type ChildProcess, fork } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { readList } from '@sprig/core/gather';
import { decimalFromMicros } from '@sprig/core/money';
import { type DemoKeyword, manyKeywords } from '@sprig/market';

export type Figure = { name: string; value: string; target: string };

type Api = (method: string, path: string, body?: unknown) => Promise<Record<string, unknown>>;

const textOf = (keywords: readonly DemoKeyword[]) =>
  keywords.map(({ text, searches, cpc }) => `${text}\t${searches}\t${decimalFromMicros(cpc, 2)}`).join('\n');

async function timed(work: () => Promise<unknown>): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

const seconds = (ms: number) => `${(ms / 1_000).toFixed(2)} s`;

/** The whole path through a real server process, as the browser takes it, and the most memory it held. */
export async function serverFigures(): Promise<Figure[]> {
  const port = 4_890;
  const child: ChildProcess = fork(
    fileURLToPath(new URL('../../apps/server/src/start.ts', import.meta.url)),
    [],
    {
      execArgv: ['--import', 'tsx'],
      env: { ...process.env, PORT: String(port), LOG_LEVEL: 'error' },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    },
  );
  await once(child, 'message');
  const api: Api = async (method, path, body) => {
    const isText = typeof body === 'string';
    const answer = await fetch(`http://127.0.0.1:${port}/api${path}`, {
      method,
      headers: { 'content-type': isText ? 'text/plain' : 'application/json' },
      ...(body === undefined ? {} : { body: isText ? body : JSON.stringify(body) }),
    });
    if (!answer.ok) throw new Error(`${method} ${path}: ${await answer.text()}`);
    return (await answer.json()) as Record<string, unknown>;
  };
  const figures: Figure[] = [];
  const memory = () =>
    Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? 0) / 1_024;
  for (const [count, stored, whole] of [
    [10_000, '3 s', '10 s'],
    [100_000, '–', '–'],
  ] as const) {
    const list = textOf(manyKeywords(count));
    const words = count.toLocaleString('en');
    const plan = await planOf(api);
    const understood = await timed(async () => readList(list));
    const kept = await timed(() => takeIn(api, plan, list));
    const shipped = await timed(() => buildAndShip(api, plan));
    figures.push({
      name: `${words} pasted lines understood`,
      value: seconds(understood),
      target: count === 10_000 ? '1 s' : '–',
    });
    figures.push({
      name: `${words} keywords stored, from the upload to the end of its job`,
      value: seconds(kept),
      target: stored,
    });
    figures.push({
      name: `${words} keywords built into ${(count * 3).toLocaleString('en')} rows and ${words} ads, all sheets written and fetched`,
      value: seconds(shipped),
      target: whole,
    });
    figures.push({
      name: `most memory the server process held until then`,
      value: `${Math.round(memory())} MB`,
      target: count === 10_000 ? '400 MB' : '–',
    });
  }
  child.kill('SIGTERM');
  await once(child, 'exit');
  return figures;
}

async function planOf(api: Api): Promise<number> {
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
  await api('PATCH', `/plans/${plan}/pattern`, { edits });
  return plan;
}

async function ended(api: Api, plan: number, job: unknown): Promise<Record<string, unknown>> {
  for (;;) {
    const now = await api('GET', `/plans/${plan}/jobs/${job}`);
    if (now.status === 'done') return now;
    if (now.status !== 'queued' && now.status !== 'running') throw new Error(JSON.stringify(now));
    await new Promise((done) => setTimeout(done, 15));
  }
}

async function takeIn(api: Api, plan: number, list: string) {
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
  await api('PATCH', `/plans/${plan}/layout`, { edits: [{ at: 'types', before: 12, after: 13 }] });
  const sheets = ['campaigns', 'groups', 'keywords', 'negatives', 'ads', 'combined'];
  for (;;) {
    const state = await api('GET', `/plans/${plan}`);
    if (state.builtRevision === state.revision) break;
    await new Promise((done) => setTimeout(done, 15));
  }
  const { job } = await api('POST', `/plans/${plan}/sheet-sets`, { outlet: 'plain', format: 'csv', sheets });
  const { result } = await ended(api, plan, job);
  const { sheetSet } = result as { sheetSet: string };
  const zip = await fetch(`http://127.0.0.1:4890/api/plans/${plan}/sheet-sets/${sheetSet}/zip`);
  await zip.arrayBuffer();
}
