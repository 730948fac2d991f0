import { type PlanState, readUnlikeDays, type UnlikeDayRow } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted } from '../../kit/format.ts';
import type { TableColumn } from '../../kit/table/column.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { daysText } from '../../plan/results/result-words.ts';
import { changeText } from './look-words.ts';
import { NothingTold } from './NothingTold.tsx';
import { NotYet } from './NotYet.tsx';
import { useListedRows } from './use-listed-rows.ts';

type Props = { plan: PlanState; onReports: () => void };

const keyOf = ({ day, campaign, figure }: UnlikeDayRow): string => JSON.stringify([day, campaign, figure]);

/** Days on which far more or far less was counted than on the same weekdays before. */
export function UnlikePart({ plan, onReports }: Props) {
  const { data, error } = useQuery(question(readUnlikeDays, { params: { plan: plan.id }, body: {} }));
  const widths = useWidths('unlike-days');
  const selection = useSelection<string>();
  const source = useListedRows(data?.days, keyOf, String(plan.revision));
  if (error || !data) return <NotYet error={error} words="Adding up …" />;
  if (data.why) return <NothingTold why={data.why} by="campaign" onReports={onReports} />;
  return (
    <>
      <p className="shrink-0 border-hair border-b px-4 py-2 text-[14px] leading-7">
        {data.range && <b>{daysText(data.range)}</b>} in {data.account?.name}: {standsOut(data.days.length)}{' '}
        <span className="text-[12.5px] text-faint">
          Each day is held against the same weekdays of the eight weeks before; chance alone has 1 in 100
          stand out.
          {data.silent > 0 &&
            ` Nothing is said of ${counted(data.silent, 'campaign')} with fewer than four such weeks.`}
        </span>
      </p>
      <Table
        label="Days that are unlike"
        columns={columns}
        source={source}
        selection={selection}
        widths={widths}
        empty={<Empty title="No day stands out">All is as it was on the same weekdays before.</Empty>}
      />
    </>
  );
}

function standsOut(figures: number): string {
  if (figures === 0) return 'no day stands out.';
  return figures === 1 ? 'one figure of a day stands out.' : `${count(figures)} figures of days stand out.`;
}

const number = (
  id: string,
  heading: string,
  of: (row: UnlikeDayRow) => number,
  hint?: string,
): TableColumn<UnlikeDayRow> => ({
  id,
  heading,
  width: 100,
  right: true,
  ...(hint ? { hint } : {}),
  text: (row) => String(Math.round(of(row))),
  cell: (row) => count(Math.round(of(row))),
});

const columns: TableColumn<UnlikeDayRow>[] = [
  {
    id: 'day',
    heading: 'Day',
    width: 150,
    text: ({ day }) => day,
    cell: ({ day, campaign }) => {
      const look = new URLSearchParams({ by: 'day', picture: 'days' });
      if (campaign !== null) look.set('names', JSON.stringify([['campaign', campaign]]));
      return (
        <Link className="hover:underline" tabIndex={-1} title="All its days" to={`?${look}`}>
          {daysText({ from: day, to: day })}
        </Link>
      );
    },
  },
  {
    id: 'campaign',
    heading: 'Campaign',
    width: 220,
    text: ({ campaign }) => campaign ?? 'All campaigns',
    cell: ({ campaign }) => campaign ?? <span className="text-faint">all together</span>,
  },
  { id: 'figure', heading: 'Figure', width: 110, text: ({ figure }) => figure, cell: ({ figure }) => figure },
  number('seen', 'Counted', ({ seen }) => seen),
  number('expected', 'To expect', ({ expected }) => expected, 'The mean of the same weekdays before'),
  {
    id: 'between',
    heading: 'By chance',
    width: 130,
    right: true,
    hint: 'What chance alone has it between',
    text: ({ low, high }) => `${low} to ${high}`,
    cell: ({ low, high }) => (
      <span className="text-faint">
        {count(low)} to {count(high)}
      </span>
    ),
  },
  {
    id: 'change',
    heading: 'Change',
    width: 90,
    right: true,
    text: ({ seen, expected }) => changeText(seen / expected - 1),
    cell: ({ seen, expected }) => <b className="text-warning">{changeText(seen / expected - 1)}</b>,
  },
  {
    id: 'labels',
    heading: 'What changed that day',
    text: ({ labels }) => labels.join(', '),
    cell: ({ labels }) => (
      <span className="truncate text-faint" title={labels.join('\n')}>
        {labels.length > 0 ? labels.join(', ') : 'nothing here'}
      </span>
    ),
  },
];
