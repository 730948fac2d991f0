import { screen } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import type { SortSummary } from '../../pool/sorting.ts';
import { shown } from '../../testing/rendered.tsx';
import { ThemeMap } from './ThemeMap.tsx';
import { treeOf } from './theme-tree.ts';

/** The document of the tests tells no size by itself. */
class Observer {
  constructor(private readonly seen: () => void) {}
  observe() {
    this.seen();
  }
  unobserve() {}
  disconnect() {}
}
const opened = vi.fn();
const pressed = vi.fn();
beforeEach(() => {
  vi.stubGlobal('ResizeObserver', Observer);
  opened.mockClear();
  pressed.mockClear();
});

const none = { keywords: 0, searches: 0 };
function open(count: number) {
  const themes = Array.from({ length: count }, (_, at) => ({
    id: at + 1,
    parent: null,
    name: `Theme ${at + 1}`,
    sift: null,
    idea: false,
    colour: null,
    stage: null,
  }));
  const sums = themes.map(({ id }) => {
    const own = { keywords: 4, searches: (count + 1 - id) * 10 };
    return {
      id,
      own,
      all: own,
      held: 0,
      tightness: 1,
      cpc: null,
      stages: { early: none, comparing: none, ready: none, none },
    };
  });
  const tree = treeOf(themes, { themes: sums } as unknown as SortSummary);
  return shown(
    <ThemeMap
      tree={tree}
      open={null}
      unplaced={none}
      suggestions={[]}
      // biome-ignore lint/suspicious/noExplicitAny: no limit of sizes is shown here
      settings={{ least: 0, most: 0, tight: 0 } as any}
      matches={null}
      onOpen={opened}
      onTake={() => {}}
      onDrop={() => {}}
      onKey={pressed}
    />,
  );
}
const patches = () => screen.getAllByRole('button').map((button) => button.getAttribute('data-theme-id'));

test('a theme is opened by a press, or found by the arrows; its keys go with it', async () => {
  const { user } = open(3);
  const [first] = screen.getAllByRole('button');
  first?.focus();
  await user.keyboard('{ArrowRight}c');
  expect(pressed.mock.calls.at(-1)?.[1].name).toBe('Theme 2');
  await user.keyboard('{ArrowLeft}');
  expect(document.activeElement).toBe(first);
  await user.click(first as HTMLElement);
  expect(opened).toHaveBeenCalledWith(1);
});

test('of 300 themes the smaller ones are shown when they are asked for, and the largest again', async () => {
  const { user } = open(300);
  const first = patches().filter(Boolean);
  expect(first).toContain('1');
  expect(first).not.toContain('300');
  const shownNow = first.length;
  await user.click(screen.getByRole('button', { name: `Show the ${300 - shownNow} smaller themes` }));
  const smaller = patches().filter(Boolean);
  expect(smaller).not.toContain('1');
  expect(smaller).toContain(String(shownNow + 1));
  await user.click(screen.getByRole('button', { name: 'Back to the largest of 300 themes' }));
  expect(patches().filter(Boolean)).toEqual(first);
});
