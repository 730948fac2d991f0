import type { Look, LookAnswer } from '@sprig/contracts';
import type { ResultFigure } from '@sprig/core/learn';
import { useMemo } from 'react';
import { useWidths } from '../../data/me.ts';
import { Empty } from '../../kit/Empty.tsx';
import { ReachBars } from '../../kit/ReachBars.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import type { RowSource } from '../../kit/table/row-source.ts';
import type { Selection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import {
  figureAt,
  figureHeadings,
  figureOrder,
  figureText,
  typedFigure,
} from '../../plan/results/result-words.ts';
import { beforeOf, changeOf, changeText, groupingWords, groupName, isMoreThanChance } from './look-words.ts';
import type { ShownRow } from './use-look.ts';

type Props = {
  look: Look;
  found: LookAnswer;
  source: RowSource<ShownRow, number>;
  selection: Selection<number>;
  onSort: (sort: ResultFigure, down: boolean) => void;
  /** Opens what stands within a row: keywords of an ad group, days of a keyword. */
  onOpen: (row: ShownRow) => void;
};

/** The rows of a look, each figure with how it has changed. */
export function LookTable({ look, found, source, selection, onSort, onOpen }: Props) {
  const widths = useWidths(`results-${look.by}`);
  const currency = found.account?.currency ?? 'EUR';
  const columns = useMemo(
    () => [nameColumn(look, onOpen), ...besideColumns(look.by), ...figureColumns(found, currency)],
    [look, found, currency, onOpen],
  );
  return (
    <Table
      label={`Results by ${groupingWords[look.by][0]}`}
      columns={columns}
      source={source}
      sort={{ id: look.sort, down: look.down }}
      onSort={(id, down) => onSort(id as ResultFigure, down)}
      selection={selection}
      widths={widths}
      empty={
        <Empty title="Nothing meets these conditions">
          {found.all > 0 ? 'Take one of them away, or make it wider.' : 'These days had nothing.'}
        </Empty>
      }
    />
  );
}

function nameColumn({ by }: Look, onOpen: (row: ShownRow) => void): TableColumn<ShownRow> {
  const [one] = groupingWords[by];
  return {
    id: 'name',
    heading: one.charAt(0).toUpperCase() + one.slice(1),
    text: ({ names }) => names[0] ?? '',
    cell: (row) => {
      const [name = ''] = row.names;
      const shown = groupName(by, name);
      return (
        <button
          type="button"
          tabIndex={-1}
          className={`max-w-full cursor-pointer truncate text-left hover:underline ${name === '' ? 'text-faint' : ''}`}
          title={shown}
          onClick={() => onOpen(row)}
        >
          {shown}
        </button>
      );
    },
  };
}

/** What stands beside a name: the match type, the ad group and the campaign that it is in. */
function besideColumns(by: Look['by']): TableColumn<ShownRow>[] {
  const text = (id: string, heading: string, at: number): TableColumn<ShownRow> => ({
    id,
    heading,
    width: 150,
    text: ({ names }) => names[at] ?? '',
    cell: ({ names }) => <span className="text-faint">{names[at]}</span>,
  });
  if (by === 'group') return [text('campaign', 'Campaign', 1)];
  if (by === 'ad') return [text('group', 'Ad group', 1), text('campaign', 'Campaign', 2)];
  if (by !== 'keyword') return [];
  const match: TableColumn<ShownRow> = {
    id: 'match',
    heading: 'Match',
    width: 92,
    text: ({ names }) => names[1] ?? '',
    cell: ({ names }) => {
      const type = names[1] as 'broad' | 'modified' | 'phrase' | 'exact' | '' | undefined;
      return type ? (
        <span className="inline-flex items-center gap-1.5">
          <ReachBars type={type} /> <span className="text-faint">{groupName('match', type)}</span>
        </span>
      ) : (
        <span className="text-faint">–</span>
      );
    },
  };
  return [match, text('group', 'Ad group', 2)];
}

const WIDTHS: Partial<Record<ResultFigure, number>> = {
  impressions: 122,
  cost: 132,
  value: 132,
  costPerConversion: 122,
};

/** A column for each figure that anything tells. */
function figureColumns(found: LookAnswer, currency: string): TableColumn<ShownRow>[] {
  return figureOrder
    .filter((name) => figureAt(name, found.totals) !== null)
    .map((name) => ({
      id: name,
      heading: figureHeadings[name],
      width: WIDTHS[name] ?? 104,
      right: true,
      sortable: true,
      text: ({ figures }) => {
        const value = figureAt(name, figures);
        return value === null ? '' : typedFigure(name, value);
      },
      cell: ({ figures, before }) => (
        <FigureCell
          name={name}
          value={figureAt(name, figures)}
          before={found.totalsBefore ? beforeOf(name, before, found) : undefined}
          isMore={isMoreThanChance(name, figures, before, found)}
          currency={currency}
        />
      ),
    }));
}

type CellProps = {
  name: ResultFigure;
  value: number | null;
  /** undefined: nothing is held against it. */
  before: number | null | undefined;
  /** It has changed by more than chance; null: nobody can tell. */
  isMore: boolean | null;
  currency: string;
};

function FigureCell({ name, value, before, isMore, currency }: CellProps) {
  const change = changeOf(value, before);
  const words = isMore ? ', more than chance (5%)' : ', which may be chance';
  const chance = isMore === null ? '' : words;
  const was = before === undefined ? '' : `before: ${figureText(name, before, currency)}${chance}`;
  return (
    <span className="inline-flex w-full items-baseline justify-end gap-1.5" title={was}>
      {change !== null && (
        <span
          className={`text-[11px] ${isMore ? 'font-semibold underline decoration-dotted' : 'text-faint'}`}
        >
          {changeText(change)}
        </span>
      )}
      <span className={value === null ? 'text-hair' : ''}>{figureText(name, value, currency)}</span>
    </span>
  );
}
