import type { ReadOptions } from '@sprig/core/gather';
import { screen, within } from '@testing-library/react';
import { describe, expect, test, vi } from 'vitest';
import type { ReadSummary } from '../../pool/worker.ts';
import { shown } from '../../testing/rendered.tsx';
import { Questions, SetAsideLines } from './Questions.tsx';

type Layout = ReadSummary['layout'];
const summaryOf = (layout: Partial<Layout>, more: Partial<ReadSummary> = {}): ReadSummary =>
  ({
    layout: { open: [], commaLines: 0, commasPart: false, ...layout },
    setAside: [],
    setAsideCount: 0,
    ...more,
  }) as unknown as ReadSummary;
const decided = vi.fn();
const ask = (summary: ReadSummary, options: ReadOptions = {}) => {
  decided.mockClear();
  return shown(<Questions summary={summary} options={options} onOptions={decided} />);
};

describe('what has to be said before a list goes in', () => {
  test('nothing where nothing is open', () => {
    const { container } = ask(summaryOf({}));
    expect(container.textContent).toBe('');
  });

  test.each([
    ['a point: 1.300 is 1.3', { decimal: '.' }],
    ['a comma: 1.300 is 1300', { decimal: ',' }],
  ])('decimals after %s', async (name, expected) => {
    const { user } = ask(summaryOf({ open: ['decimal'] }), { headerLine: 2 });
    expect(screen.getByRole('alert').textContent).toContain('can be read in two ways');
    await user.click(screen.getByRole('button', { name }));
    expect(decided).toHaveBeenCalledWith({ headerLine: 2, ...expected });
  });

  test.each([
    ['a bullet', true],
    ['the mark of a negative keyword', false],
  ])('“- ” is %s', async (name, bullets) => {
    const { user } = ask(summaryOf({ open: ['bullets'] }));
    await user.click(screen.getByRole('button', { name }));
    expect(decided).toHaveBeenCalledWith({ bullets });
  });

  test('words between commas are offered as keywords of their own, and back', async () => {
    const first = ask(summaryOf({ commaLines: 1 }));
    expect(screen.getByText(/1 line holds several words/)).toBeTruthy();
    await first.user.click(screen.getByRole('button', { name: 'Take each as a keyword of its own' }));
    expect(decided).toHaveBeenCalledWith({ commasPart: true });
    first.unmount();
    const { user } = ask(summaryOf({ commaLines: 3, commasPart: true }), { commasPart: true });
    expect(screen.getByText(/3 lines hold several words/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Take each line as it is' }));
    expect(decided).toHaveBeenCalledWith({ commasPart: false });
  });
});

describe('lines that are set aside', () => {
  const summary = summaryOf(
    {},
    {
      setAside: [
        { line: 1, raw: 'Report of May', why: 'title' },
        { line: 40, raw: 'Total\t1,300', why: 'total' },
      ] as never,
      setAsideCount: 2,
    },
  );

  test('stand with their text and why, and can be taken in', async () => {
    const { user } = shown(<SetAsideLines summary={summary} options={{ taken: [40] }} onOptions={decided} />);
    const section = screen.getByRole('region', { name: 'Set aside' });
    expect(section.textContent).toContain('2 lines set aside, and kept with the source');
    const [first] = within(section).getAllByRole('listitem');
    expect(first?.textContent).toContain('Report of May above the headings');
    expect(section.textContent).toContain('looks like a total');
    await user.click(within(first as HTMLElement).getByRole('button', { name: 'Take in as a keyword' }));
    expect(decided).toHaveBeenLastCalledWith({ taken: [40, 1] });
  });

  test('nothing where there are none', () => {
    const { container } = shown(<SetAsideLines summary={summaryOf({})} options={{}} onOptions={decided} />);
    expect(container.textContent).toBe('');
  });
});
