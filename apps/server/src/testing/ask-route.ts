import type { Failure } from '@sprig/contracts';
import type { TestServer } from './start-test-server.ts';

/** A path with its plan, and something in the place of each other parameter. */
const filled = (path: string, plan: number) =>
  path
    .replace(':plan', String(plan))
    .replace(/:(?:job|set|readBack)\b/g, crypto.randomUUID())
    .replace(/:\w+/g, '1');

/** What a route answers that is told nothing but its address. */
export async function askRoute(
  { url }: TestServer,
  { method, path }: { method: string; path: string },
  plan: number,
): Promise<{ status: number; code: string | undefined; message: string | undefined }> {
  const stop = new AbortController();
  const answer = await fetch(`${url}${filled(path, plan)}`, {
    method,
    signal: stop.signal,
    headers: { 'content-type': 'application/json' },
    ...(method === 'GET' ? {} : { body: '{}' }),
  });
  const failure = answer.ok ? null : ((await answer.json()) as Failure);
  // A stream of events would go on.
  stop.abort();
  return { status: answer.status, code: failure?.code, message: failure?.message };
}
