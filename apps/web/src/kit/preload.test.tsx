import { afterEach, expect, test, vi } from 'vitest';
import { shown } from '../testing/rendered.tsx';
import { usePreload } from './use-preload.ts';

afterEach(() => {
  vi.useRealTimers();
});

function Screen({ load }: { load: () => Promise<unknown> }) {
  usePreload(load, 1_000);
  return null;
}

test('code is loaded once, when the screen has settled, and not where it was left before', async () => {
  vi.useFakeTimers();
  const load = vi.fn(() => Promise.reject(new Error('no network')));
  const { rerender, unmount } = shown(<Screen load={load} />);
  await vi.advanceTimersByTimeAsync(999);
  expect(load).not.toHaveBeenCalled();
  rerender(<Screen load={load} />);
  // What fails is no error that nobody handles.
  await vi.advanceTimersByTimeAsync(5_000);
  expect(load).toHaveBeenCalledTimes(1);
  unmount();
  const left = vi.fn(() => Promise.resolve());
  shown(<Screen load={left} />).unmount();
  await vi.advanceTimersByTimeAsync(5_000);
  expect(left).not.toHaveBeenCalled();
});
