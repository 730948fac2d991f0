import {
  duplicatePlan,
  editBrief,
  openJobs,
  openPlan,
  type PlanState,
  planHistory,
  readMe,
  redoChange,
  undoChange,
} from '@sprig/contracts';
import { act, screen, waitFor, within } from '@testing-library/react';
import { Toaster } from 'sonner';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { stages } from '../stages/list.ts';
import { planState } from '../testing/plan-state.ts';
import { meOf, refusing, servedBy, shownAt } from '../testing/rendered.tsx';
import { leavesOf } from './leaf.ts';
import { PlanFrame } from './PlanFrame.tsx';

vi.mock('../pool/use-pool.ts', () => ({
  poolWorker: () => ({
    query: async ({ filter }: { filter: string }) => ({
      ids: filter === 'teapot' ? Uint32Array.of(4, 9) : Uint32Array.of(),
    }),
    page: async (ids: number[]) =>
      ids.map((id) => ({ id, text: id === 4 ? 'teapot' : 'cast iron teapot', searches: 90 })),
  }),
}));

class Stream {
  static last: Stream;
  onmessage: ((event: { data: string }) => void) | null = null;
  isOpen = true;
  constructor(readonly address: string) {
    Stream.last = this;
  }
  close() {
    this.isOpen = false;
  }
}

const plan = planState;
let now: PlanState;
let steps: (typeof undoChange)[];
function open(at = '/plans/7/gather') {
  vi.stubGlobal('EventSource', Stream);
  vi.stubGlobal('matchMedia', () => ({
    matches: false,
    addEventListener: () => {},
    removeEventListener: () => {},
  }));
  const asked = servedBy([
    [openPlan, () => now],
    [openJobs, () => ({ jobs: [] })],
    [readMe, () => meOf()],
    [
      undoChange,
      ({ body }) => {
        steps.push(undoChange);
        if (!(body as { force: boolean }).force && now.brief.name === 'Others')
          return refusing(
            { code: 'conflict', message: 'Somebody has changed the same since.', at: 'force' },
            409,
          );
        return { revision: 6, label: 'Cut 3 keywords' };
      },
    ],
    [
      redoChange,
      () => {
        steps.push(redoChange);
        return { revision: 6, label: 'Cut 3 keywords' };
      },
    ],
    [duplicatePlan, () => ({ id: 8 })],
    [editBrief, () => ({ revision: 6 })],
    [
      planHistory,
      () => ({
        changes: [
          {
            revision: 5,
            label: 'Cut 3 keywords',
            kind: 'edit',
            actor: 'You',
            by: 1,
            at: '2027-01-01T10:00:00Z',
            undone: false,
            undoable: true,
          },
          {
            revision: 4,
            label: 'Fold 2 keywords',
            kind: 'undo',
            actor: 'You',
            by: 1,
            at: '2027-01-01T09:00:00Z',
            undone: true,
            undoable: false,
          },
        ],
        people: [{ by: 1, actor: 'You' }],
      }),
    ],
  ]);
  const shown = shownAt(
    at,
    <>
      <PlanFrame stages={stages} />
      <input aria-label="Somewhere to type" />
      <input aria-label="Filter" data-filter />
      <Toaster />
    </>,
    '/plans/:plan/*',
  );
  return { ...shown, asked };
}
const ready = () => screen.findByRole('navigation', { name: 'Trail' });

beforeEach(() => {
  now = structuredClone(plan);
  steps = [];
});

describe('the trail', () => {
  test('a leaf for each stage, with its count and its state', async () => {
    open();
    const trail = await ready();
    const links = within(trail).getAllByRole('link');
    expect(links.map((link) => link.getAttribute('title'))).toEqual([
      'Brief: done (g 1)',
      'Gather: done (g 2)',
      'Mix: unfinished (g 3)',
      'Prune: done (g 4)',
      'Sort: untouched (g 5)',
      'Build: done (g 6)',
      'Write: unfinished (g 7)',
      'Ship: done (g 8)',
      'Learn: untouched (g 9)',
    ]);
    expect(links[1]?.textContent).toContain('614 keywords');
    expect(links[6]?.textContent).toContain('4 do not fit');
    expect(document.title).toBe('Tea – Green Sprig');
  });

  test.each<[string, (state: PlanState) => void, Record<string, [string, string]>]>([
    [
      'an empty plan',
      (state) => {
        for (const name of Object.keys(state.counts)) Object.assign(state.counts, { [name]: 0 });
      },
      {
        Brief: ['untouched', 'nothing set'],
        Gather: ['untouched', '0 keywords'],
        Prune: ['untouched', 'nothing out'],
        Build: ['untouched', 'no groups yet'],
        Write: ['untouched', 'no ads yet'],
        Ship: ['untouched', '0 rows'],
      },
    ],
    [
      'a plan that is not built yet',
      (state) => {
        state.builtRevision = 4;
      },
      { Build: ['unfinished', '12 groups'] },
    ],
    [
      'blockers',
      (state) => {
        state.counts.blockers = 2;
      },
      { Ship: ['blocked', '2 blockers'] },
    ],
    [
      'all that fits',
      (state) => {
        state.counts.misfits = 0;
        state.counts.recipesOut = 0;
      },
      { Write: ['done', 'all fit'], Mix: ['done', '2 recipes'] },
    ],
  ])('%s', (_, change, expected) => {
    const state = structuredClone(plan);
    change(state);
    const leaves = new Map(leavesOf(stages, state).map(({ name, state: is, tally }) => [name, [is, tally]]));
    for (const [name, leaf] of Object.entries(expected))
      expect([name, leaves.get(name)]).toEqual([name, leaf]);
  });
});

describe('keys of the frame', () => {
  test.each(stages.map(({ path }, at) => [at + 1, path] as const))(
    'g %i goes to %s',
    async (number, stage) => {
      const { user, address } = open();
      await ready();
      await user.keyboard(`g${number}`);
      expect(address()).toBe(`/plans/7/${stage}`);
    },
  );

  test('a number without g goes nowhere, nor do keys of a field', async () => {
    const { user, address } = open();
    await ready();
    await user.keyboard('3gx3');
    expect(address()).toBe('/plans/7/gather');
    await user.click(screen.getByRole('textbox', { name: 'Somewhere to type' }));
    await user.keyboard('g3?/');
    expect(address()).toBe('/plans/7/gather');
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  test('/ goes to the filter, ? shows the keys of the stage', async () => {
    const { user } = open();
    await ready();
    await user.keyboard('/');
    expect(document.activeElement).toBe(screen.getByRole('textbox', { name: 'Filter' }));
    (document.activeElement as HTMLElement).blur();
    await user.keyboard('?');
    const help = await screen.findByRole('dialog', { name: 'Keys of this screen' });
    expect(within(help).getByText('cut the selection')).toBeTruthy();
    expect(within(help).queryByText('block it')).toBeNull();
  });

  test('Ctrl Z and Ctrl Shift Z step back and on; within a field they are the field’s', async () => {
    const { user } = open();
    await ready();
    await user.keyboard('{Control>}z{/Control}');
    await screen.findByText('Undone: Cut 3 keywords');
    await user.keyboard('{Control>}{Shift>}z{/Shift}{/Control}');
    await screen.findByText('Done again: Cut 3 keywords');
    expect(steps).toEqual([undoChange, redoChange]);
    await user.click(screen.getByRole('textbox', { name: 'Somewhere to type' }));
    await user.keyboard('{Control>}z{/Control}');
    expect(steps).toHaveLength(2);
  });
});

describe('undo', () => {
  test('its button says what it would take back, and redo that there is nothing', async () => {
    const { user } = open();
    await ready();
    expect(screen.getByRole('button', { name: 'Nothing to redo' }).hasAttribute('disabled')).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Undo: Cut 3 keywords' }));
    await waitFor(() => expect(steps).toEqual([undoChange]));
  });

  test('where somebody else has changed the same since, it asks, and goes on when told', async () => {
    now.brief.name = 'Others';
    const { user, asked } = open();
    await ready();
    await user.click(screen.getByRole('button', { name: 'Undo: Cut 3 keywords' }));
    await screen.findByText('Somebody has changed the same since.');
    await user.click(screen.getByRole('button', { name: 'Step back all the same' }));
    await waitFor(() => expect(steps).toHaveLength(2));
    const bodies = asked.filter(({ path }) => path.endsWith('/undo')).map(({ body }) => body);
    expect(bodies).toEqual([{ force: false }, { force: true }]);
  });
});

describe('find or do', () => {
  const find = async () => {
    const shown = open();
    await ready();
    await shown.user.keyboard('{Control>}k{/Control}');
    return { ...shown, field: await screen.findByPlaceholderText('Find a keyword, or type what to do') };
  };

  test('what is typed while it is on its way is in its field', async () => {
    const { user } = open();
    await ready();
    await user.keyboard('{Control>}k{/Control}wri');
    const field = await screen.findByPlaceholderText<HTMLInputElement>('Find a keyword, or type what to do');
    expect(field.value).toBe('wri');
  });

  test('offers what the screen can do, by its name', async () => {
    const { user, field } = await find();
    await user.type(field, 'worth doing next');
    expect(screen.getByText('Go to what is worth doing next')).toBeTruthy();
  });

  test('goes to a stage by its name', async () => {
    const { user, field, address } = await find();
    await user.type(field, 'wri{Enter}');
    expect(address()).toBe('/plans/7/write');
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  test('does what it is told: duplicate the plan', async () => {
    const { user, field, address } = await find();
    await user.type(field, 'duplicate');
    await user.click(screen.getByText('Duplicate this plan'));
    await waitFor(() => expect(address()).toBe('/plans/8/gather'));
  });

  test('archives the plan, which says what it replaces', async () => {
    const { user, field, asked } = await find();
    await user.type(field, 'archive this');
    await user.click(screen.getByText('Archive this plan'));
    await screen.findByText(/Archived\. It stays/);
    expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({
      edits: [{ at: 'archived', before: false, after: true }],
    });
  });

  test('finds keywords of the pool, and tries what is typed as a search', async () => {
    const { user, field, address } = await find();
    await user.type(field, 'teapot');
    await screen.findByText('cast iron teapot');
    expect(screen.getByText('Keywords (2)')).toBeTruthy();
    await user.click(screen.getByText('cast iron teapot'));
    expect(address()).toBe('/plans/7/gather?filter=cast%20iron%20teapot&state=all');
  });

  test('Escape and Ctrl K leave it', async () => {
    const { user } = await find();
    await user.keyboard('{Escape}');
    expect(screen.queryByRole('dialog')).toBeNull();
    await user.keyboard('{Control>}k{/Control}');
    expect(await screen.findByRole('dialog')).toBeTruthy();
    await user.keyboard('{Control>}k{/Control}');
    expect(screen.queryByRole('dialog')).toBeNull();
  });
});

test('the history says who did what, and what was undone', async () => {
  const { user } = open();
  await ready();
  await user.click(screen.getByRole('button', { name: 'Your settings' }));
  await user.click(screen.getByRole('button', { name: 'History of this plan' }));
  const panel = await screen.findByRole('dialog', { name: 'History of this plan' });
  const lines = await within(panel).findAllByRole('listitem');
  expect(lines.map((line) => line.textContent)).toEqual([
    expect.stringMatching(/^5Cut 3 keywordsYou,/),
    expect.stringMatching(/^4Undone: Fold 2 keywordsYou,/),
  ]);
  expect(within(lines[1] as HTMLElement).getByText(/Fold/).className).toContain('line-through');
});

test('another window’s change is fetched, and the stream ends with the screen', async () => {
  const { unmount } = open();
  await ready();
  expect(Stream.last.address).toBe('/api/plans/7/events');
  now = { ...now, revision: 6, counts: { ...now.counts, keywords: 600 } };
  await act(async () =>
    Stream.last.onmessage?.({ data: JSON.stringify({ type: 'revision', plan: 7, revision: 6 }) }),
  );
  await screen.findByText('600 keywords');
  unmount();
  expect(Stream.last.isOpen).toBe(false);
});

test('a plan that is not there says so', async () => {
  servedBy([]);
  vi.stubGlobal('EventSource', Stream);
  shownAt('/plans/9/gather', <PlanFrame stages={stages} />, '/plans/:plan/*');
  await screen.findByText(/No GET \/api\/plans\/9 here/, {}, { timeout: 5_000 });
});
