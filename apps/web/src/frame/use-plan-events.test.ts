import * as api from '@sprig/contracts';
import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, test, vi } from 'vitest';
import { stateOf } from '../data/plan.ts';
import { question } from '../data/question.ts';
import { heed } from './use-plan-events.ts';

const params = { plan: 1 };
const asked = {
  state: question(api.openPlan, { params }),
  groups: question(api.orderGroups, { params, query: { sort: 'name' } }),
  rows: question(api.orderRows, { params, query: { sort: 'bid' } }),
  sources: question(api.listSources, { params }),
  receipts: question(api.listReceipts, { params }),
  account: question(api.viewAccount, { params: { plan: 1, outlet: 'one' } }),
  job: question(api.readJob, { params: { plan: 1, job: 'a' } }),
  otherJob: question(api.readJob, { params: { plan: 1, job: 'b' } }),
  jobs: question(api.openJobs, { params }),
};

/** Something shown that is read from the server; `answer` answers the oldest question that has none. */
function shown(client: QueryClient, name: keyof typeof asked) {
  const waiting: ((value: string) => void)[] = [];
  const observer = new QueryObserver(client, {
    queryKey: asked[name].queryKey as readonly unknown[],
    meta: asked[name].meta,
    queryFn: () => new Promise<string>((done) => waiting.push(done)),
    staleTime: 30_000,
    retry: false,
  });
  observer.subscribe(() => {});
  return {
    asked: () => waiting.length,
    answer: (value: string) => waiting.shift()?.(value),
    value: () => observer.getCurrentResult().data,
  };
}

test('what was asked for the first time before it was built is asked again, once', async () => {
  const client = new QueryClient();
  const groups = shown(client, 'groups');
  const sources = shown(client, 'sources');
  heed(client, 1, { type: 'built', plan: 1, builtRevision: 4 });
  heed(client, 1, { type: 'built', plan: 1, builtRevision: 5 });
  expect(groups.asked()).toBe(1);
  groups.answer('of before');
  sources.answer('sources');
  await vi.waitFor(() => expect(groups.asked()).toBe(1));
  groups.answer('of after');
  await vi.waitFor(() => expect(groups.value()).toBe('of after'));
  expect([groups.asked(), sources.asked(), sources.value()]).toEqual([0, 0, 'sources']);
});

test('what happened between the first reading and the first word is read again', async () => {
  const client = new QueryClient();
  client.setQueryData(stateOf(1).queryKey, { revision: 3, builtRevision: 2 } as never);
  client.setQueryData(asked.groups.queryKey, 'of revision 2' as never);
  const elsewhere = question(api.orderGroups, { params: { plan: 2 }, query: { sort: 'name' } }).queryKey;
  client.setQueryData(elsewhere, 'of another plan' as never);
  const groups = shown(client, 'groups');
  const other = shown(client, 'rows');
  other.answer('rows');
  await vi.waitFor(() => expect(other.value()).toBe('rows'));
  heed(client, 1, { type: 'opened', plan: 1, revision: 3, builtRevision: 2 });
  expect([groups.asked(), other.asked()]).toEqual([0, 0]);
  heed(client, 1, { type: 'opened', plan: 1, revision: 3, builtRevision: 3 });
  await vi.waitFor(() => expect([groups.asked(), other.asked()]).toEqual([1, 1]));
  groups.answer('of revision 3');
  await vi.waitFor(() => expect(groups.value()).toBe('of revision 3'));
  expect(client.getQueryState(elsewhere)?.isInvalidated).toBe(false);
});

test('a state on its way when the stream opens is asked again', async () => {
  const client = new QueryClient();
  const state = shown(client, 'state');
  heed(client, 1, { type: 'opened', plan: 1, revision: 3, builtRevision: 3 });
  state.answer('maybe older');
  await vi.waitFor(() => expect(state.asked()).toBe(1));
  state.answer('newer');
  await vi.waitFor(() => expect(state.value()).toBe('newer'));
});

test('a receipt of another window is shown in this one', async () => {
  const client = new QueryClient();
  const [receipts, account, groups] = (['receipts', 'account', 'groups'] as const).map((name) =>
    shown(client, name),
  );
  for (const one of [receipts, account, groups]) one?.answer('of before');
  await vi.waitFor(() => expect(receipts?.value()).toBe('of before'));
  heed(client, 1, { type: 'shipped', plan: 1 });
  await vi.waitFor(() => expect([receipts?.asked(), account?.asked()]).toEqual([1, 1]));
  expect(groups?.asked()).toBe(0);
  receipts?.answer('of after');
  await vi.waitFor(() => expect(receipts?.value()).toBe('of after'));
});

test('a word of a job is of that job and of the list of those under way', async () => {
  const client = new QueryClient();
  const [job, other, jobs, groups] = (['job', 'otherJob', 'jobs', 'groups'] as const).map((name) =>
    shown(client, name),
  );
  for (const one of [job, other, jobs, groups]) one?.answer('of before');
  await vi.waitFor(() => expect(groups?.value()).toBe('of before'));
  heed(client, 1, { type: 'job', plan: 1, job: 'a' } as api.PlanEvent);
  await vi.waitFor(() => expect([job?.asked(), jobs?.asked()]).toEqual([1, 1]));
  expect([other?.asked(), groups?.asked()]).toEqual([0, 0]);
});
