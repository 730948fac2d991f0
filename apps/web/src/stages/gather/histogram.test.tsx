import { act, screen } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { Histogram } from '../../pool/pool-store.ts';
import { shown } from '../../testing/rendered.tsx';
import { SearchesHistogram } from './SearchesHistogram.tsx';

const bar = (from: number | null, to: number | null, count: number) => ({
  from,
  to,
  count,
  searches: count * (from ?? 0),
});
const histogram: Histogram = {
  bars: [bar(null, null, 4), bar(0, 0, 2), bar(1, 9, 30), bar(10, 99, 12), bar(100, null, 1)],
  most: 30,
};
const brushed = vi.fn();
beforeEach(() => brushed.mockClear());

/** The picture is 1,180 wide, as it is drawn; a bar and the gap behind it are a fifth of that. */
const STEP = 1_180 / (5 - 0.08);
const middleOf = (at: number) => STEP * at + (STEP * 0.92) / 2;

function open(from: number | null = null, to: number | null = null) {
  const { container } = shown(
    <SearchesHistogram histogram={histogram} from={from} to={to} onBrush={brushed} />,
  );
  const svg = container.querySelector('svg') as SVGSVGElement;
  // The document of the tests has no coordinates: one unit is one pixel.
  Object.assign(svg, {
    createSVGPoint: () => ({
      x: 0,
      y: 0,
      matrixTransform(this: { x: number; y: number }) {
        return { x: this.x, y: this.y };
      },
    }),
  });
  for (const element of container.querySelectorAll('g'))
    Object.assign(element, { getScreenCTM: () => ({ inverse: () => ({}) }) });
  return container;
}

/** A press, a way and a letting go; the picture listens to the window while it is dragged across. */
function send(target: EventTarget, type: string, clientX: number) {
  const event = new MouseEvent(type, { clientX, clientY: 20, bubbles: true, cancelable: true });
  Object.defineProperty(event, 'view', { value: window });
  act(() => {
    target.dispatchEvent(event);
  });
}

function drag(container: HTMLElement, from: number, to: number) {
  send(container.querySelector('.overlay') as SVGRectElement, 'mousedown', from);
  send(window, 'mousemove', (from + to) / 2);
  send(window, 'mousemove', to);
  send(window, 'mouseup', to);
}

describe('keywords by monthly searches', () => {
  test('each bar says what it counts, in a picture and in words', () => {
    open();
    expect(screen.getByRole('figure', { name: 'Keywords by monthly searches' })).toBeTruthy();
    expect(screen.getByText('1 to 9 searches: 30 keywords, 30 searches')).toBeTruthy();
    expect(screen.getByText('No figure: 4 keywords, 0 searches')).toBeTruthy();
    expect(
      screen.getByText(
        'No figure: 4; 0 searches: 2; 1 to 9 searches: 30; 10 to 99 searches: 12; 100 searches or more: 1',
      ),
    ).toBeTruthy();
  });

  test.each([
    ['over the second to the fourth bar', 1, 3, [0, 99]],
    ['backwards', 3, 1, [0, 99]],
    ['over one bar', 2, 2, [1, 9]],
    ['to the last bar, which has no end', 3, 4, [10, null]],
    ['over keywords without a figure', 0, 1, [-1, 0]],
    ['over all', 0, 4, [-1, null]],
  ])('a brush %s', (_, from, to, expected) => {
    const container = open();
    const [first, last] = from <= to ? [-8, 8] : [8, -8];
    drag(container, middleOf(from) + first, middleOf(to) + last);
    expect(brushed).toHaveBeenCalledTimes(1);
    expect(brushed.mock.calls[0]).toEqual(expected);
  });

  test('a bar is in once its middle is', () => {
    drag(open(), middleOf(1) + 8, middleOf(3) - 8);
    expect(brushed).toHaveBeenCalledWith(1, 9);
  });

  test('a click beside what is brushed takes the brush away', () => {
    const container = open(1, 9);
    send(container.querySelector('.overlay') as SVGRectElement, 'mousedown', middleOf(4));
    send(window, 'mouseup', middleOf(4));
    expect(brushed).toHaveBeenCalledWith(null, null);
  });

  test('bars outside of what is chosen are grey, those inside are not', () => {
    const container = open(1, 99);
    const greys = [...container.querySelectorAll('rect[class^="fill-"]')].map((rect) =>
      rect.getAttribute('class'),
    );
    expect(greys).toEqual([
      'fill-base-300',
      'fill-base-300',
      'fill-primary/75',
      'fill-primary/75',
      'fill-base-300',
    ]);
    const selection = container.querySelector('.selection');
    expect(Number(selection?.getAttribute('x'))).toBeCloseTo(STEP * 2);
    expect(Number(selection?.getAttribute('width'))).toBeCloseTo(STEP + STEP * 0.92);
  });
});
