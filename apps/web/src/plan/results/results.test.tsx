import { editPreferences, type PlanState, preferencesSchema, readMe, readResults } from '@sprig/contracts';
import { resultFigures } from '@sprig/core/learn';
import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { meOf, servedBy, shownAt } from '../../testing/rendered.tsx';
import { ResultLine } from './ResultLine.tsx';
import { ResultsMenu } from './ResultsMenu.tsx';
import { resultColumns } from './result-columns.tsx';
import { useResults, withResults } from './use-results.ts';

const account = { outlet: null, name: 'Spring', currency: 'EUR', timeZone: 'UTC' };
const figures = resultFigures.map(
  (name) => ({ clicks: 12, ctr: 0.034, cost: 9_500_000 })[name as 'ctr'] ?? null,
);
const told = (keys: readonly string[]) => ({
  about: {
    account,
    range: { from: '2026-11-02', to: '2026-11-29' },
    grain: 'keyword/day',
    why: null,
  },
  rows: keys.filter((key) => key !== 'k9').map((key) => ({ key, figures })),
});
const plan = { id: 7, revision: 3, counts: { reports: 2 } } as PlanState;
const served = (chosen: (typeof resultFigures)[number][]) => {
  const me = meOf({ preferences: preferencesSchema.parse({ resultColumns: chosen }) });
  return servedBy([
    [readMe, () => me],
    [editPreferences, ({ body }) => ({ ...me, preferences: { ...me.preferences, ...(body as object) } })],
    [readResults, ({ body }) => told((body as { keys: string[] }).keys)],
  ]);
};

function Line({ of: key }: { of: string }) {
  const { figures: shown, of } = useResults(plan, 'group', [key]);
  return <ResultLine figures={shown} results={of.get(key)} />;
}

test('figures are chosen once for all places, and stand in the account’s currency', async () => {
  const asked = served([]);
  const { user } = shownAt(
    '/',
    <>
      <ResultsMenu plan={plan} by="group" />
      <Line of="k1" />
      <p>
        <Line of="k9" />
      </p>
    </>,
  );
  await user.click(screen.getByText('Results'));
  await screen.findByText('2 Nov – 29 Nov 2026, Spring: reports of keywords by day.');
  await user.click(screen.getByLabelText('cost'));
  await user.click(await screen.findByLabelText('clicks'));
  // In the order in which figures are read, not in which they were chosen.
  await screen.findByText('12 clicks · cost €9.50');
  expect(screen.getByText('no results told')).toBeTruthy();
  expect(asked.filter(({ method }) => method === 'PATCH').at(-1)?.body).toEqual({
    resultColumns: ['cost', 'clicks'],
  });
});

test('where no report came home there is nothing to choose, and nothing is asked', async () => {
  const asked = served(['clicks']);
  const none = { ...plan, counts: { reports: 0 } } as PlanState;
  const { container } = shownAt('/', <ResultsMenu plan={none} by="group" />);
  await waitFor(() => expect(asked.length).toBeGreaterThan(0));
  expect(container.textContent).toBe('');
  expect(asked.some(({ method }) => method === 'POST')).toBe(false);
});

test('columns have what is told of their rows, many asked in turns', async () => {
  const asked = served(['clicks']);
  const rows = Array.from({ length: 2_400 }, (_, at) => ({ key: `k${at}` }));
  const shown = await withResults(7, 'row', rows, ({ key }) => key, true);
  expect(asked.map(({ body }) => (body as { keys: string[] }).keys.length)).toEqual([2_000, 400]);
  const [column] = resultColumns<{ key: string }>(['ctr']);
  expect(shown.slice(8, 10).map((row) => column?.text(row))).toEqual(['3.4%', '']);
  expect(await withResults(7, 'row', [{ key: 'k1' }], ({ key }) => key, false)).toEqual([{ key: 'k1' }]);
});
