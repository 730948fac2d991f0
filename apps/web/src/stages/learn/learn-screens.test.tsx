import {
  actOnVerdicts,
  type BudgetRow,
  keepLook,
  type LookAnswer,
  listLooks,
  type PlanState,
  previewBlock,
  type ReportReading,
  readAccounts,
  readBudgets,
  readLook,
  readLookDays,
  readLookNames,
  readLookPoints,
  readVerdictRows,
  readVerdicts,
  usualLook,
  type VerdictRow,
} from '@sprig/contracts';
import { resultFigures } from '@sprig/core/learn';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, test, vi } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { BlockDialog } from './BlockDialog.tsx';
import { DaysPicture } from './DaysPicture.tsx';
import { HappenedView } from './HappenedView.tsx';
import { LearnYield } from './LearnYield.tsx';
import { LookSentence } from './LookSentence.tsx';
import { PointsPicture } from './PointsPicture.tsx';
import { ReadingPart } from './ReadingPart.tsx';
import { SavedLooks } from './SavedLooks.tsx';
import { ToldAccounts } from './ToldAccounts.tsx';
import { VerdictsView } from './VerdictsView.tsx';
import { WatchView } from './WatchView.tsx';

const account = { outlet: null, name: 'Spring', currency: 'GBP', timeZone: 'UTC' };
const figuresOf = (told: Partial<Record<(typeof resultFigures)[number], number>>) =>
  resultFigures.map((name) => told[name] ?? null);
const found: LookAnswer = {
  account,
  told: { from: '2026-10-01', to: '2026-11-29' },
  range: { from: '2026-11-02', to: '2026-11-29' },
  against: { from: '2026-10-05', to: '2026-11-01' },
  grain: 'keyword/day',
  why: null,
  days: { least: 28, most: 28, of: 28 },
  daysBefore: { least: 28, most: 28, of: 28 },
  all: 3,
  order: [2, 0, 1],
  totals: figuresOf({ impressions: 4_000, clicks: 120, ctr: 0.03, cost: 54_000_000, conversions: 3_000_000 }),
  totalsBefore: figuresOf({ impressions: 4_000, clicks: 100, ctr: 0.025, cost: 50_000_000 }),
  dispersion: null,
  notBrokenDown: [400, 7, 2_500_000, null, null],
  stamp: '1',
};

describe('the sentence', () => {
  const open = (part: Partial<ReturnType<typeof usualLook>> = {}, more: Partial<LookAnswer> = {}) => {
    const onChange = vi.fn();
    servedBy([[readLookNames, () => ({ names: ['Teapots', 'Teacups'] })]]);
    const look = { ...usualLook(), ...part };
    const accounts = [account, { ...account, name: 'Autumn', currency: 'EUR' }];
    const shown = shownAt(
      '/',
      <LookSentence
        plan={7}
        look={look}
        found={{ ...found, ...more }}
        accounts={accounts}
        onChange={onChange}
      />,
    );
    return { ...shown, onChange };
  };

  test('says which reports are read, and where not all days are told', () => {
    open({}, { days: { least: 20, most: 25, of: 28 }, daysBefore: { least: 14, most: 14, of: 28 } });
    expect(screen.getByRole('region', { name: 'What is looked at' }).textContent).toContain(
      '20 to 25 of 28 days told · before: 14 of 28 days told · reports of keywords by day',
    );
  });

  test('is told apart by something else, and read of another account', async () => {
    const { user, onChange } = open();
    await user.selectOptions(screen.getByLabelText('Tell apart by'), 'keyword');
    expect(onChange).toHaveBeenLastCalledWith({ by: 'keyword' });
    await user.selectOptions(screen.getByLabelText('Account'), 'Autumn (EUR)');
    expect(onChange).toHaveBeenLastCalledWith({ account: JSON.stringify([null, 'autumn', 'EUR', 'UTC']) });
    await user.selectOptions(screen.getByLabelText('Held against'), 'by themselves');
    expect(onChange).toHaveBeenLastCalledWith({ against: 'none' });
  });

  test('a condition is typed over, turned round and taken away', async () => {
    const figures = [{ figure: 'cost' as const, is: 'over' as const, than: 5_000_000 }];
    const { user, onChange } = open({ figures });
    await user.click(screen.getByRole('button', { name: 'cost than: 5' }));
    await user.keyboard('12.50{Enter}');
    expect(onChange).toHaveBeenLastCalledWith({ figures: [{ ...figures[0], than: 12_500_000 }] });
    await user.selectOptions(screen.getByLabelText('cost is'), 'under');
    expect(onChange).toHaveBeenLastCalledWith({ figures: [{ ...figures[0], is: 'under' }] });
    await user.click(screen.getByRole('button', { name: 'Take away: cost over £5.00' }));
    expect(onChange).toHaveBeenLastCalledWith({ figures: [] });
  });

  test('is narrowed to a name that is looked for', async () => {
    const { user, onChange } = open();
    await user.click(screen.getByRole('button', { name: 'Narrow it down' }));
    await user.click(screen.getByRole('menuitem', { name: /^campaign/ }));
    const field = await screen.findByLabelText('Of which campaign');
    await waitFor(() => expect(field.getAttribute('placeholder')).toBe('Teapots'));
    await user.type(field, 'Teacups{Enter}');
    expect(onChange).toHaveBeenCalledWith({ names: [{ by: 'campaign', is: 'Teacups' }] });
  });
});

test('the sum holds itself against before, and tells what is not broken down', () => {
  servedBy([]);
  const { container } = shownAt('/', <LearnYield look={usualLook()} found={found} />);
  const told = [...container.querySelectorAll('[data-yield]')].map((term) => term.textContent?.trim());
  expect(told.slice(0, 5)).toEqual([
    '3 campaigns',
    '4,000 impressions ±0%',
    '120 clicks +20%',
    '3% CTR +20%',
    '£54.00 cost +8%',
  ]);
  expect(container.textContent).toContain('Not broken down: 7 clicks, £2.50');
});

describe('the pictures', () => {
  const look = { ...usualLook(), by: 'keyword' as const };

  test('points are drawn by their figures, the curve of CTR among them, and what is left out is said', async () => {
    const n = [0, 1, 2];
    servedBy([
      [
        readLookPoints,
        () => ({
          n,
          x: [1, 2, 4],
          y: [0.1, 0.05, 0.01],
          size: [9, 4, 1],
          names: ['a', 'b', 'c'],
          impressions: [900, 800, 700],
          clicks: [90, 40, 7],
          of: 5,
        }),
      ],
    ]);
    const { container } = shownAt(
      '/',
      <PointsPicture
        plan={7}
        look={look}
        found={found}
        x="position"
        y="ctr"
        size="cost"
        has={(row) => row === 1}
        onSelect={() => {}}
      />,
    );
    await waitFor(() => expect(container.querySelectorAll('circle')).toHaveLength(3));
    expect(screen.getByText('dashed: CTR to expect at a position')).toBeTruthy();
    expect(screen.getByText('The 3 keywords with the most cost of 5 keywords.')).toBeTruthy();
    expect(container.querySelectorAll('circle.fill-warning\\/70')).toHaveLength(1);
  });

  test('days whose conversions may still come are hatched, and only there', async () => {
    servedBy([
      [
        readLookDays,
        () => ({
          days: ['2026-11-20', '2026-11-28', '2026-11-29'].map((day) => ({
            day,
            figures: figuresOf({ clicks: 5, conversions: 1_000_000 }),
          })),
          marks: [{ day: '2026-11-28', count: 6, labels: ['Block 14 words', 'Shipped (2)'] }],
          budget: { daily: 9_000_000, spent: 90_000_000, from: '2026-11-01', to: '2026-11-20', days: 30 },
          why: null,
        }),
      ],
    ]);
    const props = { plan: 7, look, found, onFigure: () => {}, onRange: () => {} };
    const { rerender, container } = shownAt('/', <DaysPicture {...props} figure="conversions" />);
    expect(rerender).toBeTruthy();
    await waitFor(() => expect(container.querySelectorAll('circle')).toHaveLength(3));
    expect(container.textContent).toContain('conversions of the last 7 days may still come');
    expect(container.textContent).toContain('28 Nov: 6 changes. Block 14 words; Shipped (2); …');
    const clicks = shownAt('/', <DaysPicture {...props} figure="clicks" />);
    await waitFor(() => expect(clicks.container.querySelectorAll('circle')).toHaveLength(3));
    expect(clicks.container.textContent).not.toContain('may still come');
    expect(clicks.container.querySelector('[data-budget]')).toBeNull();
    const cost = shownAt('/', <DaysPicture {...props} figure="cost" />);
    await waitFor(() => expect(cost.container.textContent).toContain('daily budgets, £9.00'));
    expect(cost.container.textContent).toContain('50% of its pace');
  });
});

test('budgets that ran out stand with what was missed; where none is known that is said', async () => {
  const row: BudgetRow = {
    name: 'Teapots',
    key: 'c',
    budget: 10_000_000,
    told: 28,
    out: 3,
    last: '2026-11-27',
    cost: 190_000_000,
    missed: { impressions: 1_204.4, clicks: 36.2 },
    month: 200_000_000,
  };
  const answer = {
    account,
    told: found.told,
    range: found.range,
    grain: 'campaign/day',
    why: null,
    inCurrency: true,
    month: { from: '2026-11-01', to: '2026-11-10', days: 30 },
    rows: [row, { ...row, name: 'Gone', key: null, budget: null, out: 0, last: null, missed: null }],
  };
  const asked = servedBy([[readBudgets, () => answer]]);
  const plan = { id: 7, revision: 3 } as PlanState;
  shownAt('/', <WatchView plan={plan} imports={[]} onReports={() => {}} />);
  const [, first, second] = await waitFor(() => {
    const rows = within(screen.getByRole('grid', { name: 'Budgets' })).getAllByRole('row');
    expect(rows).toHaveLength(3);
    // Rows come after their places.
    for (const one of rows.slice(1)) expect(one.textContent).toContain('£');
    return rows;
  });
  expect(first?.textContent).toMatch(/Teapots£10\.003 of 28 · 27 Nov1,20436£190\.00£200\.00£300\.00200%/);
  expect(second?.textContent).toMatch(/Gone–none of 28not toldnot told/);
  expect(screen.getByText('36 clicks')).toBeTruthy();
  expect(asked.filter(({ method }) => method === 'POST')).toHaveLength(1);
});

test('a look is kept under a name', async () => {
  const asked = servedBy([
    [listLooks, () => ({ looks: [{ id: 3, name: 'Dear ones', look: { ...usualLook(), sort: 'cpc' } }] })],
    [keepLook, () => ({ revision: 2 })],
  ]);
  const onLook = vi.fn();
  const { user } = shownAt('/', <SavedLooks plan={7} look={usualLook()} onLook={onLook} />);
  await user.click(screen.getByRole('button', { name: 'Kept looks' }));
  await user.click(await screen.findByRole('menuitem', { name: /Dear ones/ }));
  expect(onLook).toHaveBeenCalledWith(expect.objectContaining({ sort: 'cpc' }));
  await user.click(screen.getByRole('button', { name: 'Kept looks' }));
  await user.click(screen.getByRole('menuitem', { name: 'Keep this look …' }));
  await user.type(screen.getByLabelText('Keep this look as'), 'All{Enter}');
  await waitFor(() =>
    expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({ name: 'All' }),
  );
});

describe('accounts that reports told of', () => {
  const told = (name: string, currency: string, from: string, to: string) => ({
    account: { ...account, name, currency },
    range: { from, to },
  });
  const open = (imports: ReturnType<typeof told>[]) => {
    servedBy([]);
    const onSideBySide = vi.fn();
    return { ...shownAt('/', <ToldAccounts imports={imports} onSideBySide={onSideBySide} />), onSideBySide };
  };

  test('one stands with all of its days', () => {
    open([
      told('Spring', 'GBP', '2026-11-08', '2026-11-14'),
      told('spring', 'GBP', '2026-11-01', '2026-11-07'),
    ]);
    expect(screen.getByText(/^spring/i).textContent).toBe('spring 1 Nov – 14 Nov 2026');
  });

  test('several leave room for what else stands there, and lead to their table', async () => {
    const { user, onSideBySide } = open([
      told('Spring', 'GBP', '2026-11-01', '2026-11-07'),
      told('Spring', 'EUR', '2026-11-01', '2026-11-07'),
    ]);
    await user.click(screen.getByRole('button', { name: '2 accounts side by side' }));
    expect(onSideBySide).toHaveBeenCalledOnce();
  });
});

describe('accounts side by side', () => {
  const accountOf = (name: string, currency: string) => ({ ...account, name, currency });
  const days = { least: 28, most: 28, of: 28 };
  const told = (clicks: number, cost: number) => ({
    figures: figuresOf({ clicks, cost: cost * 1_000_000 }),
    before: figuresOf({ clicks: 100 }),
    days,
    daysBefore: days,
  });
  const open = (address: string) => {
    const asked = servedBy([
      [
        readAccounts,
        () => ({
          told: found.told,
          range: found.range,
          against: found.against,
          rows: [
            {
              account: accountOf('Winter', 'EUR'),
              figures: null,
              before: null,
              days: null,
              daysBefore: null,
            },
            { account: accountOf('Spring', 'GBP'), ...told(120, 9) },
            { account: accountOf('Summer', 'EUR'), ...told(80, 5) },
            { account: accountOf('Autumn', 'GBP'), ...told(240, 8), days: { ...days, least: 20 } },
          ],
          together: [{ currency: 'GBP', accounts: 2, figures: figuresOf({ clicks: 360 }) }],
        }),
      ],
      [listLooks, () => ({ looks: [] })],
      [keepLook, () => ({ revision: 4 })],
      [readLook, () => ({ ...found, why: { none: 'days' } })],
    ]);
    const plan = { id: 7, revision: 3, brief: { name: 'Teas' } } as PlanState;
    const shown = shownAt(address, <HappenedView plan={plan} imports={[]} onReports={() => {}} />);
    const names = async () => {
      const grid = await screen.findByRole('grid', { name: 'Accounts' });
      return waitFor(() => {
        const rows = within(grid).getAllByRole('row').slice(1);
        expect(rows).toHaveLength(4);
        for (const row of rows) expect(row.textContent).not.toBe('');
        return rows.map((row) => /Winter|Spring|Summer|Autumn/.exec(row.textContent ?? '')?.[0]);
      });
    };
    return { ...shown, asked, names };
  };

  test('stand with their changes; those of one currency are also told together', async () => {
    const { names } = open('/?by=account');
    await names();
    const grid = screen.getByRole('grid', { name: 'Accounts' });
    // Of another fewer days are told than before: its clicks are not held against those.
    expect(within(grid).getAllByText('+20%')).toHaveLength(1);
    expect(within(grid).queryByText('+140%')).toBeNull();
    expect(grid.textContent).toContain('20 of 28 days told');
    expect(grid.textContent).toContain('nothing told of these days');
    expect(screen.getByText(/2 accounts in GBP together: 360 clicks/)).toBeTruthy();
  });

  test('are put in order by what can be held against each other, those that tell nothing last', async () => {
    const { user, names } = open('/?by=account');
    expect(await names()).toEqual(['Summer', 'Spring', 'Autumn', 'Winter']);
    await user.click(screen.getByRole('button', { name: /^Clicks/ }));
    await waitFor(async () => expect(await names()).toEqual(['Autumn', 'Spring', 'Summer', 'Winter']));
  });

  test('are chosen in the sentence, which loses the conditions that rows of one account have', async () => {
    const { user, address } = open('/?names=[["campaign","Pots"]]&account=x');
    await user.selectOptions(await screen.findByLabelText('Tell apart by'), 'accounts of outlets');
    await screen.findByRole('grid', { name: 'Accounts' });
    expect(new URLSearchParams(address().split('?')[1]).get('names')).toBeNull();
    await user.selectOptions(screen.getByLabelText('Tell apart by'), 'keywords');
    expect(await screen.findByText('No report tells days')).toBeTruthy();
    expect(address()).toContain('by=keyword');
  });

  test('over chosen days, against others, kept by name, and downloaded', async () => {
    const { user, asked, names } = open('/?by=account&from=2026-11-01&to=2026-11-07&against=none');
    await names();
    expect(asked.find(({ path }) => path.endsWith('/learn/accounts'))?.body).toEqual({
      range: { from: '2026-11-01', to: '2026-11-07' },
      against: 'none',
    });
    const files: Blob[] = [];
    Object.assign(URL, {
      createObjectURL: (file: Blob) => {
        files.push(file);
        return '#';
      },
      revokeObjectURL: () => {},
    });
    await user.click(screen.getByRole('button', { name: 'Download' }));
    const text = await new Promise((done) => {
      const reader = new FileReader();
      reader.onload = () => done(reader.result);
      reader.readAsText(files[0] as Blob);
    });
    expect(String(text).split(/\r?\n/).slice(0, 2)).toEqual([
      'account\tcurrency\ttime zone\tClicks\tCost',
      'Summer\tEUR\tUTC\t80\t5',
    ]);
    await user.click(screen.getByRole('button', { name: 'Kept looks' }));
    await user.click(screen.getByRole('menuitem', { name: 'Keep this look …' }));
    await user.type(screen.getByLabelText('Keep this look as'), 'All outlets{Enter}');
    const kept = () =>
      asked.find(({ method, path }) => method === 'POST' && path.endsWith('/learn/looks'))?.body;
    await waitFor(() =>
      expect(kept()).toMatchObject({ name: 'All outlets', look: { by: 'account', against: 'none' } }),
    );
  });
});

describe('a report before it goes in', () => {
  const none = { count: 0, shown: [] };
  const nothing = { rows: 0, times: 0, campaigns: 0, added: 0, gone: 0, changed: 0 };
  const reading: ReportReading = {
    id: '11111111-1111-4111-8111-111111111111',
    at: '2026-11-30T10:00:00Z',
    upload: '11111111-1111-4111-8111-111111111112',
    name: 'days.csv',
    account,
    currency: 'GBP',
    layout: {
      headerLine: 1,
      headings: ['Day', 'Clicks', 'Seen'],
      roles: ['day', 'clicks', 'skip'],
      samples: [['2026-11-01', '4', '90']],
      titles: [],
      dayOrder: 'day-first',
      decimal: '.',
      open: [],
      step: 'day',
    },
    choices: {},
    remembered: false,
    grain: 'account/day',
    rows: 4,
    range: { from: '2026-11-01', to: '2026-11-04' },
    times: 4,
    campaigns: 1,
    totals: { impressions: null, clicks: 16, cost: null, conversions: null, value: null },
    problems: none,
    setAside: none,
    repeated: none,
    otherwise: none,
    unlikely: none,
    notMet: [],
    met: 4,
    replaces: { ...nothing, added: 4 },
    replacesWhole: { ...nothing, rows: 9, times: 4, campaigns: 2, added: 4, gone: 9 },
  };
  const open = (more: Partial<ReportReading> = {}) => {
    servedBy([]);
    const [onAgain, onTake] = [vi.fn(), vi.fn()];
    const shown = shownAt(
      '/',
      <ReadingPart
        reading={{ ...reading, ...more }}
        accounts={[account]}
        busy={false}
        onAgain={onAgain}
        onTake={onTake}
        onDrop={() => {}}
      />,
    );
    return { ...shown, onAgain, onTake, take: screen.getByRole('button', { name: /^Take in/ }) };
  };

  test('says what it does, and otherwise as the whole account', async () => {
    const { user, take, onTake } = open();
    const part = within(screen.getByRole('region', { name: 'Report days.csv' }));
    expect(part.getByText(/Adds 4 rows; replaces nothing/)).toBeTruthy();
    await user.click(part.getByRole('checkbox'));
    expect(part.getByText(/Replaces 4 times of 2 campaigns, 9 rows; 4 rows more, 9 rows gone/)).toBeTruthy();
    await user.click(take);
    expect(onTake).toHaveBeenCalledWith(true);
  });

  test('a column is taken for something else, and one that had it is left out', async () => {
    const { user, onAgain } = open();
    await user.selectOptions(screen.getByLabelText('Column Seen'), 'clicks');
    expect(onAgain).toHaveBeenCalledWith({ choices: { roles: ['day', 'skip', 'clicks'] } });
  });

  test('does not go in while something is open', async () => {
    const { user, take, onAgain } = open({ layout: { ...reading.layout, open: ['day-order'] } });
    expect((take as HTMLButtonElement).disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: 'The month stands first' }));
    expect(onAgain).toHaveBeenCalledWith({ choices: { dayOrder: 'month-first' } });
  });

  test('in another currency than its account it does not go in', () => {
    const { take } = open({ currency: 'USD' });
    expect((take as HTMLButtonElement).disabled).toBe(true);
    expect(screen.getByText(/Its amounts are in USD, the account in GBP/)).toBeTruthy();
  });
});

describe('blocking a term', () => {
  const effect = {
    keywords: { count: 12, shown: ['iron teapot', 'iron kettle'] },
    terms: { count: 2, clicks: 25, cost: 39_000_000, conversions: 1, shown: ['free teapot', 'teapot free'] },
  };
  const open = (props: { terms: string[]; text?: string }) => {
    const asked = servedBy([[previewBlock, () => effect]]);
    const onBlock = vi.fn();
    const shown = shownAt(
      '/',
      <BlockDialog plan={7} currency="GBP" onBlock={onBlock} onClose={() => {}} {...props} />,
    );
    return { ...shown, asked, onBlock };
  };

  test('a word is blocked as a phrase, and says what else it keeps out', async () => {
    const { user, onBlock, asked } = open({ terms: ['free teapot'], text: 'free' });
    await screen.findByText(/It blocks 12 keywords of the plan itself: iron teapot, iron kettle …/);
    expect(
      screen.getByText(/2 search terms would have been kept out: 25 clicks, £39.00, with 1 conversion\./),
    ).toBeTruthy();
    expect(asked[0]?.body).toEqual({ text: 'free', type: 'phrase' });
    await user.selectOptions(screen.getByLabelText('Where it is blocked'), 'group');
    await user.click(screen.getByRole('button', { name: 'Block “free”' }));
    expect(onBlock).toHaveBeenCalledWith({ kind: 'block', type: 'phrase', where: 'group', text: 'free' });
  });

  test('several are blocked each as it is, and nothing can’t be', async () => {
    const { user, onBlock, asked } = open({ terms: ['a', 'b'] });
    expect(asked).toEqual([]);
    await user.click(screen.getByRole('button', { name: 'Block 2 search terms' }));
    expect(onBlock).toHaveBeenCalledWith({ kind: 'block', type: 'exact', where: 'plan' });
    const one = open({ terms: ['a b'] });
    await one.user.clear(screen.getByLabelText('Words to block'));
    expect(screen.getByRole('button', { name: 'Block “”' })).toHaveProperty('disabled', true);
  });
});

describe('verdicts', () => {
  const about = {
    account,
    range: found.range,
    settledTo: '2026-11-22',
    grain: 'keyword/day',
    why: null,
    aim: { cost: null, return: null },
    ownAims: 0,
    inCurrency: true,
    notMet: 0,
    stamp: '1',
  };
  const row: VerdictRow = {
    n: 0,
    key: 'k1:e',
    names: ['teapot', 'exact', 'Pots', 'Teas'],
    type: 'exact',
    group: 'k1',
    verdict: 'too-low',
    evidence: { own: 5.2, against: 3.5, by: 'position', chance: null, more: null },
    stake: 16_000_000,
    impressions: 5_200,
    clicks: 82,
    cost: 18_000_000,
    conversions: 4,
    position: 5.2,
    days: null,
    bid: 540_000,
    status: 'enabled',
    act: null,
  };

  test('open at the first list that has anything, and say that there is no aim', async () => {
    const asked = servedBy([
      [
        readVerdicts,
        ({ body }) => ({
          ...about,
          lists: [
            { list: 'never-pays', rows: 0, stake: 0 },
            { list: 'too-low', rows: 1, stake: 16_000_000 },
            { list: 'fine', rows: 9, stake: 0 },
          ],
          list: 'too-low',
          order: (body as { list: string | null }).list === null ? [0] : [],
        }),
      ],
      [readVerdictRows, () => ({ rows: [row] })],
      [
        actOnVerdicts,
        () => ({
          revision: 4,
          changed: 1,
          tooSoon: 2,
          outOfReach: 0,
          samples: [{ text: 'teapot', before: 540_000, after: 650_000 }],
        }),
      ],
    ]);
    const plan = { id: 7, revision: 3, brief: { currency: 'GBP' } } as PlanState;
    const { user } = shownAt('/', <VerdictsView plan={plan} imports={[]} onReports={() => {}} />);
    const grid = await screen.findByRole('grid', { name: 'Verdicts: Too low' });
    await waitFor(() => expect(within(grid).getByText('Position 5.2 over 5,200 impressions.')).toBeTruthy());
    expect(screen.getByText('no aim in the brief: what needs one rests')).toBeTruthy();
    await user.click(within(grid).getAllByRole('checkbox').at(-1) as HTMLElement);
    await user.click(screen.getByRole('button', { name: /^Raise bids/ }));
    const dialog = await screen.findByRole('dialog', { name: 'Raise the bids of 1 keyword row' });
    await waitFor(() => expect(dialog.textContent).toContain('£0.54 → £0.65'));
    expect(dialog.textContent).toContain('2 keyword rows left as they are: too few clicks');
    await user.clear(within(dialog).getByLabelText('Percent'));
    await user.type(within(dialog).getByLabelText('Percent'), '0');
    expect(within(dialog).getByRole('alert').textContent).toContain('no percentage from 1 to 900');
    await user.selectOptions(within(dialog).getByLabelText('How far'), 'position');
    await user.clear(within(dialog).getByLabelText('Position'));
    await user.type(within(dialog).getByLabelText('Position'), '9');
    expect(within(dialog).getByRole('alert').textContent).toContain('no position from 1 to 8');
    await user.type(within(dialog).getByLabelText('Position'), '{Backspace}2.5');
    await waitFor(() =>
      expect(asked.map(({ body }) => body)).toContainEqual(
        expect.objectContaining({ act: { kind: 'aim', position: 2.5 }, dry: true }),
      ),
    );
    await user.selectOptions(within(dialog).getByLabelText('How far'), 'percent');
    await user.clear(within(dialog).getByLabelText('Percent'));
    await user.type(within(dialog).getByLabelText('Percent'), '35');
    await user.click(await within(dialog).findByRole('button', { name: 'Raise the bids of 1 keyword row' }));
    await waitFor(() =>
      expect(asked.map(({ body }) => body)).toContainEqual(
        expect.objectContaining({ keys: ['k1:e'], act: { kind: 'raise', by: 35 }, dry: false }),
      ),
    );
  });
});
