import { expect, test } from 'vitest';
import { SerialQueue } from './use-pool.ts';

/** A question that is answered when `answer` is called. */
function held<T>() {
  let answer!: (value: T) => void;
  let fail!: (error: Error) => void;
  const promise = new Promise<T>((done, refuse) => {
    answer = done;
    fail = refuse;
  });
  return { promise, answer, fail };
}

test('one question at a time, each with its own answer', async () => {
  const turns = new SerialQueue();
  const asked: string[] = [];
  const first = held<number>();
  const one = turns.ask(() => {
    asked.push('one');
    return first.promise;
  });
  const two = turns.ask(async () => {
    asked.push('two');
    return 2;
  });
  await new Promise((done) => setTimeout(done));
  expect(asked).toEqual(['one']);
  first.answer(1);
  expect(await Promise.all([one, two])).toEqual([1, 2]);
  expect(asked).toEqual(['one', 'two']);
});

test('a question that fails is told to who asked it, and does not hold up the next', async () => {
  const turns = new SerialQueue();
  const first = held<number>();
  const one = turns.ask(() => first.promise);
  const two = turns.ask(async () => 'an answer');
  first.fail(new Error('the worker is gone'));
  await expect(one).rejects.toThrow('the worker is gone');
  expect(await two).toBe('an answer');
});
