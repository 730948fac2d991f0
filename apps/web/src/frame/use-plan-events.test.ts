import * as api from '@sprig/contracts';
import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, test, vi } from 'vitest';
import { FRESH, heed, KEPT } from './use-plan-events.ts';

/** Something shown that is read from the server; `answer` answers the oldest question that has none. */
function shown(client: QueryClient, name: string) {
  const waiting: ((value: string) => void)[] = [];
  const observer = new QueryObserver(client, {
    queryKey: ['plan', 1, name],
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
  client.setQueryData(['plan', 1, 'state'], { revision: 3, builtRevision: 2 });
  client.setQueryData(['plan', 1, 'groups'], 'of revision 2');
  client.setQueryData(['plan', 2, 'groups'], 'of another plan');
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
  expect(client.getQueryState(['plan', 2, 'groups'])?.isInvalidated).toBe(false);
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
  const [receipts, account, groups] = ['receipts', 'account', 'groups'].map((name) => shown(client, name));
  for (const one of [receipts, account, groups]) one?.answer('of before');
  await vi.waitFor(() => expect(receipts?.value()).toBe('of before'));
  heed(client, 1, { type: 'shipped', plan: 1 });
  await vi.waitFor(() => expect([receipts?.asked(), account?.asked()]).toEqual([1, 1]));
  expect(groups?.asked()).toBe(0);
  receipts?.answer('of after');
  await vi.waitFor(() => expect(receipts?.value()).toBe('of after'));
});

test('whatever is read of a plan is read again after what may have changed it', () => {
  const sources = import.meta.glob<string>('../**/*.{ts,tsx}', {
    query: '?raw',
    import: 'default',
    eager: true,
  });
  const read = new Set<string>();
  for (const [path, text] of Object.entries(sources))
    if (!path.includes('.test.'))
      for (const [, name] of text.matchAll(/\.\.\.planKey\([^)]*\),\s*'([^']+)'/g)) read.add(name as string);
  const fresh = new Set([...Object.values(FRESH).flat(), ...KEPT]);
  expect(read.size).toBeGreaterThan(25);
  expect([...read].filter((name) => !fresh.has(name))).toEqual([]);
});

test('what is shown of a plan is kept under its plan, where its events find it', () => {
  const sources = import.meta.glob<string>('../**/*.{ts,tsx}', {
    query: '?raw',
    import: 'default',
    eager: true,
  });
  const loose: string[] = [];
  for (const [path, text] of Object.entries(sources))
    if (!path.includes('.test.'))
      // A key that names a revision is another one when the plan has changed.
      for (const [, key] of text.matchAll(/queryKey: (\['[^\]]*\bplan\b[^\]]*)\]/g))
        if (!/revision/i.test(key as string) && !key?.startsWith("['market'")) loose.push(`${path}: ${key}`);
  expect(loose).toEqual([]);
});

test('what answers with the revision that it was built at is read again when the plan was built', () => {
  const sources = import.meta.glob<string>('../**/*.{ts,tsx}', {
    query: '?raw',
    import: 'default',
    eager: true,
  });
  const endpoints = api as unknown as Record<string, { answer?: { shape?: Record<string, unknown> } }>;
  const ofBuild = new Set<string>();
  for (const [path, text] of Object.entries(sources)) {
    if (path.includes('.test.')) continue;
    const questions = [
      ...text.matchAll(
        /\.\.\.planKey\([^)]*\),\s*'([^']+)'(?:(?!queryKey)[\s\S]){0,240}?\bcall\((?:api\.)?(\w+)/g,
      ),
      ...text.matchAll(
        /useKeyedRows(?:<\w+>)?\([^']{0,80}name: '([^']+)',(?:(?!name: ')[\s\S]){0,240}?\bcall\((?:api\.)?(\w+)/g,
      ),
    ];
    for (const [, name = '', endpoint = ''] of questions)
      if (endpoints[endpoint]?.answer?.shape?.builtRevision) ofBuild.add(name);
  }
  expect([...ofBuild].sort()).toEqual(
    expect.arrayContaining(['addresses', 'ads', 'build', 'group', 'groups', 'rows', 'ship']),
  );
  expect([...ofBuild].filter((name) => !FRESH.built.includes(name))).toEqual([]);
});
