import { expect, test } from 'vitest';
import { z } from 'zod';
import { allEndpoints } from './all-endpoints.ts';
import { nothing } from './common.ts';
import { rawEndpoint, urlOf } from './endpoint.ts';

const file = rawEndpoint({
  method: 'GET',
  path: '/api/plans/:plan/files/:file',
  access: 'read',
  params: z.object({ plan: z.coerce.number(), file: z.string() }),
  query: z.object({ since: z.coerce.number().optional(), by: z.string().optional() }),
  takes: null,
  answers: 'text/plain',
});

test.each([
  [{}, '/api/plans/4/files/a%2Fb%20%3F.csv'],
  [{ since: 7, by: 'a&b=c' }, '/api/plans/4/files/a%2Fb%20%3F.csv?since=7&by=a%26b%3Dc'],
  [{ since: 0, by: undefined }, '/api/plans/4/files/a%2Fb%20%3F.csv?since=0'],
])('an address with what is said in it escaped: %j', (query, url) =>
  expect(urlOf(file, { params: { plan: 4, file: 'a/b ?.csv' }, query })).toBe(url),
);

test('an address that asks for nothing is what it is', () =>
  expect(urlOf({ path: '/api/me', access: 'self', params: nothing, query: nothing })).toBe('/api/me'));

test('what answers with the revision that it was built at is asked again when the plan was built', () => {
  const asked = allEndpoints.flatMap(({ name, endpoint }) =>
    'reads' in endpoint && endpoint.reads && 'answer' in endpoint
      ? [{ name, reads: endpoint.reads, answer: endpoint.answer as { shape?: Record<string, unknown> } }]
      : [],
  );
  const ofBuild = asked.filter(({ answer }) => answer.shape?.builtRevision);
  expect(ofBuild.length).toBeGreaterThan(7);
  expect(ofBuild.filter(({ reads }) => !reads.includes('built')).map(({ name }) => name)).toEqual([]);
});

test('what is asked of a plan says what it hangs on, but for what is not the plan’s own', () => {
  const silent = allEndpoints.filter(({ endpoint }) => 'reads' in endpoint && endpoint.reads?.length === 0);
  expect(silent.map(({ name }) => name)).toEqual(['readLink', 'readSharedPlan', 'readRivals']);
});
