import { readMe } from '@sprig/contracts';
import { act, screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { awaited, meOf, servedBy, shownAt } from '../../testing/rendered.tsx';
import { NegativesView } from './NegativesView.tsx';

vi.mock('../../pool/use-examples.ts', () => ({
  useExamples: () => ({ word: 'tea', other: 'mug', keyword: 'green tea' }),
}));

const add = vi.fn(async () => true);
const remove = vi.fn(async () => true);
const negatives = [
  { id: 1, text: 'free', type: 'broad', reason: 'block' },
  { id: 2, text: 'how to', type: 'phrase', reason: 'hand' },
];
const effects = {
  1: { blocks: 12, searches: 300, conflicts: 0, sample: [] },
  2: { blocks: 2, searches: 10, conflicts: 1, sample: ['how to make tea'] },
};

beforeEach(() => {
  add.mockClear();
  remove.mockClear();
  servedBy([[readMe, () => meOf()]]);
});

async function open(worked: Promise<typeof effects> = Promise.resolve(effects)) {
  const pool = { revision: 1, worker: { negativeEffects: () => worked } };
  const screenOf = shownAt(
    '/plans/7/prune',
    <NegativesView
      plan={7}
      pool={pool as never}
      negatives={negatives as never}
      actions={{ add, remove, place: vi.fn() } as never}
    />,
    '/plans/:plan/prune',
  );
  await screen.findByText('how to');
  return screenOf;
}
const field = () => screen.getByRole<HTMLTextAreaElement>('textbox', { name: 'Negative keywords to add' });
const rowsShown = () =>
  [...document.querySelectorAll('[role=row][data-index]')].map((row) => row.textContent ?? '');
const added = () =>
  (add.mock.calls as unknown as [unknown, unknown][]).map(([list, reason]) => [list, reason]);

describe('negatives', () => {
  test('typed in any notation, one to a line; Enter adds, Shift Enter begins another line', async () => {
    const { user } = await open();
    await user.type(field(), 'jobs{Shift>}{Enter}{/Shift}-"used tea"{Shift>}{Enter}{/Shift}[[free tea]');
    expect(screen.getByRole('button', { name: 'Add 3 negative keywords' })).toBeTruthy();
    await user.type(field(), '{Enter}');
    expect(added()).toEqual([
      [
        [
          { text: 'jobs', type: 'broad' },
          { text: 'used tea', type: 'phrase' },
          { text: 'free tea', type: 'exact' },
        ],
        'block',
      ],
    ]);
    expect(field().value).toBe('');
  });

  test('a line that can’t be read is told by its number, and nothing goes in', async () => {
    const { user } = await open();
    await user.type(field(), 'jobs{Shift>}{Enter}{/Shift}[[tea{Enter}');
    expect(screen.getByRole('alert').textContent).toMatch(/^Line 2: /);
    expect(add).not.toHaveBeenCalled();
    expect(field().value).toContain('jobs');
  });

  test('what is refused while the next is typed can be put back', async () => {
    const answer = awaited<boolean>();
    add.mockImplementationOnce(() => answer.promise);
    const { user } = await open();
    await user.type(field(), 'jobs{Enter}');
    await user.type(field(), 'course');
    await act(async () => answer.answer(false));
    expect(field().value).toBe('course');
    expect(screen.getByText('“jobs” was not added.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Put it back' }));
    expect(field().value).toContain('jobs');
  });

  test('what a negative does is awaited, not called nothing, until it is worked out', async () => {
    const worked = awaited<typeof effects>();
    await open(worked.promise);
    expect(rowsShown().join()).not.toMatch(/0 keywords|none/);
    await act(async () => worked.answer(effects));
    await waitFor(() => expect(rowsShown()[0]).toContain('1: how to make tea'));
    await waitFor(() => expect(rowsShown()[1]).toMatch(/12 keywords.*none/));
  });

  test('those that stand against own keywords come first; Delete takes the selected ones away', async () => {
    const { user } = await open();
    await waitFor(() => expect(rowsShown()[0]).toContain('how to'));
    await waitFor(() => expect(rowsShown()[1]).toContain('12 keywords'));
    document.querySelector<HTMLElement>('[data-table-body]')?.focus();
    await user.keyboard('x{Delete}');
    expect((remove.mock.calls as unknown as [unknown][])[0]?.[0]).toEqual([2]);
  });
});
