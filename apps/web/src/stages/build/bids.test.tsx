import { aimBids, changeBids, listOutlets } from '@sprig/contracts';
import { quillmere } from '@sprig/core/outlets';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { refusing, servedBy, shown, shownAt } from '../../testing/rendered.tsx';
import { BulkBids } from './BulkBids.tsx';
import { CostCurve } from './CostCurve.tsx';
import { LadderPicture } from './LadderPicture.tsx';

const day = (clicks: number, cost: number) => ({ clicks, cost, impressions: clicks * 20 });
const would = (changed: number) => ({
  revision: 4,
  rows: 12,
  changed,
  before: day(10, 4_000_000),
  after: day(14, 6_000_000),
  unreachable: { 'no-estimate': 2, 'out-of-reach': 0, 'above-ceiling': 1 },
  samples: [{ key: 'k1:e', text: 'green tea', type: 'exact' as const, before: 400_000, after: 600_000 }],
});

describe('the ladder', () => {
  const draft = vi.fn();
  const keep = vi.fn();
  const undraft = vi.fn();
  beforeEach(() => {
    for (const told of [draft, keep, undraft]) told.mockClear();
  });
  const steps = [
    { id: 'broad', words: 'broad', step: 10_000, above: '£0.40', used: true },
    { id: 'exact', words: 'exact', step: 50, above: '£0.50', used: false },
  ];
  const open = () =>
    shown(<LadderPicture label="Steps" steps={steps} onDraft={draft} onKeep={keep} onUndraft={undraft} />);
  const step = (name: string) => screen.getByRole('slider', { name: `Steps: ${name}` });

  test('arrows move a step by 1%, with Shift by 10%, never under nothing', async () => {
    const { user } = open();
    step('broad').focus();
    await user.keyboard('{ArrowUp}');
    expect(keep).toHaveBeenLastCalledWith('broad', 10_100);
    await user.keyboard('{Shift>}{ArrowDown}{/Shift}');
    expect(keep).toHaveBeenLastCalledWith('broad', 9_000);
    step('exact').focus();
    await user.keyboard('{ArrowDown}');
    expect(keep).toHaveBeenLastCalledWith('exact', 0);
  });

  test('dragged, what it would make is drafted, and kept when it is let go; let go where it was, nothing is', () => {
    vi.spyOn(SVGElement.prototype, 'getBoundingClientRect').mockReturnValue({ height: 150 } as DOMRect);
    open();
    const broad = step('broad');
    fireEvent.pointerDown(broad, { pointerId: 1, clientY: 100 });
    fireEvent.pointerMove(broad, { pointerId: 1, clientY: 60 });
    const [id, drafted] = draft.mock.calls.at(-1) as [string, number];
    expect(id).toBe('broad');
    // 40 of the 108 pixels that 162% take.
    expect(drafted).toBe(16_000);
    fireEvent.pointerUp(broad, { pointerId: 1, clientY: 60 });
    expect(keep).toHaveBeenCalledWith('broad', drafted);
    keep.mockClear();
    fireEvent.pointerDown(broad, { pointerId: 1, clientY: 100 });
    fireEvent.pointerMove(broad, { pointerId: 1, clientY: 60 });
    fireEvent.pointerMove(broad, { pointerId: 1, clientY: 100 });
    fireEvent.pointerUp(broad, { pointerId: 1, clientY: 100 });
    expect(keep).not.toHaveBeenCalled();
    expect(undraft).toHaveBeenCalledTimes(1);
  });
});

describe('bids of many at once', () => {
  const close = vi.fn();
  const open = () =>
    shownAt(
      '/',
      <BulkBids plan={7} currency="GBP" scope={{ rows: ['k1:e'] }} what="1 row" onClose={close} />,
    );
  beforeEach(() => close.mockClear());
  const done = (asked: { path: string; body: unknown }[]) =>
    asked.filter(({ path, body }) => path.endsWith('/bids') && (body as { dry: boolean }).dry === false);

  test('shows before and after, then does it once, and closes', async () => {
    const asked = servedBy([[changeBids, () => would(1)]]);
    const { user } = open();
    await user.clear(screen.getByLabelText('Percent'));
    await user.type(screen.getByLabelText('Percent'), '50');
    const button = await screen.findByRole('button', { name: 'Change 1 bid' });
    const row = within(screen.getByRole('table')).getAllByRole('row')[1] as HTMLElement;
    expect(row.textContent).toBe('green teaexact exact£0.40£0.60');
    await user.click(button);
    await waitFor(() => expect(close).toHaveBeenCalledTimes(1));
    expect(done(asked).map(({ body }) => body)).toEqual([
      {
        scope: { rows: ['k1:e'] },
        change: { kind: 'percent', by: 5_000 },
        network: 'search',
        dry: false,
      },
    ]);
  });

  test('are aimed at a position or a share, part of the way to the next place, each at most so high', async () => {
    const asked = servedBy([
      [changeBids, () => would(1)],
      [aimBids, () => would(1)],
    ]);
    const { user } = open();
    await user.selectOptions(screen.getByLabelText('What to do with the bids'), 'position');
    const type = async (label: string, typed: string) => {
      await user.clear(screen.getByLabelText(label));
      await user.type(screen.getByLabelText(label), typed);
    };
    await type('Position', '0');
    expect(screen.getByRole('alert').textContent).toContain('from 1, the top');
    await type('Position', '2,5');
    await type('Headroom', '50');
    await user.selectOptions(screen.getByLabelText('What the headroom is of'), 'of-way');
    await type('Greatest bid', '1.20');
    expect((await screen.findByText(/3 keywords can’t be aimed/)).textContent).toContain(
      'more than the greatest bid',
    );
    await user.click(screen.getByRole('button', { name: 'Change 1 bid' }));
    await waitFor(() => expect(close).toHaveBeenCalledTimes(1));
    const aimed = asked.filter(
      ({ path, body }) => path.endsWith('/aim') && (body as { dry: boolean }).dry === false,
    );
    expect(aimed.map(({ body }) => body)).toEqual([
      {
        scope: { rows: ['k1:e'] },
        aim: { kind: 'position', at: 2.5 },
        headroom: { next: 5_000 },
        ceiling: 1_200_000,
        network: 'search',
        dry: false,
      },
    ]);
  });

  test('at partners, where an outlet takes bids for each network: told that the forecast speaks of search', async () => {
    const asked = servedBy([
      [listOutlets, () => ({ outlets: [{ outlet: quillmere, own: false, chosen: true }] })],
      [changeBids, () => would(1)],
    ]);
    const { user } = open();
    await user.selectOptions(await screen.findByLabelText('On which network'), 'partners');
    await screen.findByText(/The forecast speaks of search alone/);
    expect(screen.queryByText(/By the forecast/)).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Change 1 bid' }));
    await waitFor(() => expect(close).toHaveBeenCalledTimes(1));
    expect(done(asked).map(({ body }) => (body as { network: string }).network)).toEqual(['partners']);
  });

  test('what is no number is told, and can’t be done', async () => {
    const asked = servedBy([[changeBids, () => would(1)]]);
    const { user } = open();
    await user.clear(screen.getByLabelText('Percent'));
    await user.type(screen.getByLabelText('Percent'), 'much{Enter}');
    expect(screen.getByRole('alert').textContent).toContain('is no percentage');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Change/ }).disabled).toBe(true);
    expect(done(asked)).toEqual([]);
  });

  test('a refusal leaves it open', async () => {
    servedBy([
      [
        changeBids,
        ({ body }) =>
          (body as { dry: boolean }).dry ? would(1) : refusing({ code: 'invalid', message: 'Not so many.' }),
      ],
    ]);
    const { user } = open();
    await user.click(await screen.findByRole('button', { name: 'Change 1 bid' }));
    await waitFor(() =>
      expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Change 1 bid' }).disabled).toBe(false),
    );
    expect(close).not.toHaveBeenCalled();
  });
});

describe('bids aimed along the curve', () => {
  const curve = [1, 2, 3, 4].map((position) => ({
    ...day(40 - position * 8, 20_000_000 - position * 4_000_000),
    position,
    unreachable: 0,
  }));
  const forecast = {
    rows: 12,
    keywords: 10,
    now: day(12, 6_000_000),
    held: { ...day(10, 5_000_000), reached: 8_000 },
    budget: 5_000_000,
    low: day(8, 4_000_000),
    high: day(16, 9_000_000),
    missing: 0,
    estimated: 0,
    madeUp: 0,
    position: 3.5,
    medianBid: 400_000,
    curve,
    parts: [],
  };
  const changed = vi.fn();
  const open = () =>
    shownAt(
      '/',
      <CostCurve
        plan={7}
        currency="GBP"
        scope={{ all: true }}
        // biome-ignore lint/suspicious/noExplicitAny: amounts are plain numbers here
        forecast={forecast as any}
        onChanged={changed}
      />,
    );

  test('arrows go from position to position, from where it is now; Esc leaves them', async () => {
    const asked = servedBy([[aimBids, () => would(3)]]);
    const { user } = open();
    const slider = screen.getByRole('slider', { name: 'Aim all bids at a position' });
    expect(slider.getAttribute('aria-valuetext')).toContain('now: 12 clicks');
    slider.focus();
    await user.keyboard('{ArrowRight}');
    expect(slider.getAttribute('aria-valuenow')).toBe('2');
    await user.keyboard('{ArrowLeft}{ArrowLeft}{ArrowLeft}{ArrowLeft}');
    expect(slider.getAttribute('aria-valuenow')).toBe('4');
    expect(await screen.findByText(/3 bids of 12 would change/)).toBeTruthy();
    expect(screen.getByText(/3 keywords can’t be aimed/).textContent).toContain(
      '2 since their searches or their CPC are not known, 1 since it would take more than the greatest bid',
    );
    await user.keyboard('{Escape}');
    expect(screen.queryByText(/would change/)).toBeNull();
    expect(asked.every(({ body }) => (body as { dry?: boolean } | undefined)?.dry !== false)).toBe(true);
  });

  test('a share of impressions takes the place of the position; done once, it is told', async () => {
    const asked = servedBy([[aimBids, () => would(3)]]);
    const { user } = open();
    screen.getByRole('slider').focus();
    await user.keyboard('{ArrowRight}');
    await user.type(screen.getByLabelText('Share of impressions, %'), '60');
    await user.click(await screen.findByRole('button', { name: 'Aim 3 bids' }));
    await waitFor(() => expect(changed).toHaveBeenCalledTimes(1));
    const done = asked.filter(({ body }) => (body as { dry?: boolean } | undefined)?.dry === false);
    expect(done.map(({ body }) => (body as { aim: unknown }).aim)).toEqual([{ kind: 'share', at: 6_000 }]);
  });
});
