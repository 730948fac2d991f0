import type { PlanState } from '@sprig/contracts';
import type { ReadyFilter } from '@sprig/core/prune';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useWidths } from '../../data/me.ts';
import { TextChip } from '../../kit/chips.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { Figured, MoneyFigured } from '../../kit/Figured.tsx';
import { copiedFigure, copiedMoney } from '../../kit/figured-text.ts';
import { count, counted, short } from '../../kit/format.ts';
import type { TableColumn } from '../../kit/table/column.ts';
import type { RowSource } from '../../kit/table/row-source.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import type { PoolRow } from '../../pool/pool-store.ts';
import type { PruneInput } from '../../pool/pruning.ts';
import { type usePool, useWorked } from '../../pool/use-pool.ts';
import { filterNames } from './filter-names.ts';
import type { PruneActions } from './use-prune.ts';

type Props = {
  plan: PlanState;
  pool: ReturnType<typeof usePool>;
  name: ReadyFilter;
  input: PruneInput;
  question: string;
  least: number;
  onLeast: (least: number) => void;
  summary: { keywords: number; searches: number } | null;
  actions: PruneActions;
};

const none: number[] = [];

/** What one ready filter finds, and what cutting it would take out. */
export function FilterView({ plan, pool, name, input, question, least, onLeast, summary, actions }: Props) {
  const selection = useSelection<number>();
  const widths = useWidths('filters');
  const { data: ids } = useWorked(() => pool.worker.filterIds(input, name), `${name}:${question}`);
  const source = useMemo<RowSource<PoolRow, number>>(
    () => ({
      ids: ids ?? none,
      version: String(pool.revision),
      loading: ids === undefined,
      fetchPage: (keys) => pool.worker.page(keys),
      fetchAll: (keys) => pool.worker.page(keys),
      keyOf: ({ id }) => id,
    }),
    [ids, pool.revision, pool.worker],
  );
  const columns = useMemo(() => filterColumns(plan.brief.currency), [plan.brief.currency]);
  const chosen = selection.size > 0 ? selection.listIn(source.ids) : Array.from(source.ids);
  const cut = (keys: number[]) => {
    if (keys.length === 0) return;
    void actions
      .cut(keys, `Cut ${counted(keys.length, 'keyword')}.`)
      .then((done) => done && selection.clear());
  };
  return (
    <>
      <div className="flex h-12 shrink-0 items-center gap-3 px-4">
        <p className="text-[14px]">
          {name === 'low-volume' ? (
            <>
              Keywords with fewer than{' '}
              <TextChip
                label="Least searches a month"
                value={String(least)}
                read={(typed) =>
                  /^\d{1,9}$/.test(typed.trim())
                    ? { value: Number(typed) }
                    : { words: `“${typed}” is no number of searches.` }
                }
                onKeep={async (value) => {
                  onLeast(value as number);
                  return null;
                }}
                width={6}
              />{' '}
              searches a month; those without a figure stay.
            </>
          ) : (
            <FilterWords name={name} rivals={input.facts.rivals} />
          )}
        </p>
        <span className="ml-auto text-faint">
          {summary ? `${short(summary.searches)} searches a month between them` : ''}
        </span>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={chosen.length === 0}
          onClick={() => cut(chosen)}
        >
          Cut {counted(chosen.length, 'keyword')}
        </button>
      </div>
      <Table
        label={filterNames[name].name}
        columns={columns}
        source={source}
        selection={selection}
        widths={widths}
        actions={{ c: (keys) => cut(keys) }}
        empty={<Empty title="No keyword that is in meets this filter">There is nothing to cut here.</Empty>}
      />
    </>
  );
}

/** What a filter picks; one of rivals says where they are from. */
function FilterWords({ name, rivals }: { name: ReadyFilter; rivals: readonly string[] }) {
  if (name !== 'rival') return `Keywords ${filterNames[name].about}.`;
  return (
    <>
      Keywords that name a rival of the{' '}
      <Link to="../brief" className="text-primary underline underline-offset-2">
        brief
      </Link>
      {rivals.length === 0 ? ', which names none yet.' : `: ${rivals.join(', ')}.`}
    </>
  );
}

function filterColumns(currency: string): TableColumn<PoolRow>[] {
  return [
    {
      id: 'text',
      heading: 'Keyword',
      text: ({ text }) => text,
      cell: ({ text }) => <span className="px-1">{text}</span>,
    },
    {
      id: 'length',
      heading: 'Characters',
      width: 110,
      right: true,
      text: ({ text }) => String([...text].length),
      cell: ({ text }) => count([...text].length),
    },
    {
      id: 'searches',
      heading: 'Searches a month',
      width: 150,
      right: true,
      text: ({ searches, from }) => copiedFigure(searches, from.searches),
      cell: ({ searches, searchesAbout, from }) => (
        <Figured value={searches} from={from.searches} about={searchesAbout} />
      ),
    },
    {
      id: 'cpc',
      heading: 'CPC',
      width: 110,
      right: true,
      text: ({ cpc, from }) => copiedMoney(cpc, from.cpc, currency),
      cell: ({ cpc, cpcAbout, from }) => (
        <MoneyFigured value={cpc} from={from.cpc} about={cpcAbout} currency={currency} />
      ),
    },
  ];
}
