import { act, screen } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { shown } from '../testing/rendered.tsx';
import { useSettled } from './use-settled.ts';

afterEach(() => {
  vi.useRealTimers();
});

const asked: string[] = [];
function Asking({ typed }: { typed: string }) {
  const settled = useSettled(typed);
  if (asked.at(-1) !== settled) asked.push(settled);
  return <output>{settled}</output>;
}

test('what is typed is asked for once the keys pause, and at once what was there at first', async () => {
  vi.useFakeTimers();
  const { rerender } = shown(<Asking typed="a" />);
  expect(asked).toEqual(['a']);
  for (const typed of ['ab', 'abc', 'abcd']) {
    rerender(<Asking typed={typed} />);
    await act(() => vi.advanceTimersByTimeAsync(60));
  }
  expect(screen.getByRole('status').textContent).toBe('a');
  await act(() => vi.advanceTimersByTimeAsync(100));
  expect(asked).toEqual(['a', 'abcd']);
});
