import { type AccountRow, type PlanState, readAccounts, type ShownLook } from '@sprig/contracts';
import type { ResultFigure } from '@sprig/core/learn';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { Empty } from '../../kit/Empty.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import {
  figureAt,
  figureHeadings,
  figureOrder,
  figureText,
  figureWords,
  isAmount,
  typedFigure,
} from '../../plan/results/result-words.ts';
import { ByChip, LookLine } from './LookSentence.tsx';
import { beforeOf, changeOf, changeText, figureCells, toldFiguresOf } from './look-words.ts';
import { NothingTold } from './NothingTold.tsx';
import { NotYet } from './NotYet.tsx';
import { RangeChips } from './RangeChips.tsx';
import { SavedLooks } from './SavedLooks.tsx';
import { TableOut } from './TableOut.tsx';
import { useListedRows } from './use-listed-rows.ts';

type Props = {
  plan: PlanState;
  look: ShownLook;
  onChange: (part: Partial<ShownLook>) => void;
  onReports: () => void;
};

const keyOf = ({ account }: AccountRow): string => JSON.stringify(account);
const SHOWN = figureOrder.slice(0, 11);

/** Accounts side by side over the same days; those of one currency are added, others never are. */
export function AccountsLook({ plan, look, onChange, onReports }: Props) {
  const { data, error } = useQuery({
    ...question(readAccounts, {
      params: { plan: plan.id },
      body: { range: look.range, against: look.against },
    }),
    placeholderData: keepPreviousData,
  });
  const widths = useWidths('accounts');
  const selection = useSelection<string>();
  const rows = useMemo(() => data && inOrder(data.rows, look), [data, look]);
  const source = useListedRows(rows, keyOf, `${plan.revision} ${data?.range?.from} ${data?.range?.to}`);
  const columns = useMemo(accountColumns, []);
  if (error || !rows || !data) return <NotYet error={error} words="Adding up …" />;
  if (rows.length === 0) return <NothingTold why={{ none: 'reports' }} by="campaign" onReports={onReports} />;
  return (
    <>
      <LookLine>
        <ByChip by={look.by} onChange={onChange} />
        <RangeChips look={look} found={data} onChange={onChange} />
        <span className="ml-auto flex items-center gap-1.5">
          <SavedLooks plan={plan.id} look={look} onLook={onChange} />
          <TableOut
            name={`${plan.brief.name} by account`}
            isEmpty={rows.length === 0}
            cells={async () => cellsOf(rows)}
          />
        </span>
      </LookLine>
      <p className="shrink-0 border-hair border-b px-4 py-2 text-[14px] leading-7">
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
        sort={{ id: look.sort, down: look.down }}
        onSort={(id, down) => onChange({ sort: id as ResultFigure, down })}
        selection={selection}
        widths={widths}
        empty={<Empty title="No account was told of">Take in a report.</Empty>}
      />
    </>
  );
}

/** By a figure; amounts by currency first, and what tells nothing of it last. */
function inOrder(rows: readonly AccountRow[], { sort, down }: ShownLook): AccountRow[] {
  const toldBy = ({ figures }: AccountRow) => figureAt(sort, figures);
  const currencyOf = ({ account }: AccountRow) => (isAmount(sort) ? account.currency : '');
  return rows.toSorted((a, b) => {
    const [one, other] = [toldBy(a), toldBy(b)];
    if (one === null || other === null) return Number(one === null) - Number(other === null);
    return currencyOf(a).localeCompare(currencyOf(b)) || (down ? other - one : one - other);
  });
}

/** Amounts are in the currency that stands beside them. */
function cellsOf(rows: readonly AccountRow[]): string[][] {
  const told = toldFiguresOf(rows);
  return [
    ['account', 'currency', 'time zone', ...told.map((name) => figureHeadings[name])],
    ...rows.map(({ account, figures }) => [
      account.name,
      account.currency,
      account.timeZone,
      ...figureCells(told, figures),
    ]),
  ];
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
        sortable: true,
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
  name: ResultFigure;
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
