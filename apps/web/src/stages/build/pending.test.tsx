import { holdEach } from '@sprig/contracts';
import { act, renderHook } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { refusing, servedBy } from '../../testing/rendered.tsx';
import { usePending } from './use-pending.ts';

type Seen = { seen: number; revision: number };
const opened = (at: Seen, words: string | null = null) =>
  renderHook(({ seen, revision }: Seen) => usePending(7, async () => words, seen, revision), {
    initialProps: at,
  });

beforeEach(() => {
  servedBy([[holdEach, () => ({ revision: 4, held: 2 })]]);
});

test('a value set by hand stands until rows of a build with it are there', async () => {
  const { result, rerender } = opened({ seen: 3, revision: 3 });
  await act(() => result.current.holdNow('k1', 'bid', 500_000));
  expect(result.current.pending.get('k1 bid')).toBe(500_000);
  // The plan has gone on; its rows are still those of before.
  rerender({ seen: 3, revision: 4 });
  expect(result.current.pending.get('k1 bid')).toBe(500_000);
  rerender({ seen: 4, revision: 4 });
  expect(result.current.pending.size).toBe(0);
});

test('many values stand together; what is refused does not', async () => {
  const { result } = opened({ seen: 3, revision: 4 }, 'It needs a name.');
  await act(() => result.current.holdNow('k1', 'name', ''));
  expect(result.current.pending.size).toBe(0);
  await act(() =>
    result.current.holdEachNow([
      ['k1', 'bid', 100_000],
      ['k2', 'status', 'paused'],
    ]),
  );
  expect([...result.current.pending]).toEqual([
    ['k1 bid', 100_000],
    ['k2 status', 'paused'],
  ]);
  servedBy([[holdEach, () => refusing({ code: 'invalid', message: 'Two would be called so.' })]]);
  const answer = await act(() => result.current.holdEachNow([['k3', 'name', 'tea']]));
  expect(answer).toEqual({ done: false, words: 'Two would be called so.' });
  expect(result.current.pending.has('k3 name')).toBe(false);
});
