import type { BidsFrom, ResultBid } from '@sprig/contracts';
import { Link } from 'react-router';
import { ReachBars } from '../../kit/ReachBars.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import { figureColumn } from '../../plan/results/result-columns.tsx';
import { MILLION } from '../../plan/results/result-words.ts';
import { boundWords } from './bid-words.ts';
import { changeText } from './look-words.ts';

/** A bid before and after, with what it follows from. */
export function bidColumns(from: BidsFrom, currency: string): TableColumn<ResultBid>[] {
  const name: TableColumn<ResultBid> = {
    id: 'name',
    heading: 'Keyword',
    width: 240,
    text: ({ text }) => text,
    cell: ({ text, type, group }) => (
      <span className="flex min-w-0 items-center gap-1.5">
        <ReachBars type={type} />
        <Link
          className="truncate hover:underline"
          tabIndex={-1}
          title={`${text}: open its ad group in Build`}
          to={`../build?${new URLSearchParams({ at: group })}`}
        >
          {text}
        </Link>
      </span>
    ),
  };
  const campaign: TableColumn<ResultBid> = {
    id: 'campaign',
    heading: 'Campaign',
    text: (row) => row.campaign,
    cell: (row) => <span className="text-faint">{row.campaign}</span>,
  };
  const clicks = figureColumn<ResultBid>('clicks', currency, {
    id: 'clicks',
    heading: 'Clicks',
    of: (row) => row.clicks,
    hint: 'On days whose conversions count',
  });
  const sold = figureColumn<ResultBid>('conversions', currency, {
    id: 'conversions',
    heading: 'Conv.',
    of: ({ conversions }) => (conversions === null ? null : conversions * MILLION),
    hint: 'On days whose conversions count',
  });
  const rate = (id: string, heading: string, of: (row: ResultBid) => number | null, hint: string) =>
    figureColumn<ResultBid>('rate', currency, { id, heading, of, hint });
  const told = {
    aim: [
      clicks,
      sold,
      rate('rate', 'Conv. rate', ownRate, 'Conversions by clicks, as they were'),
      rate(
        'expected',
        'To expect',
        ({ expected }) => expected,
        'Drawn to its ad group, theme and plan, the more the fewer clicks it has',
      ),
    ],
    bands: [
      figureColumn<ResultBid>('impressions', currency, {
        id: 'impressions',
        heading: 'Impressions',
        of: (row) => row.impressions,
      }),
      figureColumn<ResultBid>('position', currency, {
        id: 'position',
        heading: 'Position',
        of: (row) => row.position,
      }),
    ],
    down: [],
  }[from];
  const bid = (id: string, heading: string, of: (row: ResultBid) => number) =>
    figureColumn<ResultBid>('cpc', currency, { id, heading, of, width: 84 });
  const change: TableColumn<ResultBid> = {
    id: 'change',
    heading: 'Change',
    width: 150,
    text: changeOf,
    cell: (row) => (
      <span>
        {changeOf(row)} <span className="text-[12px] text-faint">{boundWords[row.bound]}</span>
      </span>
    ),
  };
  return [
    name,
    campaign,
    ...told,
    bid('before', 'Bid', ({ before }) => before),
    bid('after', 'Bid then', ({ after }) => after),
    change,
  ];
}

const ownRate = ({ clicks, conversions }: ResultBid): number | null =>
  clicks && conversions !== null ? conversions / clicks : null;
const changeOf = ({ before, after }: ResultBid): string => changeText(after / before - 1);
