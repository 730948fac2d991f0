import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { ToldTogether } from './told-together.ts';

let told: [number, readonly string[]][];
let together: ToldTogether;
beforeEach(() => {
  vi.useFakeTimers();
  told = [];
  together = new ToldTogether((plan, payloads) => told.push([plan, payloads]));
});
afterEach(() => {
  together.stop();
  vi.useRealTimers();
});

test('the first is told at once, what comes right after it together, in its order', () => {
  together.add(1, 'a');
  expect(told).toEqual([[1, ['a']]]);
  for (const payload of ['b', 'c', 'b', 'd']) together.add(1, payload);
  expect(told).toHaveLength(1);
  vi.advanceTimersByTime(250);
  expect(told[1]).toEqual([1, ['c', 'b', 'd']]);
  vi.advanceTimersByTime(250);
  together.add(1, 'e');
  expect(told[2]).toEqual([1, ['e']]);
});

test('one plan waits for no other, and nothing is told twice or never', () => {
  for (let n = 0; n < 50; n++) {
    together.add(n % 2, `${n}`);
    vi.advanceTimersByTime(10);
  }
  vi.advanceTimersByTime(500);
  const all = told.flatMap(([plan, payloads]) => payloads.map((payload) => `${plan} ${payload}`));
  expect(all.sort()).toEqual(Array.from({ length: 50 }, (_, n) => `${n % 2} ${n}`).sort());
  expect(told.length).toBeLessThan(16);
});
