import { listNegatives, listPlans, listReceipts, viewFences } from '@sprig/contracts';
import { type QueryMeta, QueryObserver } from '@tanstack/react-query';
import { afterEach, expect, test, vi } from 'vitest';
import { forgetChanges, isReadAlready, noteChanged, readChanged } from './changed.ts';
import { queryClient } from './query-client.ts';
import { computed, question } from './question.ts';

const params = { plan: 1 };

afterEach(() => {
  queryClient.clear();
  forgetChanges(1);
});

/** Shows something of plan 1; answers how often it was asked for. */
async function shown({ queryKey, meta }: { queryKey: readonly unknown[]; meta?: QueryMeta | undefined }) {
  let asked = 0;
  const observer = new QueryObserver(queryClient, {
    queryKey,
    meta,
    queryFn: async () => ++asked,
    staleTime: 30_000,
  });
  observer.subscribe(() => {});
  await vi.waitFor(() => expect(asked).toBe(1));
  return () => asked;
}

test('what hangs on a change is read again, once, and nothing else', async () => {
  const [negatives, receipts, groups] = await Promise.all([
    shown(question(listNegatives, { params })),
    shown(question(listReceipts, { params })),
    shown(question(viewFences, { params })),
  ]);
  noteChanged(1, ['plan'], 5);
  await readChanged(1);
  expect([negatives?.(), receipts?.(), groups?.()]).toEqual([2, 1, 1]);
  noteChanged(1, ['receipts'], null);
  await readChanged(1);
  expect([negatives?.(), receipts?.(), groups?.()]).toEqual([2, 2, 1]);
});

test('after a job, or after nobody knows what, all of the plan is read again', async () => {
  const groups = await shown(question(viewFences, { params }));
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

test('what is of no plan is read again with it, another plan is not, and what does not say is for safety', async () => {
  const [plans, other, silent, kept] = await Promise.all([
    shown(question(listPlans)),
    shown(question(listNegatives, { params: { plan: 2 } })),
    shown({ queryKey: ['plan', 1, 'says nothing'] }),
    shown(computed(1, ['worked out of a revision', 5], async () => 1)),
  ]);
  noteChanged(1, ['plan', 'plans'], 6);
  await readChanged(1);
  expect([plans?.(), other?.(), silent?.(), kept?.()]).toEqual([2, 1, 2, 1]);
});
