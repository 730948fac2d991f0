import {
  type CampaignRow,
  changeCampaigns,
  listHolds,
  listSettingSets,
  noFacts,
  openPlan,
  readFacts,
  rewriteNames,
  type SettingSet,
  settingSetSchema,
} from '@sprig/contracts';
import { screen, waitFor, within } from '@testing-library/react';
import type { ReactNode } from 'react';
import { describe, expect, test } from 'vitest';
import { usePlanState } from '../../../data/plan.ts';
import type { Put } from '../../../kit/table/column.ts';
import { RewriteMany } from '../../../plan/RewriteMany.tsx';
import { planState } from '../../../testing/plan-state.ts';
import { heard, servedBy, shownAt } from '../../../testing/rendered.tsx';
import { BulkBudgets } from './BulkBudgets.tsx';
import { BulkSettings } from './BulkSettings.tsx';
import { budgetsAfter } from './budget-change.ts';
import { readSet, readSetting, type SettingColumn, settingColumns, writeSetting } from './campaign-cells.ts';
import { campaignColumns, changeOf } from './campaign-columns.tsx';
import { foundCampaigns, type ShownCampaign, shownCampaigns } from './shown-campaigns.ts';

const facts = noFacts();
const north: SettingSet = settingSetSchema.strip().parse({
  ...facts,
  id: 7,
  name: 'North',
  networks: { search: true, partners: true, display: false },
  locations: [
    { name: 'Milltown', level: 'town' },
    { name: 'Northshire', level: 'region' },
  ],
  languages: ['English', 'Welsh'],
});
const row = (key: string, name: string, more: Partial<CampaignRow> = {}): CampaignRow =>
  ({
    key,
    name,
    dailyBudget: 20_000_000,
    defaultBid: 400_000,
    status: 'enabled',
    labels: [],
    settings: null,
    lane: null,
    place: null,
    covered: null,
    groups: 3,
    keywords: 9,
    rows: 18,
    searches: 100,
    negatives: 0,
    fences: 0,
    largest: [],
    ...more,
  }) as CampaignRow;
const rows = [
  row('ct1', 'Teeth', { searches: 300, labels: ['spring'] }),
  row('ct2', 'Gums', { searches: 100, settings: 7, dailyBudget: 10_000_000 as never }),
];
const campaigns = shownCampaigns(rows, [north], facts, new Map([['ct1', 4_000_000]]), {
  paths: new Map([['ct1', '/spring']]),
  matchings: new Map([['ct1', 'wide']]),
});
const [teeth, gums] = campaigns as [ShownCampaign, ShownCampaign];

describe('campaigns', () => {
  test('have the settings of their set, else the brief’s', () => {
    expect([teeth.set, teeth.is.languages, gums.set?.name, gums.is.languages]).toEqual([
      null,
      [],
      'North',
      ['English', 'Welsh'],
    ]);
  });

  test.each<[Partial<Parameters<typeof foundCampaigns>[1]>, string[]]>([
    [{}, ['Teeth', 'Gums']],
    [{ down: true }, ['Gums', 'Teeth']],
    [{ sort: 'name' }, ['Gums', 'Teeth']],
    [{ sort: 'searches', down: true }, ['Teeth', 'Gums']],
    [{ sort: 'budget' }, ['Gums', 'Teeth']],
    [{ sort: 'cost' }, ['Gums', 'Teeth']],
    [{ filter: 'SPRING' }, ['Teeth']],
    [{ filter: 'north' }, ['Gums']],
    [{ filter: 'nothing' }, []],
  ])('%j leaves %j', (asked, names) =>
    expect(
      foundCampaigns(campaigns, { filter: '', sort: 'made', down: false, ...asked }).map(({ name }) => name),
    ).toEqual(names),
  );
});

describe('a cell of what campaigns are set to', () => {
  test.each(settingColumns.map((column) => [column]))('%s is read as it is written', (column) => {
    const read = readSetting(column, writeSetting(column, gums.is));
    expect(read).toEqual({ value: { [column]: gums.is[column] } });
  });

  test.each<[SettingColumn, string, object]>([
    ['networks', 'Search + display', { networks: { search: true, partners: false, display: true } }],
    [
      'locations',
      'Hull, town; Leeds, region',
      {
        locations: [
          { name: 'Hull', level: 'town' },
          { name: 'Leeds', level: 'region' },
        ],
      },
    ],
    ['languages', 'English; Welsh', { languages: ['English', 'Welsh'] }],
    ['languages', '', { languages: [] }],
    ['rotation', 'even', { rotation: 'even' }],
    ['rotation', 'All ads shown alike', { rotation: 'even' }],
  ])('%s takes %j', (column, typed, value) => expect(readSetting(column, typed)).toEqual({ value }));

  test.each<[SettingColumn, string, string]>([
    ['networks', 'search, radio', 'radio'],
    ['networks', ' ', 'At least one network'],
    ['strategy', 'clever', 'bids by hand'],
    ['locations', 'Hull', 'Place 1'],
  ])('%s refuses %j in words', (column, typed, words) =>
    expect(readSetting(column, typed)).toEqual({ words: expect.stringContaining(words) }),
  );

  test('names settings, or the brief’s; what is called nothing here is told with what there is', () => {
    expect(readSet(' north ', [north])).toEqual({ value: 7 });
    expect(readSet('the brief’s', [north])).toEqual({ value: null });
    expect(readSet('', [north])).toEqual({ value: null });
    expect(readSet('South', [north])).toEqual({ words: expect.stringContaining('“North”') });
    expect(readSet('South', [])).toEqual({ words: expect.stringContaining('only the brief’s') });
  });
});

test('cells that are put in become one change, each where it belongs', () => {
  const put = (own: ShownCampaign, column: string, typed: string, value: string | number = typed) =>
    ({ row: own, column, typed, value, heading: '', before: '' }) as Put<ShownCampaign>;
  expect(
    changeOf(
      [
        put(teeth, 'budget', '30', 30_000_000),
        put(gums, 'name', 'All gums'),
        put(gums, 'set', 'the brief’s'),
        put(teeth, 'set', 'North'),
        put(teeth, 'rotation', 'even'),
      ],
      [north],
    ),
  ).toEqual({
    values: [
      ['ct1', 'budget', 30_000_000],
      ['ct2', 'name', 'All gums'],
    ],
    settings: [
      { campaigns: ['ct2'], set: null },
      { campaigns: ['ct1'], set: 7 },
      { campaigns: ['ct1'], values: { rotation: 'even' } },
    ],
  });
});

test('each column reads what it copies, and says of nothing else that it could', () => {
  const columns = campaignColumns({
    currency: 'GBP',
    sets: [north],
    change: async () => null,
    letGo: async () => true,
    onOpen: () => {},
    onSettings: () => {},
  });
  for (const { id, text, read } of columns) {
    if (!read) expect(['cost', 'groups', 'keywords', 'searches']).toContain(id);
    else for (const own of campaigns) expect([id, 'value' in read(text(own), own)]).toEqual([id, true]);
  }
  const budget = columns.find(({ id }) => id === 'budget');
  expect(budget?.read?.('', teeth)).toEqual({ words: expect.stringContaining('let the held one go') });
  expect(budget?.read?.('0', teeth)).toEqual({ words: expect.stringContaining('more than nothing') });
});

describe('budgets of many', () => {
  const after = (asked: Partial<Parameters<typeof budgetsAfter>[1]>) =>
    budgetsAfter(campaigns, { kind: 'set', first: '', second: '', by: 'searches', ...asked }, 'GBP');

  test.each<[Partial<Parameters<typeof budgetsAfter>[1]>, number[]]>([
    [{ first: '30' }, [30_000_000, 30_000_000]],
    [{ kind: 'raise', first: '50' }, [30_000_000, 15_000_000]],
    [{ kind: 'between', first: '12', second: '18' }, [18_000_000, 12_000_000]],
    [{ kind: 'share', first: '40' }, [30_000_000, 10_000_000]],
    [{ kind: 'share', first: '40', by: 'alike' }, [20_000_000, 20_000_000]],
    [{ kind: 'share', first: '45', by: 'budget' }, [30_000_000, 15_000_000]],
    [{ kind: 'share', first: '40', by: 'cost' }, [39_990_000, 10_000]],
  ])('%j gives %j', (asked, expected) => expect(after(asked)).toEqual({ after: expected }));

  test('that would be nothing for one of them are refused', () =>
    expect(after({ kind: 'share', first: '0.01' })).toEqual({
      words: expect.stringContaining('too little'),
    }));

  test('are shown before and after with what they come to, and change as one', async () => {
    const asked: unknown[] = [];
    const { user } = shownAt(
      '/',
      <BulkBudgets
        campaigns={campaigns}
        currency="GBP"
        onChange={async (change) => {
          asked.push(change);
          return null;
        }}
        onClose={() => {}}
      />,
    );
    await user.selectOptions(screen.getByLabelText('What to do with the budgets'), 'share');
    await user.type(screen.getByLabelText('Amount'), '40');
    expect(screen.getByRole('status').textContent).toContain('together from £30.00 to £40.00 a day');
    await user.click(screen.getByRole('button', { name: 'Change 1 budget' }));
    expect(asked).toEqual([{ values: [['ct1', 'budget', 30_000_000]], settings: [] }]);
  });
});

const served = (sets: unknown[]) =>
  servedBy([
    [changeCampaigns, () => ({ revision: 2, held: 0, sets })],
    [readFacts, () => ({ facts })],
    [listHolds, () => ({ holds: [] })],
    [listSettingSets, () => ({ sets: [north] })],
    [openPlan, () => planState],
  ]);

/** What needs to know the open plan, once that is there. */
const InPlan = ({ children }: { children: ReactNode }) => usePlanState(7).data && children;

test('settings of many say what they come to before they are changed; only what was changed is sent', async () => {
  const asked = served([{ id: null, name: 'Settings', how: 'made', campaigns: 2 }]);
  const changes: unknown[] = [];
  const { user } = shownAt(
    '/plans/7',
    <InPlan>
      <BulkSettings
        plan={7}
        campaigns={campaigns}
        sets={[north]}
        onChange={async (change) => {
          changes.push(change);
          return null;
        }}
        onClose={() => {}}
      />
    </InPlan>,
    '/plans/:plan',
  );
  expect(await screen.findByText(/Shown is what “Teeth” has/)).toBeTruthy();
  const apply = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Change 2 campaigns' });
  expect(apply().disabled).toBe(true);
  await user.selectOptions(screen.getByLabelText('Ad rotation'), 'even');
  await screen.findByText(/Changed: ad rotation. 2 campaigns have new settings, “Settings”./);
  expect(asked.find(({ path }) => path.endsWith('/change'))?.body).toMatchObject({
    dry: true,
    settings: [{ campaigns: ['ct1', 'ct2'], values: { rotation: 'even' } }],
  });
  await user.click(apply());
  expect(changes).toEqual([
    { values: [], settings: [{ campaigns: ['ct1', 'ct2'], values: { rotation: 'even' } }] },
  ]);
});

test('names of many are shown before and after, those that can’t be first, and change when that is sent', async () => {
  const asked = servedBy([
    [
      rewriteNames,
      ({ body }) => ({
        revision: 3,
        names: 3,
        changed: (body as { rewriting: { find: string } }).rewriting.find === '' ? 0 : 2,
        samples: [{ key: 't1', before: 'tea pots', after: 'tea kettles' }],
        refused: [
          { key: 't2', before: 'pots', after: 'kettles', why: 'Another one is called that, or becomes it.' },
        ],
        refusedCount: 1,
      }),
    ],
  ]);
  const words = heard();
  const { user } = shownAt(
    '/',
    <RewriteMany
      plan={7}
      scope={{ keys: ['t1', 't2', 't3'] }}
      what="3 ad groups"
      choices={['names', 'labels', 'urls']}
      onClose={() => {}}
    />,
  );
  await user.type(screen.getByLabelText('Find'), 'pots');
  await user.type(screen.getByLabelText('Replace by'), 'kettles');
  const apply = await screen.findByRole<HTMLButtonElement>('button', { name: 'Change 2 names' });
  await waitFor(() => expect(apply.disabled).toBe(false));
  const lines = within(screen.getByRole('table'))
    .getAllByRole('row')
    .map(({ textContent }) => textContent);
  expect(lines.slice(1)).toEqual(['potsAnother one is called that, or becomes it.', 'tea potstea kettles']);
  await user.click(apply);
  await waitFor(() =>
    expect(words()).toContainEqual({ kind: 'said', words: expect.stringContaining('Changed 2 names') }),
  );
  expect(asked.filter(({ body }) => (body as { dry?: boolean } | undefined)?.dry === false)).toMatchObject([
    {
      body: {
        scope: { keys: ['t1', 't2', 't3'] },
        of: 'names',
        rewriting: { find: 'pots', replace: 'kettles' },
      },
    },
  ]);
  await user.selectOptions(screen.getByLabelText('What is changed'), 'urls');
  expect(screen.getByRole('dialog', { name: 'Final URLs of 3 ad groups' })).toBeTruthy();
  await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ of: 'urls', dry: true }));
});
