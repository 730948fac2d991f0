import { type AccountRow, type PlanState, readAccounts } from '@sprig/contracts';
import type { resultFigures } from '@sprig/core/learn';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { Empty } from '../../kit/Empty.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import {
  daysText,
  figureAt,
  figureHeadings,
  figureOrder,
  figureText,
  figureWords,
  typedFigure,
} from '../../plan/results/result-words.ts';
import { beforeOf, changeOf, changeText } from './look-words.ts';
import { NothingTold } from './NothingTold.tsx';
import { NotYet } from './NotYet.tsx';
import { useListedRows } from './use-listed-rows.ts';

type Props = { plan: PlanState; onReports: () => void };

const keyOf = ({ account }: AccountRow): string => JSON.stringify(account);
const SHOWN = figureOrder.slice(0, 11);

/** Accounts side by side over the same days; those of one currency are added, others never are. */
export function AccountsPart({ plan, onReports }: Props) {
  const { data, error } = useQuery(question(readAccounts, { params: { plan: plan.id }, body: {} }));
  const widths = useWidths('accounts');
  const selection = useSelection<string>();
  const source = useListedRows(data?.rows, keyOf, String(plan.revision));
  const columns = useMemo(accountColumns, []);
  if (error || !data) return <NotYet error={error} words="Adding up …" />;
  if (data.rows.length === 0)
    return <NothingTold why={{ none: 'reports' }} by="campaign" onReports={onReports} />;
  return (
    <>
      <p className="shrink-0 border-hair border-b px-4 py-2 text-[14px] leading-7">
        {data.range && <b>{daysText(data.range)}</b>}
        {data.against && <> against {daysText(data.against)}</>}.{' '}
        {data.together.map(({ currency, accounts, figures }) => (
          <span key={currency}>
            {accounts} accounts in {currency} together: {togetherText(figures, currency)}.{' '}
          </span>
        ))}
        <span className="text-[12.5px] text-faint">
          Each by its own reports of campaigns. Accounts of two currencies are never added, and neither are
          positions.
        </span>
      </p>
      <Table
        label="Accounts"
        columns={columns}
        source={source}
        selection={selection}
        widths={widths}
        empty={<Empty title="No account was told of">Take in a report.</Empty>}
      />
    </>
  );
}

const togetherText = (figures: readonly (number | null)[], currency: string): string =>
  SHOWN.flatMap((name) => {
    const value = figureAt(name, figures);
    return value === null ? [] : [`${figureText(name, value, currency)} ${figureWords[name]}`];
  }).join(', ');

function accountColumns(): TableColumn<AccountRow>[] {
  return [
    {
      id: 'account',
      heading: 'Account',
      text: ({ account }) => account.name,
      cell: ({ account, days }) => (
        <span className="truncate">
          {account.name}{' '}
          <span className="text-[12px] text-faint">
            {account.currency}
            {days
              ? days.least < days.of && ` · ${days.least} of ${days.of} days told`
              : ' · nothing told of these days'}
          </span>
        </span>
      ),
    },
    ...SHOWN.map(
      (name): TableColumn<AccountRow> => ({
        id: name,
        heading: figureHeadings[name],
        width: 132,
        right: true,
        text: ({ figures }) => {
          const value = figureAt(name, figures);
          return value === null ? '' : typedFigure(name, value);
        },
        cell: (row) => <Told row={row} name={name} />,
      }),
    ),
  ];
}

function Told({
  row: { figures, before, account, days, daysBefore },
  name,
}: {
  row: AccountRow;
  name: (typeof resultFigures)[number];
}) {
  const value = figureAt(name, figures);
  // Sums of ranges of which not as many days are told are not held against each other.
  const then = before && beforeOf(name, before, { days, daysBefore });
  const change = value === null ? null : changeOf(value, then);
  return (
    <span>
      {change !== null && <span className="text-[12px] text-faint">{changeText(change)}</span>}{' '}
      {figureText(name, value, account.currency)}
    </span>
  );
}
