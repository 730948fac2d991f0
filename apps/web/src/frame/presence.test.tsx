import { announceHere } from '@sprig/contracts';
import { act, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { servedBy, shown } from '../testing/rendered.tsx';
import { Others } from './Others.tsx';
import { forgetGone, heardOf, hearsNoMore, listensBy, usePresence } from './presence.ts';

const stages = [
  { path: 'write', name: 'Write' },
  { path: 'ship', name: 'Ship' },
];
type Props = { plan: number; place?: string; field?: string; own?: number | null };
const Here = ({ plan, place = 'ship', field = '', own = 1 }: Props) => (
  <Others others={usePresence(plan, place, field, own)} stages={stages} />
);
const told = () => screen.queryAllByRole('listitem').map(({ textContent }) => textContent);

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

test('others are shown with where they are, oneself is not; who is not heard of any more is gone', () => {
  servedBy([[announceHere, () => ({})]]);
  shown(<Here plan={1} />);
  expect(told()).toEqual([]);
  act(() => {
    heardOf(1, { actor: 1, name: 'You', place: 'ship', field: '' });
    heardOf(1, { actor: 2, name: 'Tobin Wexfield', place: 'write', field: '' });
    heardOf(2, { actor: 3, name: 'Elsewhere', place: 'write', field: '' });
  });
  expect(told()).toEqual(['TWTobin Wexfield is in Write']);
  act(() => heardOf(1, { actor: 2, name: 'Tobin Wexfield', place: 'ship', field: '' }));
  expect(told()).toEqual(['TWTobin Wexfield is in Ship']);
  act(() => forgetGone(1, Date.now() + 49_000));
  expect(told()).toHaveLength(1);
  act(() => forgetGone(1, Date.now() + 51_000));
  expect(told()).toEqual([]);
});

test('one says where one is: at once, at another stage, now and then, and to whoever is new', async () => {
  const asked = servedBy([[announceHere, () => ({})]]);
  const { rerender, unmount } = shown(<Here plan={4} />);
  expect(asked.map(({ body }) => body)).toEqual([{ place: 'ship', field: '' }]);
  rerender(<Here plan={4} place="write" />);
  expect(asked.at(-1)?.body).toEqual({ place: 'write', field: '' });
  await vi.advanceTimersByTimeAsync(20_000);
  expect(asked).toHaveLength(3);
  act(() => heardOf(4, { actor: 2, name: 'Tobin', place: 'ship', field: '' }));
  await vi.advanceTimersByTimeAsync(1_500);
  expect(asked).toHaveLength(4);
  act(() => heardOf(4, { actor: 2, name: 'Tobin', place: 'write', field: '' }));
  await vi.advanceTimersByTimeAsync(1_500);
  expect(asked).toHaveLength(4);
  unmount();
  await vi.advanceTimersByTimeAsync(60_000);
  expect(asked).toHaveLength(4);
});

test('fifty at once: three stand there, the others behind a number', () => {
  servedBy([[announceHere, () => ({})]]);
  shown(<Here plan={5} />);
  act(() => {
    for (let actor = 2; actor < 52; actor++)
      heardOf(5, { actor, name: `Person ${actor}`, place: 'write', field: '' });
  });
  expect(told()).toHaveLength(4);
  expect(told().at(-1)).toBe('+47');
});

test('before it is known who one is nothing is said', () => {
  const asked = servedBy([[announceHere, () => ({})]]);
  shown(<Here plan={6} own={null} />);
  expect(asked).toEqual([]);
});

test('in which field one writes is told once one stays there, and that one has left it', async () => {
  const asked = servedBy([[announceHere, () => ({})]]);
  const { rerender } = shown(<Here plan={8} />);
  rerender(<Here plan={8} field="seen by nobody" />);
  await vi.advanceTimersByTimeAsync(400);
  act(() => heardOf(8, { actor: 2, name: 'Tobin', place: 'ship', field: '' }));
  await vi.advanceTimersByTimeAsync(1_500);
  rerender(<Here plan={8} field="name of Kayaks" />);
  rerender(<Here plan={8} field="name of Canoes" />);
  await vi.advanceTimersByTimeAsync(400);
  expect(asked.map(({ body }) => (body as { field: string }).field)).toEqual([
    '',
    // To whoever is new.
    'seen by nobody',
    'name of Canoes',
  ]);
  rerender(<Here plan={8} />);
  await vi.advanceTimersByTimeAsync(1_000);
  expect(asked).toHaveLength(3);
  await vi.advanceTimersByTimeAsync(3_500);
  expect(asked.at(-1)?.body).toEqual({ place: 'ship', field: '' });
  act(() => heardOf(8, { actor: 2, name: 'Tobin', place: 'ship', field: 'name of Rafts\nview=map' }));
  expect(told().at(-1)).toContain('Tobin is in Ship, writing: name of Rafts');
});

/** A socket as the browser has it, of which the test says when it is open and when it is gone. */
class Socket {
  static readonly OPEN = 1;
  static readonly all: Socket[] = [];
  readyState = 0;
  readonly said: unknown[] = [];
  onclose: () => void = () => {};
  constructor(readonly address: URL) {
    Socket.all.push(this);
  }
  send(text: string) {
    this.said.push(JSON.parse(text));
  }
  close() {
    this.readyState = 3;
    this.onclose();
  }
}

test('with somebody else there one says where one is over a socket, and asks while there is none', async () => {
  vi.stubGlobal('WebSocket', Socket);
  const asked = servedBy([[announceHere, () => ({})]]);
  const { rerender } = shown(<Here plan={9} />);
  listensBy(9, 'first');
  rerender(<Here plan={9} place="write" />);
  // Nobody would hear it.
  expect(Socket.all).toHaveLength(0);
  act(() => heardOf(9, { actor: 1, name: 'You', place: 'ship', field: '' }));
  act(() => heardOf(9, { actor: 2, name: 'Tobin', place: 'ship', field: '' }));
  await vi.advanceTimersByTimeAsync(1_500);
  const before = asked.length;
  const [socket] = Socket.all as [Socket];
  expect(String(socket.address)).toMatch(/^ws:.*\/api\/here\?stream=first$/);
  socket.readyState = Socket.OPEN;
  rerender(<Here plan={9} place="write" field="headline 1" />);
  await vi.advanceTimersByTimeAsync(400);
  expect(socket.said).toEqual([{ place: 'write', field: 'headline 1' }]);
  expect(asked).toHaveLength(before);
  // It was refused, or the server is another: one asks, and tries again once the stream is known by something else.
  socket.close();
  rerender(<Here plan={9} place="ship" field="headline 1" />);
  expect(asked).toHaveLength(before + 1);
  expect(Socket.all).toHaveLength(1);
  listensBy(9, 'second');
  rerender(<Here plan={9} place="write" field="headline 1" />);
  expect(String(Socket.all[1]?.address)).toContain('stream=second');
  hearsNoMore(9);
  expect(Socket.all[1]?.readyState).toBe(3);
});
