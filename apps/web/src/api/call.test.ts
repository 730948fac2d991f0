import { editLayout, readLayout, undoChange } from '@sprig/contracts';
import { afterEach, expect, test, vi } from 'vitest';
import { call, readBetweenWrites, writesAnswered } from './call.ts';

afterEach(() => vi.unstubAllGlobals());

test('a small write outlives its window; a large one, or one of many, could not', async () => {
  const kept: boolean[] = [];
  vi.stubGlobal('fetch', async (_address: string, { keepalive = false }: RequestInit) => {
    kept.push(keepalive);
    return Response.json({ revision: kept.length });
  });
  const edit = (after: string) =>
    call(editLayout, { params: { plan: 1 }, body: { edits: [{ at: 'fences', before: 'off', after }] } });
  await edit('exact');
  await edit('x'.repeat(5_000));
  await Promise.all(['a', 'b', 'c', 'd', 'e'].map(edit));
  await call(readLayout, { params: { plan: 1 } }).catch(() => null);
  expect(kept).toEqual([true, false, true, true, true, true, false, false]);
});

test('a step back waits for what was sent before, and not for what is only read', async () => {
  const asked: string[] = [];
  const answers = new Map<string, (answer: Response) => void>();
  vi.stubGlobal('fetch', (address: string, { method = 'GET' }: RequestInit) => {
    asked.push(`${method} ${address}`);
    return new Promise<Response>((done) => answers.set(method, done));
  });
  const edits = [{ at: 'fences', before: 'off', after: 'exact' }];
  const edit = call(editLayout, { params: { plan: 1 }, body: { edits } });
  const read = call(readLayout, { params: { plan: 1 } }).catch(() => 'unread');
  let isFree = false;
  const back = writesAnswered().then(() => {
    isFree = true;
    return call(undoChange, { params: { plan: 1 }, body: {} });
  });
  await Promise.resolve();
  expect(isFree).toBe(false);
  answers.get('PATCH')?.(Response.json({ revision: 2 }));
  expect(await edit).toEqual({ revision: 2 });
  await vi.waitFor(() => expect(asked.at(-1)).toBe('POST /api/plans/1/undo'));
  answers.get('POST')?.(Response.json({ code: 'conflict', message: 'Changed meanwhile.' }, { status: 409 }));
  await expect(back).rejects.toThrow('Changed meanwhile.');
  // What was refused is answered too.
  await writesAnswered();
  answers.get('GET')?.(Response.json({}));
  expect(await read).toBe('unread');
});

test('what is read beside a write is read again, and only what is newer is told', async () => {
  const waiting: ((answer: Response) => void)[] = [];
  vi.stubGlobal('fetch', () => new Promise<Response>((done) => waiting.push(done)));
  const write = () => call(editLayout, { params: { plan: 1 }, body: { edits: [] } });
  const readings: ((value: string) => void)[] = [];
  const told: string[] = [];
  const reading = readBetweenWrites(() => new Promise<string>((done) => readings.push(done)));
  void reading.then((value) => told.push(value));
  await vi.waitFor(() => expect(readings).toHaveLength(1));
  const written = write();
  readings[0]?.('of before');
  await new Promise((done) => setTimeout(done, 5));
  // Not before the write is answered either: it would be as old.
  expect([readings.length, told.length]).toEqual([1, 0]);
  waiting.shift()?.(Response.json({ revision: 2 }));
  await written;
  await vi.waitFor(() => expect(readings).toHaveLength(2));
  readings[1]?.('of after');
  expect(await reading).toBe('of after');
  expect(told).toEqual(['of after']);
});
