import { expect, test } from 'vitest';
import { Prefetch } from './prefetch.ts';

test('one piece of work goes on while the next is made ready, and never two', async () => {
  const ahead = new Prefetch();
  const told: string[] = [];
  const work = (name: string) => async () => {
    told.push(`${name} begins`);
    await new Promise((done) => setTimeout(done, 5));
    told.push(`${name} ends`);
  };
  await ahead.next(work('a'));
  told.push('b is made ready');
  await ahead.next(work('b'));
  await ahead.ended;
  expect(told).toEqual(['a begins', 'b is made ready', 'a ends', 'b begins', 'b ends']);
});

test('what fails is told to who waits next, and nothing is begun after it', async () => {
  const ahead = new Prefetch();
  let begun = 0;
  await ahead.next(() => Promise.reject(new Error('no room')));
  await new Promise((done) => setTimeout(done, 5));
  await expect(
    ahead.next(async () => {
      begun++;
    }),
  ).rejects.toThrow('no room');
  await expect(ahead.ended).rejects.toThrow('no room');
  expect(begun).toBe(0);
});
