import { QueryObserver } from '@tanstack/react-query';
import { afterEach, expect, test, vi } from 'vitest';
import { forgetChanges, isReadAlready, noteChanged, readChanged } from './changed.ts';
import { queryClient } from './query-client.ts';

afterEach(() => {
  queryClient.clear();
  forgetChanges(1);
});

/** Shows something of plan 1; answers how often it was asked for. */
async function shown(name: string) {
  let asked = 0;
  const observer = new QueryObserver(queryClient, {
    queryKey: ['plan', 1, name],
    queryFn: async () => ++asked,
    staleTime: 30_000,
  });
  observer.subscribe(() => {});
  await vi.waitFor(() => expect(asked).toBe(1));
  return () => asked;
}

test('what hangs on a change is read again, once, and nothing else', async () => {
  const [negatives, receipts, groups] = await Promise.all(['negatives', 'receipts', 'groups'].map(shown));
  noteChanged(1, ['plan'], 5);
  await readChanged(1);
  expect([negatives?.(), receipts?.(), groups?.()]).toEqual([2, 1, 1]);
  noteChanged(1, ['receipts'], null);
  await readChanged(1);
  expect([negatives?.(), receipts?.(), groups?.()]).toEqual([2, 2, 1]);
});

test('after a job, or after nobody knows what, all of the plan is read again', async () => {
  const groups = await shown('groups');
  noteChanged(1, ['jobs'], null);
  await readChanged(1);
  expect(groups()).toBe(2);
  await readChanged(1);
  expect(groups()).toBe(3);
});

test('a revision counts as read once it has been read again here, not when it is made', async () => {
  noteChanged(1, ['plan'], 5);
  expect(isReadAlready(1, 5)).toBe(false);
  await readChanged(1);
  expect([4, 5, 6].map((revision) => isReadAlready(1, revision))).toEqual([true, true, false]);
  forgetChanges(1);
  expect(isReadAlready(1, 5)).toBe(false);
});
