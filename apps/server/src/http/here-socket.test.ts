import { once } from 'node:events';
import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { WebSocket } from 'ws';
import { startTestServer, type TestServer } from '../testing/start-test-server.ts';
import { firstOwner, hears, joined, me, type Visitor } from '../testing/visitor.ts';

let server: TestServer;
let owner: Visitor;
let plan: number;
beforeAll(async () => {
  server = await startTestServer({ door: true });
  owner = await firstOwner(server);
  const made = await owner.call(api.makePlan, {
    body: { name: 'Open', currency: 'GBP', language: 'en', site: '' },
  });
  plan = made.id;
});
afterAll(() => server.stop());

/** What somebody hears at the plan, and by what their stream is known. */
async function listens(by: Visitor) {
  const heard = await hears(by, plan);
  const [, stream = ''] = /"stream":"([^"]+)"/.exec(await heard.until('"stream"')) ?? [];
  return { ...heard, stream };
}

const opened = (stream: string, origin = server.url) =>
  new WebSocket(`${server.url.replace('http', 'ws')}${api.HERE_SOCKET}?stream=${stream}`, { origin });

/** The answer to a socket that is not opened. */
async function refusedBy(socket: WebSocket): Promise<string> {
  const [error] = (await once(socket, 'error')) as [Error];
  return error.message;
}

test('where somebody is comes by a socket from a window that listens, and whoever listens too is told', async () => {
  const visitor = await joined(owner, 'sam@tea.example', { role: 'reader' });
  const [theirs, ours] = [await listens(visitor), await listens(owner)];
  const socket = opened(theirs.stream);
  await once(socket, 'open');
  socket.send(JSON.stringify({ place: 'write', field: 'headline 1' }));
  socket.send(JSON.stringify({ place: 'write', field: 'headline 2' }));
  const { actor } = await me(visitor);
  // Of what is said within a moment the last is told.
  expect(await ours.until('headline 2')).toContain(
    `"type" : "here", "plan" : ${plan}, "actor" : ${actor}, "name" : "sam", "place" : "write", "field" : "headline 2"`,
  );
  socket.close();
  await theirs.end();
  await ours.end();
});

test('nobody opens a socket without a stream that is open, nor from a page of another origin', async () => {
  const { stream, end } = await listens(owner);
  expect(await refusedBy(opened(''))).toContain('403');
  expect(await refusedBy(opened('made-up'))).toContain('403');
  expect(await refusedBy(opened(stream, 'https://elsewhere.example'))).toContain('403');
  const elsewhere = new WebSocket(`${server.url.replace('http', 'ws')}/api/plans?stream=${stream}`, {
    origin: server.url,
  });
  expect(await refusedBy(elsewhere)).toContain('403');
  const socket = opened(stream);
  await once(socket, 'open');
  socket.close();
  await end();
});

test('what is no place, too much, or said when one may not hear any more closes the socket', async () => {
  const visitor = await joined(owner, 'gone@tea.example', { role: 'reader' });
  const { stream } = await listens(visitor);
  const closedBy = async (say: (socket: WebSocket) => unknown) => {
    const socket = opened(stream);
    await once(socket, 'open');
    const closed = once(socket, 'close');
    await say(socket);
    await closed;
  };
  await closedBy((socket) => socket.send('{"place":"<b>"}'));
  await closedBy((socket) => socket.send('no JSON'));
  await closedBy((socket) => socket.send(JSON.stringify({ place: 'write', field: 'x'.repeat(4_000) })));
  await closedBy((socket) => {
    for (let n = 0; n < 30; n++) socket.send('{"place":"write"}');
  });
  await closedBy(async (socket) => {
    const { actor } = await me(visitor);
    await owner.call(api.removeMember, { params: { actor } });
    // Their stream is ended a moment later.
    while (socket.readyState === WebSocket.OPEN) {
      socket.send('{"place":"write"}');
      await new Promise((go) => setTimeout(go, 150));
    }
  });
  expect(await refusedBy(opened(stream))).toContain('403');
});
