import {
  type OutletRow,
  type PlanState,
  pageOutletRows,
  type RowsLook,
  readJob,
  startRows,
  stopJob,
  viewRows,
} from '@sprig/contracts';
import { fennelwick, plainOutlet, rowKinds } from '@sprig/core/outlets';
import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { RowsView } from './RowsView.tsx';

const JOB = '4b1f5f3e-6a80-4f0e-9c57-3f3f3c0b7c11';
const plan = { id: 1, revision: 3, builtRevision: 3, counts: { groups: 12 } } as PlanState;
const counts = { added: 0, changed: 0, removed: 0, same: 0 };
const values = ['row-kind', 'campaign', 'group', 'keyword', 'bid'];
const lookOf = (keywords: number): RowsLook => ({
  stamp: 5,
  kinds: Object.fromEntries(
    rowKinds.map((kind) => [
      kind,
      { counts: kind === 'keyword' ? { ...counts, added: keywords - 1, changed: 1 } : counts, values },
    ]),
  ) as RowsLook['kinds'],
});
const rowAt = (at: number): OutletRow => ({
  at,
  change: at === 0 ? 'changed' : 'added',
  cells: ['Keyword', 'Teeth', 'crowns', `crown ${at}`, '0.40'],
  before: at === 0 ? { 4: '0.30' } : {},
});

type Served = {
  look?: () => RowsLook | null;
  onStart?: () => void;
  status?: 'done' | 'stopped';
  refuse?: boolean;
};
const served = ({
  look = () => lookOf(400),
  onStart = () => {},
  status = 'done',
  refuse = false,
}: Served = {}) =>
  servedBy([
    [viewRows, () => ({ look: look() })],
    [
      startRows,
      () => {
        onStart();
        return refuse
          ? Response.json({ code: 'invalid', message: 'It ships there no more.' }, { status: 400 })
          : { job: JOB };
      },
    ],
    [stopJob, () => ({})],
    [
      readJob,
      () => ({
        id: JOB,
        plan: 1,
        kind: 'row-look',
        status,
        phase: '',
        done: 1,
        total: 2,
        createdAt: '2026-12-01T00:00:00Z',
        endedAt: null,
        failure: null,
        result: { rows: 400 },
      }),
    ],
    [
      pageOutletRows,
      ({ body }) => {
        const { from = 0, count = 0, words = '', change = 'all' } = body as Record<string, never>;
        const all = Array.from({ length: 400 }, (_, at) => rowAt(at)).filter(
          (row) =>
            (change === 'all' || row.change === change) && row.cells.join(' ').includes(words as string),
        );
        const rows = all.map((row, at) => ({ ...row, at })).slice(from, from + count);
        return { total: all.length, rows };
      },
    ],
  ]);

const open = (isBuilt = true, at = '/plans/1/ship?view=rows') =>
  shownAt(at, <RowsView plan={plan} outlets={[plainOutlet, fennelwick]} isBuilt={isBuilt} />);

test('rows are shown under the outlet’s own headings, with what changed cells said before', async () => {
  served();
  const { user } = open(true, '/plans/1/ship?view=rows&outlet=fennelwick');
  const grid = await screen.findByRole('grid', { name: 'Rows for Fennelwick' });
  await waitFor(() => expect(grid.textContent).toContain('crown 0'));
  const heads = screen.getAllByRole('columnheader').map(({ textContent }) => textContent);
  const own = fennelwick.sheets[0]?.columns.find(({ value }) => value === 'bid')?.heading ?? '';
  expect(own).not.toBe('');
  expect(heads).toContain(own);
  expect(grid.textContent).toContain('0.300.40');
  expect(screen.getByText('400 rows')).toBeTruthy();
  await user.selectOptions(screen.getByLabelText('How they stand'), 'changed');
  await waitFor(() => expect(screen.getByText('1 row')).toBeTruthy());
  await user.selectOptions(screen.getByLabelText('How they stand'), 'all');
  await user.type(screen.getByLabelText('Filter rows'), 'crown 39');
  await waitFor(() => expect(screen.getByText('11 rows')).toBeTruthy());
});

test('where they were not looked at yet, or the plan was changed, that is done by itself', async () => {
  let there: RowsLook | null = null;
  const onStart = () => {
    there = lookOf(400);
  };
  const asked = served({ look: () => there, onStart });
  open();
  await screen.findByRole('grid');
  expect(asked.filter(({ method, path }) => method === 'POST' && path.endsWith('/rows'))).toHaveLength(1);
});

test('of a plan without ad groups it is said what is missing', async () => {
  const asked = served({ look: () => null });
  const none = { ...plan, counts: { ...plan.counts, groups: 0 } };
  shownAt('/plans/1/ship?view=rows', <RowsView plan={none} outlets={[plainOutlet]} isBuilt />);
  expect(await screen.findByText('Nothing is built yet')).toBeTruthy();
  expect(asked.some(({ method }) => method === 'POST')).toBe(false);
});

test('before the plan is built nothing is looked at', async () => {
  const asked = served({ look: () => null });
  open(false);
  await waitFor(() => expect(asked.length).toBeGreaterThan(0));
  expect(asked.some(({ method }) => method === 'POST')).toBe(false);
});

test('a plan that is changed under the look says so, and is not looked at for ever', async () => {
  const asked = served({ look: () => null });
  open();
  expect((await screen.findByRole('alert')).textContent).toContain('changed while its rows were looked at');
  expect(asked.filter(({ method }) => method === 'POST')).toHaveLength(1);
});

test('a look that was stopped or refused says so, and can be had again', async () => {
  const asked = served({ look: () => null, status: 'stopped' });
  const { user } = open();
  expect((await screen.findByRole('alert')).textContent).toContain('Stopped.');
  await user.click(screen.getByRole('button', { name: 'Look again' }));
  await waitFor(() => expect(asked.filter(({ method }) => method === 'POST')).toHaveLength(2));
  served({ look: () => null, refuse: true });
  await user.click(await screen.findByRole('button', { name: 'Look again' }));
  await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('It ships there no more.'));
});
