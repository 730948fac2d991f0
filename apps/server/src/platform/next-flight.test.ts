import { expect, test } from 'vitest';
import { NextFlight } from './next-flight.ts';

/** Work that ends when the test says so. */
function work() {
  const ends: ((value: number | Error) => void)[] = [];
  const begin = () =>
    new Promise<number>((done, fail) =>
      ends.push((value) => (typeof value === 'number' ? done(value) : fail(value))),
    );
  return { ends, begin };
}
const turn = () => new Promise((go) => setTimeout(go, 0));

test('whoever asks meanwhile gets the next answer, together', async () => {
  const flights = new NextFlight<number>();
  const { ends, begin } = work();
  const first = flights.ask('a', begin);
  const others = [flights.ask('a', begin), flights.ask('a', begin), flights.ask('a', begin)];
  expect(ends).toHaveLength(1);
  ends[0]?.(1);
  expect(await first).toBe(1);
  await turn();
  // What was asked before the first had ended is not answered by it.
  expect(ends).toHaveLength(2);
  const late = flights.ask('a', begin);
  ends[1]?.(2);
  expect(await Promise.all(others)).toEqual([2, 2, 2]);
  await turn();
  ends[2]?.(3);
  expect(await late).toBe(3);
  const again = flights.ask('a', begin);
  ends[3]?.(4);
  expect(await again).toBe(4);
});

test('something else is worked out by itself', async () => {
  const flights = new NextFlight<number>();
  const { ends, begin } = work();
  const both = [flights.ask('a', begin), flights.ask('b', begin)];
  expect(ends).toHaveLength(2);
  ends[1]?.(2);
  ends[0]?.(1);
  expect(await Promise.all(both)).toEqual([1, 2]);
});

test('one that fails fails for who asked for it, and the next is worked out all the same', async () => {
  const flights = new NextFlight<number>();
  const { ends, begin } = work();
  const first = flights.ask('a', begin);
  const second = flights.ask('a', begin);
  ends[0]?.(new Error('gone'));
  await expect(first).rejects.toThrow('gone');
  await turn();
  ends[1]?.(2);
  expect(await second).toBe(2);
});
