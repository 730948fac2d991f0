import { type ForecastPart, type PlanState, readForecastAgainst } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { Empty } from '../../kit/Empty.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { figureColumn } from '../../plan/results/result-columns.tsx';
import { daysText } from '../../plan/results/result-words.ts';
import { changeText } from './look-words.ts';
import { MeasuredSentence } from './MeasuredSentence.tsx';
import { NothingTold } from './NothingTold.tsx';
import { NotYet } from './NotYet.tsx';
import { useListedRows } from './use-listed-rows.ts';

type Props = { plan: PlanState; onReports: () => void };
const keyOf = ({ key }: ForecastPart): string => key;

/** A day as it is forecast at today's bids against a day as it came, by campaign. */
export function ForecastAgainst({ plan, onReports }: Props) {
  const { data, error } = useQuery(question(readForecastAgainst, { params: { plan: plan.id }, body: {} }));
  const widths = useWidths('forecast-against');
  const selection = useSelection<string>();
  const source = useListedRows(data?.rows, keyOf, String(plan.revision));
  const columns = useMemo(
    () => columnsOf(plan.brief.currency, data?.inCurrency === false),
    [plan.brief.currency, data?.inCurrency],
  );
  if (error || !data) return <NotYet error={error} words="Forecasting …" />;
  if (data.why) return <NothingTold why={data.why} by="keyword" onReports={onReports} />;
  return (
    <>
      <p className="shrink-0 border-hair border-b px-4 py-2 text-[14px] leading-7">
        A day at today’s bids within daily budgets as it is forecast, and as it came in{' '}
        <b>{data.account?.name}</b>
        {data.range && `, ${daysText(data.range)}`}.{' '}
        <span className="text-[12.5px] text-faint">
          A forecast counts searches for a keyword’s own text; what its wider match types reach besides is in
          what came.
        </span>
      </p>
      <MeasuredSentence plan={plan.id} found={data} />
      <Table
        label="Forecast against what came"
        columns={columns}
        source={source}
        selection={selection}
        widths={widths}
        empty={
          <Empty title="Nothing that bids was told of">
            Names in reports have to be those that were shipped.
          </Empty>
        }
      />
    </>
  );
}

function columnsOf(currency: string, isOther: boolean): TableColumn<ForecastPart>[] {
  const column = (
    figure: 'clicks' | 'cost',
    side: 'forecast' | 'came',
    heading: string,
  ): TableColumn<ForecastPart> =>
    figureColumn(figure, currency, {
      id: side === 'came' ? figure : `forecast-${figure}`,
      heading,
      width: 120,
      hint: 'A day on the average',
      of: (row) => {
        if (figure === 'cost') return side === 'came' && isOther ? null : row[side].cost;
        return Math.round(row[side].clicks);
      },
    });
  const change = (figure: 'clicks' | 'cost'): TableColumn<ForecastPart> => ({
    id: `change-${figure}`,
    heading: 'Came',
    width: 80,
    right: true,
    hint: 'What came of what was forecast',
    text: (row) => cameText(row, figure, isOther),
    cell: (row) => <span className="text-faint">{cameText(row, figure, isOther)}</span>,
  });
  return [
    {
      id: 'name',
      heading: 'Campaign',
      text: ({ name }) => name,
      cell: ({ name, key }) => (
        <Link className="hover:underline" tabIndex={-1} to={`../build?${new URLSearchParams({ at: key })}`}>
          {name}
        </Link>
      ),
    },
    column('clicks', 'forecast', 'Clicks, forecast'),
    column('clicks', 'came', 'Clicks, came'),
    change('clicks'),
    column('cost', 'forecast', 'Cost, forecast'),
    column('cost', 'came', 'Cost, came'),
    change('cost'),
  ];
}

function cameText({ forecast, came }: ForecastPart, figure: 'clicks' | 'cost', isOther: boolean): string {
  if (forecast[figure] <= 0 || (figure === 'cost' && isOther)) return '–';
  return changeText(came[figure] / forecast[figure] - 1);
}
