import { type BudgetRow, type PlanState, readBudgets } from '@sprig/contracts';
import { LEAST_LOST, NEARLY_SPENT } from '@sprig/core/learn';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted } from '../../kit/format.ts';
import type { TableColumn } from '../../kit/table/column.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { figureColumn } from '../../plan/results/result-columns.tsx';
import { daysText, dayText } from '../../plan/results/result-words.ts';
import { NothingTold } from './NothingTold.tsx';
import { NotYet } from './NotYet.tsx';
import { paceOf } from './pace-words.ts';
import { useListedRows } from './use-listed-rows.ts';

type Props = { plan: PlanState; onReports: () => void };

const nameOf = ({ name }: BudgetRow): string => name;
const percent = (share: number) => `${Math.round(share * 100)}%`;

/** Budgets that ran out, with what was missed, and what the month spends against its pace. */
export function BudgetsPart({ plan, onReports }: Props) {
  const { data, error } = useQuery(
    question(readBudgets, { params: { plan: plan.id }, body: { account: null, range: null } }),
  );
  const widths = useWidths('budgets');
  const selection = useSelection<string>();
  const currency = data?.account?.currency ?? 'EUR';
  const source = useListedRows(data?.rows, nameOf, String(plan.revision));
  const month = data?.month ?? null;
  const columns = useMemo(() => budgetColumns(currency, month), [currency, month]);
  if (error || !data) return <NotYet error={error} words="Adding up …" />;
  if (data.why) return <NothingTold why={data.why} by="campaign" onReports={onReports} />;
  const out = data.rows.filter((row) => row.out > 0);
  const clicks = out.reduce((sum, { missed }) => sum + (missed?.clicks ?? 0), 0);
  return (
    <>
      <p className="shrink-0 border-hair border-b px-4 py-2 text-[14px] leading-7">
        {data.range && <b>{daysText(data.range)}</b>} in {data.account?.name}:{' '}
        {out.length === 0 ? (
          'no budget ran out.'
        ) : (
          <>
            <b>{counted(out.length, 'budget')}</b> ran out
            {clicks >= 1 && (
              <>
                , and about <b>{counted(Math.round(clicks), 'click')}</b> were missed
              </>
            )}
            .
          </>
        )}{' '}
        <span className="text-[12.5px] text-faint">
          A budget counts as run out on a day on which {percent(LEAST_LOST)} of impressions and more were lost
          to it; where no report tells that, from {percent(NEARLY_SPENT)} of it spent. Budgets are those of
          today.
          {!data.inCurrency &&
            ` The account counts in ${currency}, the plan does not: its budgets can’t be held against it.`}
        </span>
      </p>
      <Table
        label="Budgets"
        columns={columns}
        source={source}
        selection={selection}
        widths={widths}
        empty={<Empty title="No campaign is told of in these days">Take in a report of them.</Empty>}
      />
    </>
  );
}

type Month = { from: string; to: string; days: number } | null;

function budgetColumns(currency: string, month: Month): TableColumn<BudgetRow>[] {
  const amount = (id: string, heading: string, of: (row: BudgetRow) => number | null, hint = '') =>
    figureColumn('cost', currency, { id, heading, of, width: 124, ...(hint ? { hint } : {}) });
  const whole = (
    id: string,
    heading: string,
    of: (row: BudgetRow) => number | null,
    hint: string,
  ): TableColumn<BudgetRow> => ({
    id,
    heading,
    width: 132,
    right: true,
    hint,
    text: (row) => String(Math.round(of(row) ?? 0)),
    cell: (row) => {
      const value = of(row);
      return value === null ? <span className="text-faint">not told</span> : count(Math.round(value));
    },
  });
  const name = month ? monthName.format(new Date(month.to)) : 'Month';
  const pace = (row: BudgetRow) =>
    month && row.budget !== null ? paceOf({ ...month, daily: row.budget, spent: row.month }) : null;
  return [
    {
      id: 'campaign',
      heading: 'Campaign',
      text: ({ name: called }) => called,
      cell: ({ name: called, key }) =>
        key === null ? (
          <span title="No campaign of today’s plan is called so">{called}</span>
        ) : (
          <Link
            className="hover:underline"
            title="Change its budget in Build"
            to={`../build?${new URLSearchParams({ at: key })}`}
          >
            {called}
          </Link>
        ),
    },
    amount('budget', 'Budget a day', ({ budget }) => budget),
    {
      id: 'out',
      heading: 'Days it ran out',
      width: 150,
      right: true,
      hint: 'Of the days that are told, and the last of them',
      text: ({ out }) => String(out),
      cell: ({ out, told, last }) =>
        out === 0 ? (
          <span className="text-faint">none of {told}</span>
        ) : (
          <span>
            <b className="text-warning">{out}</b> of {told}{' '}
            <span className="text-faint">{last ? `· ${dayText(last)}` : ''}</span>
          </span>
        ),
    },
    whole(
      'impressions',
      'Missed impr.',
      ({ missed }) => missed?.impressions ?? null,
      'On those days, by the share of impressions that was lost to the budget',
    ),
    whole(
      'clicks',
      'Missed clicks',
      ({ missed }) => missed?.clicks ?? null,
      'Missed impressions by the CTR of the day',
    ),
    amount('cost', 'Cost', ({ cost }) => cost),
    amount('month', name, (row) => row.month, 'Spent in this month, as far as it is told'),
    amount(
      'allowed',
      `Budget of ${name}`,
      ({ budget }) => (budget === null || !month ? null : budget * month.days),
      'The daily budget by the days of the month',
    ),
    {
      id: 'pace',
      heading: 'Pace',
      width: 80,
      right: true,
      hint: 'What was spent of what the daily budget allows until then: over 100% the month ends early',
      text: (row) => (pace(row) === null ? '' : percent(pace(row) ?? 0)),
      cell: (row) => {
        const share = pace(row);
        if (share === null) return <span className="text-faint">–</span>;
        return <span className={share > 1 ? 'text-warning' : ''}>{percent(share)}</span>;
      },
    },
  ];
}

const monthName = new Intl.DateTimeFormat('en-GB', { month: 'long', timeZone: 'UTC' });
