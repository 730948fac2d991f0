import { toast } from 'sonner';
import { beforeEach, expect, test } from 'vitest';
import { queryClient } from './query-client.ts';
import { refusalOf, runChange } from './run-change.ts';

let before = 0;
/** What was said on the screen since the test began. */
function told() {
  const said: unknown[] = [];
  const refused: unknown[] = [];
  for (const one of toast.getHistory().slice(before))
    if ('title' in one) (one.type === 'error' ? refused : said).push(one.title);
  return { said, refused };
}

const isStale = (plan: number) => queryClient.getQueryState(['plan', plan, 'rows'])?.isInvalidated;
const refused = () => Promise.reject(new Error('Changed meanwhile.'));

beforeEach(() => {
  before = toast.getHistory().length;
  for (const plan of [1, 2]) queryClient.setQueryData(['plan', plan, 'rows'], []);
});

test('what was done is said, and the plan’s own is read again', async () => {
  expect(
    await runChange(
      1,
      async () => ({ changed: 3 }),
      ({ changed }) => `Changed ${changed}.`,
    ),
  ).toEqual({
    changed: 3,
  });
  expect(told()).toEqual({ said: ['Changed 3.'], refused: [] });
  expect([isStale(1), isStale(2)]).toEqual([true, false]);
});

test('nothing is said where there are no words, and an empty answer is none of refusal', async () => {
  expect(
    await runChange(
      1,
      async () => '',
      (words) => words,
    ),
  ).toBe('');
  expect(told()).toEqual({ said: [], refused: [] });
});

test('a refusal is told in its words, and nothing is read again', async () => {
  expect(await runChange(1, refused, () => 'Changed.')).toBeNull();
  expect(told()).toEqual({ said: [], refused: ['Changed meanwhile.'] });
  expect(isStale(1)).toBe(false);
});

test('for a field the words of a refusal are answered, and not told besides', async () => {
  expect(await refusalOf(1, refused)).toBe('Changed meanwhile.');
  expect(await refusalOf(1, async () => undefined)).toBeNull();
  expect(told()).toEqual({ said: [], refused: [] });
  expect(isStale(1)).toBe(true);
});
