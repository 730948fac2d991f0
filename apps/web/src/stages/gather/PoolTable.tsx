import { listKeptColumns, type PlanState, type Source } from '@sprig/contracts';
import { monthOfHeading } from '@sprig/core/figures';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { usePreferences, useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { useNoted } from '../../frame/notes/NoteOn.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { FilterField } from '../../kit/FilterField.tsx';
import { count, counted } from '../../kit/format.ts';
import type { Put } from '../../kit/table/column.ts';
import type { RowSource } from '../../kit/table/row-source.ts';
import type { Selection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { ResultsMenu } from '../../plan/results/ResultsMenu.tsx';
import type { KeptKind } from '../../pool/kept-columns.ts';
import {
  type PoolOrder,
  type PoolQuery,
  type PoolRow,
  poolStates,
  wholePool,
} from '../../pool/pool-store.ts';
import { figureOfHeading } from '../../pool/result-headings.ts';
import { useExamples } from '../../pool/use-examples.ts';
import type { usePool } from '../../pool/use-pool.ts';
import { FigureFilters } from './FigureFilters.tsx';
import { ChosenKeywords, ColumnsMenu, type PoolActions } from './PoolBar.tsx';
import { fillPool, type Kept, poolColumns } from './pool-columns.tsx';

type Props = PoolActions & {
  plan: PlanState;
  pool: ReturnType<typeof usePool>;
  query: PoolQuery;
  setQuery: (change: Partial<PoolQuery>) => void;
  found: (PoolOrder & { kinds: Record<string, KeptKind> }) | undefined;
  selection: Selection<number>;
  sources: Source[];
  /** Columns that were kept as they are, of those that there are, by their headings. */
  keptColumns: string[];
  onKeptColumns: (headings: readonly string[]) => void;
};

const none = new Uint32Array();
const noColumns: Kept[] = [];
const stateWords = { in: 'In', cut: 'Cut', folded: 'Folded', blocked: 'Blocked', all: 'All' } as const;

/** The pool, filtered and ordered in the worker, edited in place. */
export function PoolTable(props: Props) {
  const {
    plan,
    pool,
    query,
    setQuery,
    found,
    selection,
    sources,
    keptColumns,
    onKeptColumns,
    onCut,
    onPutBack,
    onAsk,
    onTake,
    onRewrite,
    onTypes,
    onVariants,
  } = props;
  const { currency } = plan.brief;
  const names = useMemo(() => new Map(sources.map(({ id, name }) => [id, name])), [sources]);
  const { preferences } = usePreferences();
  const hidden = preferences.hiddenColumns.pool ?? [];
  const widths = useWidths('pool');
  const filling = useMemo(
    () => ({ put: (puts: Put<PoolRow>[]) => fillPool(plan.id, puts), onlyMarked: true }),
    [plan.id],
  );
  const source = useMemo<RowSource<PoolRow, number>>(
    () => ({
      ids: found?.ids ?? none,
      version: `${pool.figures}:${keptColumns.join()}`,
      loading: found === undefined,
      fetchPage: (keys) => pool.worker.page(keys),
      fetchAll: (keys) => pool.worker.page(keys),
      keyOf: ({ id }) => id,
    }),
    [found, pool.figures, pool.worker, keptColumns],
  );
  const noted = useNoted(plan.id, 'keyword');
  // On the one that is selected a note is offered.
  const one = selection.size === 1 ? selection.listIn(found?.ids ?? none)[0] : undefined;
  const shownNotes = useMemo(
    () => (one === undefined ? noted : new Set([...noted, String(one)])),
    [noted, one],
  );
  const columns = useMemo(
    () => poolColumns(plan.id, currency, pool.worker, names, keptColumns, shownNotes),
    [plan.id, currency, pool.worker, names, keptColumns, shownNotes],
  );
  const { data: kept = noColumns } = useQuery({
    ...question(listKeptColumns, { params: { plan: plan.id } }),
    select: inOrder,
  });
  const examples = useExamples();
  const chosen = selection.size;
  const chosenIds = () => selection.listIn(found?.ids ?? none);
  return (
    <>
      <div className="flex h-10 shrink-0 items-center gap-2 px-4">
        <FilterField
          label="Filter keywords"
          placeholder={`Filter: ${examples.word} -${examples.other}`}
          value={query.filter}
          onChange={(filter) => setQuery({ filter })}
        />
        <fieldset className="join" aria-label="Which keywords">
          {([...poolStates, 'all'] as const).map((state) => (
            <button
              key={state}
              type="button"
              aria-pressed={query.state === state}
              className={`btn join-item btn-sm px-2.5 font-normal ${query.state === state ? 'btn-active' : ''}`}
              onClick={() => setQuery({ state })}
            >
              {stateWords[state]}
            </button>
          ))}
        </fieldset>
        {(query.from !== null || query.to !== null) && (
          <button type="button" className="chip" onClick={() => setQuery({ from: null, to: null })}>
            {query.to !== null && query.to < 0
              ? 'no figure'
              : `${count(Math.max(0, query.from ?? 0))} to ${query.to === null ? 'any' : count(query.to)} searches`}{' '}
            ×
          </button>
        )}
        {chosen === 0 && (
          <FigureFilters query={query} setQuery={setQuery} currency={currency} kinds={found?.kinds ?? {}} />
        )}
        {chosen === 0 && (
          <span className="shrink-0 text-faint">{found ? counted(found.ids.length, 'keyword') : '…'}</span>
        )}
        {onAsk && chosen === 0 && found !== undefined && (found.histogram.bars[0]?.count ?? 0) > 0 && (
          <button type="button" className="btn btn-ghost btn-sm font-normal" onClick={() => onAsk(null)}>
            Have figures made up for {counted(found.histogram.bars[0]?.count ?? 0, 'keyword')} without any
          </button>
        )}
        {chosen > 0 && (
          <ChosenKeywords
            chosen={chosen}
            state={query.state}
            ids={chosenIds}
            onCut={onCut}
            onPutBack={onPutBack}
            onAsk={onAsk}
            onTake={onTake}
            onRewrite={onRewrite}
            onTypes={onTypes}
            onVariants={onVariants}
          />
        )}
        <span className={`flex items-center ${chosen === 0 ? 'ml-auto' : ''}`}>
          <ResultsMenu plan={plan} by="keyword" />
          <ColumnsMenu
            columns={columns.slice(1)}
            kept={kept}
            keptColumns={keptColumns.filter((heading) => figureOfHeading(heading) === null)}
            onKeptColumns={onKeptColumns}
          />
        </span>
      </div>
      <Table
        label="Pool"
        columns={columns}
        source={source}
        sort={{ id: query.sort, down: query.down }}
        onSort={(sort, down) => setQuery({ sort: sort as PoolQuery['sort'], down })}
        selection={selection}
        widths={widths}
        filling={filling}
        hidden={hidden}
        dim={(row) => row.state !== 'in'}
        actions={{ c: (ids) => onCut(ids, true), b: onPutBack, r: onRewrite, m: onTypes, v: onVariants }}
        empty={
          <Empty title="No keyword is left by this filter">
            <button
              type="button"
              className="btn btn-sm"
              onClick={() => setQuery({ ...wholePool, sort: query.sort, down: query.down })}
            >
              Show all keywords
            </button>
          </Empty>
        }
      />
    </>
  );
}

/** Those of most keywords first, months in their own order. */
function inOrder({ keptColumns }: { keptColumns: readonly Kept[] }): Kept[] {
  const placeOf = ({ heading }: Kept) => {
    const found = monthOfHeading(heading);
    return found ? (found.year ?? 0) * 12 + found.month : 0;
  };
  return keptColumns.toSorted((a, b) => b.keywords - a.keywords || placeOf(a) - placeOf(b));
}
