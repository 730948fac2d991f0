import { afterEach, expect, test, vi } from 'vitest';
import { finishJob, tellJob } from './jobs.ts';

afterEach(() => vi.unstubAllGlobals());

const jobOf = (status: string) => ({
  id: '6f1c7c1e-7f53-4b7e-9d0e-4c8d2b6a1f00',
  plan: 1,
  kind: 'check',
  status,
  phase: '',
  done: 0,
  total: 0,
  result: {},
  failure: status === 'failed' ? { code: 'invalid', message: 'It can’t be read.' } : null,
});
const { id } = jobOf('done');

/** A server that answers one after another, and how often it was asked. */
function answering(...statuses: string[]) {
  const asked: string[] = [];
  vi.stubGlobal('fetch', async (address: string) => {
    asked.push(address);
    return Response.json(jobOf(statuses[Math.min(asked.length, statuses.length) - 1] as string));
  });
  return asked;
}
const turns = () => new Promise((go) => setTimeout(go, 20));

test('a job is read again when something is told of it, and never otherwise', async () => {
  const asked = answering('running', 'running', 'done');
  let ended = false;
  const finished = finishJob(1, id).then((job) => {
    ended = true;
    return job;
  });
  await turns();
  expect(asked).toHaveLength(1);
  tellJob(1, 'another');
  tellJob(2, id);
  await turns();
  expect(asked).toHaveLength(1);
  tellJob(1, id);
  await turns();
  expect([asked.length, ended]).toEqual([2, false]);
  // Nothing was heard for a while: any job may have ended.
  tellJob(1, null);
  expect((await finished).status).toBe('done');
  expect(asked).toHaveLength(3);
});

test('what is told while it is being read is not missed', async () => {
  let answer = (_: Response) => {};
  const first = new Promise<Response>((done) => {
    answer = done;
  });
  const asked: string[] = [];
  vi.stubGlobal('fetch', (address: string) =>
    asked.push(address) === 1 ? first : Promise.resolve(Response.json(jobOf('done'))),
  );
  const finished = finishJob(1, id);
  await turns();
  tellJob(1, id);
  answer(Response.json(jobOf('running')));
  expect((await finished).status).toBe('done');
});

test('a job that fails throws its words', async () => {
  answering('failed');
  await expect(finishJob(1, id)).rejects.toThrow('It can’t be read.');
});
