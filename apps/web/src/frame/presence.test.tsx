import { announceHere } from '@sprig/contracts';
import { act, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { servedBy, shown } from '../testing/rendered.tsx';
import { Others } from './Others.tsx';
import { forgetGone, heardOf, usePresence } from './presence.ts';

const stages = [
  { path: 'write', name: 'Write' },
  { path: 'ship', name: 'Ship' },
];
const Here = ({ plan, place = 'ship', own = 1 }: { plan: number; place?: string; own?: number | null }) => (
  <Others others={usePresence(plan, place, own)} stages={stages} />
);
const told = () => screen.queryAllByRole('listitem').map(({ textContent }) => textContent);

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

test('others are shown with where they are, oneself is not; who is not heard of any more is gone', () => {
  servedBy([[announceHere, () => ({})]]);
  shown(<Here plan={1} />);
  expect(told()).toEqual([]);
  act(() => {
    heardOf(1, { actor: 1, name: 'You', place: 'ship' });
    heardOf(1, { actor: 2, name: 'Tobin Wexfield', place: 'write' });
    heardOf(2, { actor: 3, name: 'Elsewhere', place: 'write' });
  });
  expect(told()).toEqual(['TWTobin Wexfield is in Write']);
  act(() => heardOf(1, { actor: 2, name: 'Tobin Wexfield', place: 'ship' }));
  expect(told()).toEqual(['TWTobin Wexfield is in Ship']);
  act(() => forgetGone(1, Date.now() + 49_000));
  expect(told()).toHaveLength(1);
  act(() => forgetGone(1, Date.now() + 51_000));
  expect(told()).toEqual([]);
});

test('one says where one is: at once, at another stage, now and then, and to whoever is new', async () => {
  const asked = servedBy([[announceHere, () => ({})]]);
  const { rerender, unmount } = shown(<Here plan={4} />);
  expect(asked.map(({ body }) => body)).toEqual([{ place: 'ship' }]);
  rerender(<Here plan={4} place="write" />);
  expect(asked.at(-1)?.body).toEqual({ place: 'write' });
  await vi.advanceTimersByTimeAsync(20_000);
  expect(asked).toHaveLength(3);
  act(() => heardOf(4, { actor: 2, name: 'Tobin', place: 'ship' }));
  await vi.advanceTimersByTimeAsync(1_500);
  expect(asked).toHaveLength(4);
  act(() => heardOf(4, { actor: 2, name: 'Tobin', place: 'write' }));
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
    for (let actor = 2; actor < 52; actor++) heardOf(5, { actor, name: `Person ${actor}`, place: 'write' });
  });
  expect(told()).toHaveLength(4);
  expect(told().at(-1)).toBe('+47');
});

test('before it is known who one is nothing is said', () => {
  const asked = servedBy([[announceHere, () => ({})]]);
  shown(<Here plan={6} own={null} />);
  expect(asked).toEqual([]);
});
