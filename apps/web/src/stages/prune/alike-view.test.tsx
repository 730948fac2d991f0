import { readMe } from '@sprig/contracts';
import { lookAlikeClasses } from '@sprig/core/prune';
import { act, screen, within } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { AlikeGroup, AlikeSummary } from '../../pool/pruning.ts';
import { meOf, servedBy, shownAt } from '../../testing/rendered.tsx';
import { AlikeView } from './AlikeView.tsx';

const one = (id: number, text: string, searches: number) => ({ id, text, searches });
const groups: AlikeGroup[] = [
  {
    keeper: one(1, 'green tea', 900),
    others: [
      { ...one(2, 'green teas', 300), by: 'number' },
      { ...one(3, 'tea green', 100), by: 'order' },
    ],
    searches: 1_300,
  },
  { keeper: one(4, 'tea pot', 500), others: [{ ...one(5, 'teapot', 400), by: 'joined' }], searches: 900 },
];
const summary: AlikeSummary = {
  groups: 2,
  keywords: 3,
  byClass: {
    ...Object.fromEntries(lookAlikeClasses.map((name) => [name, 0])),
    number: 1,
  } as AlikeSummary['byClass'],
  folded: 0,
  apart: 0,
};

const fold = vi.fn(async () => true);
const apart = vi.fn(async () => true);
const chooseClasses = vi.fn();
beforeEach(() => {
  for (const told of [fold, apart, chooseClasses]) told.mockClear();
});

async function open(of: AlikeSummary | null = summary) {
  const pool = {
    worker: {
      alikeGroups: async (from: number, to: number) => groups.slice(from, to),
      allFolds: async () =>
        groups.map(({ keeper, others }) => ({ keeper: keeper.id, others: others.map(({ id }) => id) })),
    },
  };
  servedBy([[readMe, () => meOf()]]);
  const screenOf = shownAt(
    '/',
    <AlikeView
      pool={pool as never}
      question="1"
      summary={of}
      classes={lookAlikeClasses}
      onClasses={chooseClasses}
      actions={{ fold, apart } as never}
    />,
  );
  await act(async () => {});
  return screenOf;
}
const list = () => screen.getByRole('list', { name: 'Groups of look-alikes' });
const group = (at: number) => document.querySelector<HTMLElement>(`[data-index="${at}"]`) as HTMLElement;
const folds = () => (fold.mock.calls as unknown as [unknown][]).map(([what]) => what);

describe('look-alikes in groups', () => {
  test('f folds the group under the cursor, a keeps it apart for good, j and k go from one to the next', async () => {
    const { user } = await open();
    list().focus();
    await user.keyboard('f');
    expect(folds()).toEqual([[{ keeper: 1, others: [2, 3] }]]);
    await user.keyboard('ja');
    expect(apart).toHaveBeenCalledWith([5], true, expect.stringContaining('tea pot'));
    await user.keyboard('jjkf');
    expect(folds().at(-1)).toEqual([{ keeper: 1, others: [2, 3] }]);
    fold.mockClear();
    await user.keyboard('{Control>}f{/Control}');
    expect(fold).not.toHaveBeenCalled();
  });

  test('another can be kept instead, and one left out: of its own group alone', async () => {
    const { user } = await open();
    await user.click(within(group(0)).getByRole('button', { name: 'green teas' }));
    await user.click(within(group(0)).getByRole('checkbox', { name: 'Fold tea green' }));
    await user.click(within(group(0)).getByRole('button', { name: 'Fold' }));
    expect(folds()).toEqual([[{ keeper: 2, others: [1] }]]);
    // All at once keeps to what was judged.
    await user.click(screen.getByRole('button', { name: 'Fold 3 keywords into 2' }));
    expect(folds().at(-1)).toEqual([
      { keeper: 2, others: [1] },
      { keeper: 4, others: [5] },
    ]);
  });

  test('a group of which everything is left out is not folded', async () => {
    const { user } = await open();
    await user.click(within(group(1)).getByRole('checkbox', { name: 'Fold teapot' }));
    await user.click(within(group(1)).getByRole('button', { name: 'Fold' }));
    expect(fold).not.toHaveBeenCalled();
    await user.click(screen.getByRole('button', { name: 'Fold 3 keywords into 2' }));
    expect(folds()).toEqual([[{ keeper: 1, others: [2, 3] }]]);
  });

  test('what counts as alike is chosen by class', async () => {
    const { user } = await open();
    const [first] = within(screen.getByText('Alike but for').parentElement as HTMLElement).getAllByRole(
      'button',
    );
    expect(first?.getAttribute('aria-pressed')).toBe('true');
    await user.click(first as HTMLElement);
    expect(chooseClasses).toHaveBeenCalledWith(
      lookAlikeClasses.filter((name) => name !== lookAlikeClasses[1]),
    );
  });

  test('none left: says what became of them', async () => {
    await open({ ...summary, groups: 0, keywords: 0, folded: 4, apart: 2 });
    expect(screen.getByText(/4 keywords are folded already/).textContent).toContain('2 keywords stand apart');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Fold 0/ }).disabled).toBe(true);
  });
});
