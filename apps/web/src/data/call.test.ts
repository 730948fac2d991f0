import { editBrief, editFacts, openPlan, readFacts } from '@sprig/contracts';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { call } from './call.ts';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const answer = (status: number, body: unknown) => new Response(JSON.stringify(body), { status });
const busy = () => answer(423, { code: 'busy', message: 'A job writes.' });
const edit = () =>
  call(editBrief, { params: { plan: 1 }, body: { edits: [{ at: 'name', before: 'a', after: 'b' }] } });

test('an edit of a plan that is busy comes again until it is done', async () => {
  const fetched = vi.fn().mockImplementationOnce(async () => busy());
  fetched
    .mockImplementationOnce(async () => busy())
    .mockImplementation(async () => answer(200, { revision: 7 }));
  vi.stubGlobal('fetch', fetched);
  const done = edit();
  await vi.runAllTimersAsync();
  expect(await done).toEqual({ revision: 7 });
  expect(fetched).toHaveBeenCalledTimes(3);
});

test('it gives up in the end, and says what the server said', async () => {
  const fetched = vi.fn(async () => busy());
  vi.stubGlobal('fetch', fetched);
  const done = edit().catch((error: Error) => error.message);
  await vi.runAllTimersAsync();
  expect(await done).toBe('A job writes.');
  expect(fetched).toHaveBeenCalledTimes(20);
});

test('no other failure is tried again, and nothing that only reads', async () => {
  const fetched = vi.fn(async () => answer(409, { code: 'conflict', message: 'Changed.', current: 'c' }));
  vi.stubGlobal('fetch', fetched);
  await expect(edit()).rejects.toThrow('Changed.');
  expect(fetched).toHaveBeenCalledTimes(1);
  fetched.mockImplementation(async () => busy());
  await expect(call(openPlan, { params: { plan: 1 } })).rejects.toThrow('A job writes.');
  expect(fetched).toHaveBeenCalledTimes(2);
});

test('an answer that can’t be read is told in words', async () => {
  for (const body of [{ revision: 'seven' }, null]) {
    vi.stubGlobal('fetch', async () => answer(200, body));
    await expect(edit()).rejects.toThrow('Reload it, and see whether what you did is done.');
    await expect(call(openPlan, { params: { plan: 1 } })).rejects.toThrow('of an older version. Reload it.');
  }
  vi.stubGlobal('fetch', async () => new Response('<html>'));
  await expect(edit()).rejects.toThrow('can’t be read');
});

test('one that breaks off is none, and one that was given up stays given up', async () => {
  const broken = (error: Error) =>
    vi.stubGlobal('fetch', async () => ({ ok: true, json: () => Promise.reject(error) }));
  broken(new TypeError('terminated'));
  await expect(edit()).rejects.toThrow('The server does not answer.');
  broken(new DOMException('given up', 'AbortError'));
  await expect(edit()).rejects.toThrow('given up');
});

test('a call without what its address or its body needs does not compile', () => {
  const wrong = [
    // @ts-expect-error which plan?
    () => call(readFacts),
    // @ts-expect-error which plan?
    () => call(readFacts, { params: {} }),
    // @ts-expect-error what is edited?
    () => call(editFacts, { params: { plan: 1 } }),
  ];
  expect(wrong).toHaveLength(3);
});
