import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { awaited, shown } from '../../testing/rendered.tsx';
import { InlineEdit } from '../InlineEdit.tsx';
import type { PutAnswer, TableColumn } from './column.ts';
import type { RowSource } from './row-source.ts';
import { type Selection, useSelection } from './selection.ts';
import { Table } from './Table.tsx';

type Row = { id: number; name: string; searches: number };
const all: Row[] = Array.from({ length: 500 }, (_, at) => ({
  id: 1_000 + at,
  name: `tea ${at}`,
  searches: 500 - at,
}));
const columns: TableColumn<Row>[] = [
  { id: 'name', heading: 'Keyword', sortable: true, cell: ({ name }) => name, text: ({ name }) => name },
  {
    id: 'searches',
    heading: 'Searches',
    right: true,
    sortable: true,
    width: 90,
    cell: ({ id, searches }) => (
      <span>
        {searches}
        <InlineEdit label={`searches ${id}`} shown="" text={String(searches)} onKeep={async () => null} />
      </span>
    ),
    text: ({ searches }) => String(searches),
    read: (typed) => (/^\d+$/.test(typed) ? { value: Number(typed) } : { words: 'No number.' }),
  },
  {
    id: 'note',
    heading: 'Note',
    cell: ({ name }) => (
      <button type="button" data-edit onClick={() => edited(name)}>
        edit {name}
      </button>
    ),
    text: () => '',
  },
];
const edited = vi.fn();
const sorted = vi.fn();
const acted = vi.fn();
const byId = new Map(all.map((row) => [row.id, row]));
const source = (rows: readonly Row[] = all): RowSource<Row, number> => ({
  ids: rows.map(({ id }) => id),
  version: String(rows.length),
  loading: false,
  fetchPage: async (keys) => keys.flatMap((key) => byId.get(key) ?? []),
  fetchAll: async (keys) => keys.flatMap((key) => byId.get(key) ?? []),
  keyOf: ({ id }) => id,
});

let selection: Selection<number>;
const put = vi.fn(async (_puts: unknown): Promise<PutAnswer> => ({ done: true }));
const kept = vi.fn();
function Shown({
  of = source(),
  sort = { id: 'searches', down: true },
  hidden = [] as string[],
  widths = {} as Record<string, number>,
}) {
  selection = useSelection<number>();
  return (
    <Table
      label="Teas"
      columns={columns}
      source={of}
      sort={sort}
      onSort={sorted}
      selection={selection}
      hidden={hidden}
      widths={{ of: widths, set: kept }}
      filling={{ put }}
      actions={{ c: acted }}
      dim={({ id }) => id === 1_001}
      empty={<p>No tea</p>}
    />
  );
}

const ids = source();
const open = async (element = <Shown of={ids} />) => {
  const screenOf = shown(element);
  await screen.findByText('tea 0');
  return screenOf;
};
/** By its place: to work out the names of all rows takes the tests' document a second. */
const row = (at: number) =>
  document.querySelector<HTMLElement>(`[role=row][data-index="${at}"]`) as HTMLElement;
const chosen = () => selection.listIn(ids.ids).map((id) => id - 1_000);
const cursor = () => Number(document.querySelector('[data-cursor]')?.getAttribute('data-index'));
const focusGrid = () => document.querySelector<HTMLElement>('[data-table-body]')?.focus();

beforeEach(() => {
  for (const told of [edited, sorted, acted, put, kept]) told.mockClear();
});

describe('what a table says of itself', () => {
  test('a grid with its rows counted, its headings, and where each row stands', async () => {
    await open();
    const grid = screen.getByRole('grid', { name: 'Teas' });
    expect(grid.getAttribute('aria-rowcount')).toBe('501');
    expect(grid.getAttribute('aria-multiselectable')).toBe('true');
    expect(within(grid).getAllByRole('columnheader')).toHaveLength(4);
    expect(row(0).getAttribute('aria-rowindex')).toBe('2');
    expect(row(3).getAttribute('aria-rowindex')).toBe('5');
    expect(row(0).getAttribute('aria-selected')).toBe('false');
  });

  test('only rows in view are there', async () => {
    await open();
    const there = screen.getAllByRole('row').length;
    expect(there).toBeGreaterThan(20);
    expect(there).toBeLessThan(60);
  });

  test.each([
    [
      { id: 'searches', down: true },
      { Searches: 'descending', Keyword: 'none', Note: null },
    ],
    [
      { id: 'searches', down: false },
      { Searches: 'ascending', Keyword: 'none', Note: null },
    ],
    [
      { id: 'name', down: true },
      { Searches: 'none', Keyword: 'descending', Note: null },
    ],
  ])('sorted by %j', async (sort, orders) => {
    await open(<Shown of={ids} sort={sort} />);
    for (const [name, order] of Object.entries(orders))
      expect(screen.getByRole('columnheader', { name }).getAttribute('aria-sort')).toBe(order);
  });

  test('a heading turns its order round; figures begin with the largest, words with the first', async () => {
    const { user } = await open(<Shown of={ids} sort={{ id: 'searches', down: true }} />);
    await user.click(screen.getByRole('button', { name: 'Searches' }));
    expect(sorted).toHaveBeenLastCalledWith('searches', false);
    await user.click(screen.getByRole('button', { name: 'Keyword' }));
    expect(sorted).toHaveBeenLastCalledWith('name', false);
  });

  test('figures that are not sorted by begin with the largest', async () => {
    const { user } = await open(<Shown of={ids} sort={{ id: 'name', down: false }} />);
    await user.click(screen.getByRole('button', { name: 'Searches' }));
    expect(sorted).toHaveBeenLastCalledWith('searches', true);
    await user.click(screen.getByRole('button', { name: 'Keyword' }));
    expect(sorted).toHaveBeenLastCalledWith('name', true);
  });

  test('hidden columns are not there; dim rows are struck through', async () => {
    await open(<Shown of={ids} hidden={['searches']} />);
    expect(screen.queryByRole('columnheader', { name: 'Searches' })).toBeNull();
    expect(row(1).className).toContain('line-through');
    expect(row(0).className).not.toContain('line-through');
  });

  test('empty, it says so', () => {
    shown(<Shown of={source([])} />);
    expect(screen.getByText('No tea')).toBeTruthy();
    expect(screen.getByRole('grid').getAttribute('aria-rowcount')).toBe('1');
  });
});

describe('selecting by mouse', () => {
  test('a click goes to a row and selects nothing', async () => {
    const { user } = await open();
    await user.click(row(3));
    expect([cursor(), chosen()]).toEqual([3, []]);
  });

  test('Ctrl adds rows and takes them away', async () => {
    const { user } = await open();
    await user.keyboard('{Control>}');
    await user.click(row(2));
    await user.click(row(5));
    await user.click(row(2));
    await user.keyboard('{/Control}');
    expect(chosen()).toEqual([5]);
    expect(row(5).getAttribute('aria-selected')).toBe('true');
    expect(row(2).getAttribute('aria-selected')).toBe('false');
  });

  test.each([
    [3, 6, [3, 4, 5, 6]],
    [6, 3, [3, 4, 5, 6]],
    [4, 4, [4]],
  ])('Shift selects from row %i to row %i, both among them', async (from, to, expected) => {
    const { user } = await open();
    await user.click(row(from));
    await user.keyboard('{Shift>}');
    await user.click(row(to));
    await user.keyboard('{/Shift}');
    expect(chosen()).toEqual(expected);
  });

  test('Shift again goes from where it began, in the place of what it had', async () => {
    const { user } = await open();
    await user.keyboard('{Control>}');
    await user.click(row(9));
    await user.keyboard('{/Control}');
    await user.click(row(3));
    await user.keyboard('{Shift>}');
    await user.click(row(6));
    await user.click(row(1));
    await user.keyboard('{/Shift}');
    expect(chosen()).toEqual([1, 2, 3, 9]);
  });

  test('boxes select one, and with Shift all between', async () => {
    const { user } = await open();
    const box = (at: number) => within(row(at)).getByRole('checkbox');
    expect(box(2).getAttribute('aria-label')).toBe('Select tea 2');
    await user.click(box(2));
    expect(chosen()).toEqual([2]);
    await user.keyboard('{Shift>}');
    await user.click(box(4));
    await user.keyboard('{/Shift}');
    expect(chosen()).toEqual([2, 3, 4]);
    await user.click(box(3));
    expect(chosen()).toEqual([2, 4]);
  });

  test('the box of the heading selects all, and none', async () => {
    const { user } = await open();
    await user.click(screen.getByRole('checkbox', { name: 'Select all rows' }));
    expect(selection.size).toBe(500);
    expect(screen.getByText('500 rows selected')).toBeTruthy();
    await user.click(screen.getByRole('checkbox', { name: 'Select all rows' }));
    expect(selection.size).toBe(0);
  });
});

describe('the keyboard', () => {
  test.each([
    ['{ArrowDown}{ArrowDown}', 2],
    ['jjj', 3],
    ['jjk', 1],
    ['{ArrowUp}', 0],
    ['{PageDown}', 20],
    ['{PageDown}{PageUp}', 0],
    ['{End}', 499],
    ['{End}{ArrowDown}', 499],
    ['{End}{Home}', 0],
  ])('%s goes to row %i', async (keys, at) => {
    const { user } = await open();
    focusGrid();
    await user.keyboard(keys);
    // A row that is far away comes into view when the table has been moved.
    if (at < 30) expect(cursor()).toBe(at);
    await user.keyboard('x');
    expect(chosen()).toEqual([at]);
  });

  test('Shift with the arrows selects on the way, from the row of the cursor, and gives back what it leaves', async () => {
    const { user } = await open();
    focusGrid();
    await user.keyboard('jjjj{Shift>}{ArrowDown}{ArrowDown}{/Shift}');
    expect(chosen()).toEqual([4, 5, 6]);
    await user.keyboard('{Shift>}{ArrowUp}{/Shift}');
    expect(chosen()).toEqual([4, 5]);
    await user.keyboard('{Shift>}{ArrowUp}{ArrowUp}{/Shift}');
    expect(chosen()).toEqual([3, 4]);
  });

  test('x and Space select the row of the cursor and let it go, Ctrl A all, Escape none', async () => {
    const { user } = await open();
    focusGrid();
    await user.keyboard('jx');
    expect(chosen()).toEqual([1]);
    await user.keyboard('j[Space]');
    expect(chosen()).toEqual([1, 2]);
    await user.keyboard('[Space]');
    expect(chosen()).toEqual([1]);
    await user.keyboard('{Control>}a{/Control}');
    expect(selection.size).toBe(500);
    await user.keyboard('{Escape}');
    expect(selection.size).toBe(0);
  });

  test('Enter and F2 open the first field of the row of the cursor, or that of the marked column', async () => {
    const { user } = await open();
    focusGrid();
    await user.keyboard('jj{Enter}');
    expect(screen.getByRole('textbox', { name: 'searches 1002' })).toBeTruthy();
    await user.keyboard('{Escape}');
    focusGrid();
    await user.keyboard('k{F2}');
    expect(screen.getByRole('textbox', { name: 'searches 1001' })).toBeTruthy();
    await user.keyboard('{Escape}');
    focusGrid();
    expect(edited).not.toHaveBeenCalled();
    await user.keyboard('{ArrowRight}{ArrowRight}{ArrowRight}{Enter}');
    expect(edited).toHaveBeenLastCalledWith('tea 1');
  });

  test('a letter acts on the selection in the order of the table, or on the row of the cursor', async () => {
    const { user } = await open();
    focusGrid();
    await user.keyboard('jc');
    expect(acted).toHaveBeenLastCalledWith([1_001]);
    await user.keyboard('jjxkkxc');
    expect(acted).toHaveBeenLastCalledWith([1_001, 1_003]);
    acted.mockClear();
    await user.keyboard('{Alt>}c{/Alt}q');
    expect(acted).not.toHaveBeenCalled();
  });

  test('Ctrl C copies the selection with its headings, but not what is hidden', async () => {
    const { user } = await open(<Shown of={ids} hidden={['note']} />);
    const write = vi.fn(async (_items: { of: Record<string, Blob> }[]) => {});
    vi.stubGlobal(
      'ClipboardItem',
      class {
        constructor(readonly of: Record<string, Blob>) {}
      },
    );
    Object.defineProperty(navigator, 'clipboard', { configurable: true, value: { write } });
    focusGrid();
    await user.keyboard('jxjx{Control>}c{/Control}');
    await waitFor(() => expect(write).toHaveBeenCalledTimes(1));
    const blob = write.mock.calls[0]?.[0][0]?.of['text/plain'] as Blob;
    const text = await new Promise((resolve) => {
      const reader = new FileReader();
      reader.onload = () => resolve(reader.result);
      reader.readAsText(blob);
    });
    expect(text).toBe('Keyword\tSearches\ntea 1\t499\ntea 2\t498');
  });

  test('fewer rows: the cursor stays on one that is there', async () => {
    const { user, rerender } = await open();
    focusGrid();
    await user.keyboard('jjjjj');
    rerender(<Shown of={source(all.slice(0, 3))} />);
    await screen.findByText('tea 2');
    expect(cursor()).toBe(2);
  });

  test('selected keys stay selected while they are filtered away', async () => {
    const { user, rerender } = await open();
    focusGrid();
    await user.keyboard('xjx');
    const fewer = source(all.slice(1, 3));
    rerender(<Shown of={fewer} />);
    expect(selection.size).toBe(2);
    expect(selection.listIn(fewer.ids)).toEqual([1_001]);
    rerender(<Shown of={ids} />);
    expect(chosen()).toEqual([0, 1]);
  });
});

describe('cells', () => {
  const marked = () =>
    [...document.querySelectorAll<HTMLElement>('[data-marked]')].map(({ dataset }) => dataset.column);
  const puts = () =>
    (put.mock.calls.at(-1)?.[0] as { row: Row; column: string; value: unknown }[] | undefined)?.map(
      ({ row: { id }, column, value }) => [id - 1_000, column, value],
    );

  test('the arrows mark a column, with Shift more, back to none; Escape lets them go before the rows', async () => {
    const { user } = await open();
    focusGrid();
    await user.keyboard('{ArrowRight}');
    expect(marked()).toEqual(['name']);
    await user.keyboard('{ArrowRight}{Shift>}{ArrowRight}{/Shift}');
    expect(marked()).toEqual(['searches', 'note']);
    await user.keyboard('{ArrowLeft}{ArrowLeft}{ArrowLeft}');
    expect(marked()).toEqual([]);
    await user.keyboard('xjx{ArrowRight}');
    expect(marked()).toEqual(['name', 'name']);
    await user.keyboard('{Escape}');
    expect([marked(), chosen()]).toEqual([[], [0, 1]]);
    await user.keyboard('{Escape}');
    expect(chosen()).toEqual([]);
  });

  test('a column that is pasted goes from the marked cell down', async () => {
    const { user } = await open();
    focusGrid();
    await user.keyboard('j{ArrowRight}{ArrowRight}');
    await user.paste('7\n8\n9\n');
    await waitFor(() =>
      expect(puts()).toEqual([
        [1, 'searches', 7],
        [2, 'searches', 8],
        [3, 'searches', 9],
      ]),
    );
  });

  test('one value goes into all rows that are selected, and Ctrl D takes it from the first of them', async () => {
    const { user } = await open();
    focusGrid();
    await user.keyboard('{ArrowRight}{ArrowRight}{Shift>}{ArrowDown}{ArrowDown}{/Shift}');
    await user.paste('7');
    await waitFor(() =>
      expect(puts()).toEqual([
        [0, 'searches', 7],
        [1, 'searches', 7],
        [2, 'searches', 7],
      ]),
    );
    await user.keyboard('{Control>}d{/Control}');
    await waitFor(() =>
      expect(puts()).toEqual([
        [1, 'searches', 500],
        [2, 'searches', 500],
      ]),
    );
  });

  test('cells pasted into an open field go into the table, one value stays in the field', async () => {
    const { user } = await open();
    await user.click(screen.getByRole('button', { name: 'Edit searches 1001' }));
    await user.paste('7');
    expect(put).not.toHaveBeenCalled();
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'searches 1001' }).value).toBe('7');
    await user.paste('7\n8');
    await waitFor(() =>
      expect(puts()).toEqual([
        [1, 'searches', 7],
        [2, 'searches', 8],
      ]),
    );
    expect(screen.queryByRole('textbox')).toBeNull();
  });

  test('lines with headings find their rows by name, and show what would happen first', async () => {
    const { user } = await open();
    focusGrid();
    await user.paste('Searches\tKeyword\n3\ttea 4\n7\ttea 2\nx\ttea 3\n1\tcoffee\n');
    const dialog = await screen.findByRole('dialog', { name: 'Paste into Teas' });
    expect(within(dialog).getByText('2 values will be put in.')).toBeTruthy();
    expect(
      within(dialog)
        .getAllByRole('row')
        .slice(1)
        .map((line) => line.textContent),
    ).toEqual(['4SearchesxNo number.', '5KeywordcoffeeNo row in this table is called that.']);
    expect(within(dialog).getByRole('list', { name: 'Before and after' }).textContent).toBe(
      'tea 4 Searches496 → 3tea 2 Searches498 → 7',
    );
    expect(put).not.toHaveBeenCalled();
    // The panel's keys are not the table's: Esc, which closes it, is left to it.
    expect(fireEvent.keyDown(dialog, { key: 'Escape' })).toBe(true);
    await user.click(within(dialog).getByRole('button', { name: 'Put 2 values in' }));
    expect(puts()).toEqual([
      [4, 'searches', 3],
      [2, 'searches', 7],
    ]);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  });

  test('what is refused stays on the screen, with what was to be put in', async () => {
    put.mockResolvedValueOnce({ done: false, words: 'Two would be called “tea”.' });
    const { user } = await open();
    focusGrid();
    await user.paste('Keyword\tSearches\ntea 4\t3\n');
    await user.click(await screen.findByRole('button', { name: 'Put 1 value in' }));
    expect(await screen.findByRole('button', { name: 'Put 1 value in' })).toBeTruthy();
  });

  test('widths: Alt with the arrows moves that of the marked column, a double click gives it back', async () => {
    const { user } = await open(<Shown of={ids} widths={{ searches: 200 }} />);
    focusGrid();
    const template = () => row(0).style.gridTemplateColumns;
    expect(template()).toContain('200px');
    await user.keyboard('{ArrowRight}{Alt>}{ArrowRight}{/Alt}');
    expect(Object.keys(kept.mock.calls[0]?.[0])).toEqual(['searches', 'name']);
    const edges = screen.getAllByRole('separator');
    await user.dblClick(edges[1] as HTMLElement);
    expect(kept).toHaveBeenLastCalledWith({});
  });

  test('an edge is dragged from where it is, and kept once it is let go', async () => {
    const { user } = await open(<Shown of={ids} widths={{ searches: 200 }} />);
    const edge = screen.getAllByRole('separator')[1] as HTMLElement;
    vi.spyOn(edge.parentElement as HTMLElement, 'getBoundingClientRect').mockReturnValue({
      width: 200,
    } as DOMRect);
    await user.pointer([
      { keys: '[MouseLeft>]', target: edge, coords: { clientX: 500 } },
      { coords: { clientX: 460 } },
      { keys: '[/MouseLeft]', coords: { clientX: 460 } },
    ]);
    await waitFor(() => expect(kept).toHaveBeenLastCalledWith({ searches: 160 }));
    expect(kept).toHaveBeenCalledTimes(1);
  });
});

test('a page that could not be had is asked for again', async () => {
  vi.useFakeTimers();
  try {
    let times = 0;
    const failing: RowSource<Row, number> = {
      ...source(all.slice(0, 5)),
      fetchPage: async (keys) => {
        if (++times === 1) throw new Error('gone');
        return keys.flatMap((key) => byId.get(key) ?? []);
      },
    };
    shown(<Shown of={failing} />);
    await act(() => vi.advanceTimersByTimeAsync(100));
    expect(screen.queryByText('tea 0')).toBeNull();
    await act(() => vi.advanceTimersByTimeAsync(2_100));
    expect(screen.getByText('tea 0')).toBeTruthy();
    expect(times).toBe(2);
  } finally {
    vi.useRealTimers();
  }
});

test('rows that come while the table is told of another source for the same are drawn', async () => {
  const come = awaited<Row[]>();
  const slow = (): RowSource<Row, number> => ({ ...source(all.slice(0, 5)), fetchPage: () => come.promise });
  const { rerender } = shown(<Shown of={slow()} />);
  rerender(<Shown of={slow()} />);
  await act(async () => come.answer(all.slice(0, 5)));
  expect(screen.getByText('tea 0')).toBeTruthy();
});
