import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Spaced } from './spaced.ts';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

test('what comes now and then is done at once', () => {
  const done: string[][] = [];
  const spaced = new Spaced<string>((all) => done.push([...all]));
  for (const one of ['a', 'b', 'c']) {
    spaced.add(one);
    vi.advanceTimersByTime(2_000);
  }
  expect(done).toEqual([['a'], ['b'], ['c']]);
});

test('of very much the rest is done together, once a second, and none is forgotten', () => {
  const done: string[][] = [];
  const spaced = new Spaced<string>((all) => done.push([...all]));
  for (let n = 0; n < 100; n++) {
    spaced.add(n % 2 === 0 ? 'plan' : 'built');
    vi.advanceTimersByTime(50);
  }
  // Five seconds: five at once, then one a second.
  expect(done.length).toBeGreaterThan(7);
  expect(done.length).toBeLessThan(12);
  const before = done.length;
  spaced.add('last');
  vi.advanceTimersByTime(1_100);
  expect(done.length).toBeGreaterThan(before);
  expect(done.slice(before).flat()).toContain('last');
  // When it is quiet again, the next is done at once.
  vi.advanceTimersByTime(10_000);
  spaced.add('calm');
  expect(done.at(-1)).toEqual(['calm']);
});

test('with fifty others it is done every five to seven seconds, from the first time on', () => {
  const done: string[][] = [];
  const spaced = new Spaced<string>(
    (all) => done.push([...all]),
    () => 50,
  );
  for (let n = 0; n < 600; n++) {
    spaced.add('plan');
    vi.advanceTimersByTime(50);
  }
  expect(done.length).toBeLessThan(7);
  expect(done.length).toBeGreaterThan(3);
});

test('of fifty windows that hear of something in the same moment each does it at another', () => {
  const at: number[] = [];
  const begun = Date.now();
  for (let n = 0; n < 50; n++)
    new Spaced<string>(
      () => at.push(Date.now() - begun),
      () => 49,
      () => n / 50,
    ).add('plan');
  expect(at).toEqual([0]);
  vi.advanceTimersByTime(2_000);
  expect(at).toHaveLength(50);
  const inAMoment = at.filter((time) => time >= 900 && time < 1_000);
  expect(inAMoment.length).toBeLessThan(5);
});

test('what waits is left where nobody listens any more', () => {
  const done: string[][] = [];
  const spaced = new Spaced<string>((all) => done.push([...all]));
  for (let n = 0; n < 7; n++) spaced.add(String(n));
  spaced.stop();
  vi.advanceTimersByTime(5_000);
  expect(done).toHaveLength(5);
});
