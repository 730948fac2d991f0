import { findIdeas, type Idea, type PlanState, takeIdeas } from '@sprig/contracts';
import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ArrowLeft } from 'lucide-react';
import { useDeferredValue, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../api/call.ts';
import { planKey } from '../../api/plan.ts';
import { queryClient } from '../../api/query-client.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { count, counted, money, short } from '../../kit/format.ts';
import { Empty, Help } from '../../kit/marks.tsx';
import type { RowSource } from '../../kit/row-source.ts';
import { useSelection } from '../../kit/selection.ts';
import { Table, type TableColumn } from '../../kit/Table.tsx';
import { YearBars } from '../../kit/YearBars.tsx';
import { Yield } from '../../kit/Yield.tsx';

type From = 'seeds' | 'page' | 'rival' | 'completions' | 'pool';

const froms: { value: From; words: string; placeholder: string; first: string }[] = [
  { value: 'seeds', words: 'around these words', placeholder: 'kayak hire, paddle board', first: '' },
  {
    value: 'page',
    words: 'from a page of the client’s site',
    placeholder: '',
    first: 'https://saltmarshpaddle.example/hire',
  },
  { value: 'rival', words: 'from a rival’s site', placeholder: '', first: 'https://fathomandreed.example/' },
  { value: 'completions', words: 'that begin with', placeholder: 'inflatable k', first: '' },
  { value: 'pool', words: 'around the pool itself', placeholder: '', first: '' },
];

function requestOf(from: From, typed: string) {
  switch (from) {
    case 'seeds': {
      const seeds = typed
        .split(/[,\n]/)
        .map((seed) => seed.trim())
        .filter(Boolean);
      return seeds.length > 0 ? { from: 'seeds' as const, seeds } : null;
    }
    case 'page':
    case 'rival':
      return typed.trim() === '' ? null : { from: 'page' as const, address: typed };
    case 'completions':
      return typed.trim() === '' ? null : { from: 'completions' as const, typed };
    case 'pool':
      return { from: 'pool' as const };
  }
}

type Filters = { contains: string; excludes: string; leastSearches: number };
const none: never[] = [];

/** Ideas from the stand-in market, ticked to be taken into the pool. */
export function IdeasView({ plan, onClose }: { plan: PlanState; onClose: () => void }) {
  const [from, setFrom] = useState<From>('seeds');
  const [typed, setTyped] = useState('');
  const [filters, setFilters] = useState<Filters>({ contains: '', excludes: '', leastSearches: 10 });
  const [busy, setBusy] = useState(false);
  const [sort, setSort] = useState({ id: 'searches', down: true });
  const selection = useSelection<string>();
  const request = useDeferredValue(requestOf(from, typed));
  const asked = useDeferredValue(filters);
  const { data, error, isFetching } = useQuery({
    queryKey: [...planKey(plan.id), 'ideas', request, asked],
    enabled: request !== null,
    queryFn: ({ signal }) =>
      call(findIdeas, {
        params: { plan: plan.id },
        body: { request: request as never, filters: asked },
        signal,
      }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const [onlyNew, setOnlyNew] = useState(false);
  const found = request === null || error ? none : (data?.ideas ?? none);
  const ideas = useMemo(() => (onlyNew ? found.filter(({ inPool }) => !inPool) : found), [found, onlyNew]);
  const rows = useMemo(() => sorted(ideas, sort), [ideas, sort]);
  const source = useMemo<RowSource<Idea, string>>(() => {
    const byText = new Map(rows.map((idea) => [idea.text, idea]));
    const fetchPage = async (texts: string[]) => texts.flatMap((text) => byText.get(text) ?? []);
    return {
      ids: rows.map(({ text }) => text),
      version: `${rows.length}:${rows[0]?.text}:${rows.filter(({ inPool }) => inPool).length}`,
      loading: isFetching,
      fetchPage,
      fetchAll: fetchPage,
      keyOf: ({ text }) => text,
    };
  }, [rows, isFetching]);
  const columns = useMemo(() => ideaColumns(plan.brief.currency), [plan.brief.currency]);
  // Only what is ticked: nothing ticked is nothing taken.
  const chosen = selection.listIn(source.ids);
  const take = async (texts: string[]) => {
    if (texts.length === 0) return;
    setBusy(true);
    try {
      const name = from === 'pool' ? 'Ideas around the pool' : `Ideas: ${typed.trim().slice(0, 60)}`;
      const result = await call(takeIdeas, { params: { plan: plan.id }, body: { name, texts } });
      await queryClient.invalidateQueries({ queryKey: planKey(plan.id) });
      selection.clear();
      toast(`${counted(result.added, 'keyword')} went in. Ctrl+Z takes it back.`);
    } catch (failure) {
      toast.error(wordsOf(failure));
    }
    setBusy(false);
  };
  const kind = froms.find(({ value }) => value === from) ?? froms[0];
  const total = rows.reduce((sum, { searches }) => sum + searches, 0);
  const small = (label: string, at: 'contains' | 'excludes', placeholder: string) => (
    <input
      aria-label={label}
      className="input input-sm w-28"
      placeholder={placeholder}
      value={filters[at]}
      onChange={(event) => setFilters({ ...filters, [at]: event.target.value })}
    />
  );
  return (
    <>
      <section className="flex h-12 shrink-0 items-center gap-3 border-hair border-b px-4">
        <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
          <ArrowLeft size={15} aria-hidden /> Back to the pool
        </button>
        <span className="rounded-md bg-base-200 px-2 py-1 text-warning">
          From the stand-in market: figures are made up, no real market is asked
        </span>
        <button
          type="button"
          className="btn btn-primary btn-sm ml-auto"
          disabled={busy || chosen.length === 0}
          title={chosen.length === 0 ? 'Tick the ideas to take in; Ctrl A ticks all' : undefined}
          onClick={() => void take(chosen)}
        >
          Take in {counted(chosen.length, 'idea')}
        </button>
      </section>
      <div className="flex shrink-0 flex-wrap items-center gap-2 border-hair border-b px-4 py-2 text-[14px]">
        Ideas{' '}
        <ChoiceChip
          label="Where ideas come from"
          value={from}
          choices={froms}
          onChoose={(value) => {
            setFrom(value);
            setTyped(froms.find((one) => one.value === value)?.first ?? '');
            selection.clear();
          }}
        />
        {from !== 'pool' && (
          <input
            // biome-ignore lint/a11y/noAutofocus: the view was opened to type into it
            autoFocus
            aria-label="Seed words or address"
            className="input input-sm w-60"
            placeholder={kind?.placeholder}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        )}
        with {small('Contains', 'contains', 'any word')} but not {small('Excludes', 'excludes', 'no word')}{' '}
        and at least{' '}
        <input
          aria-label="Least searches"
          className="input input-sm w-20 text-right"
          inputMode="numeric"
          value={filters.leastSearches}
          onChange={(event) =>
            setFilters({
              ...filters,
              leastSearches: Number(event.target.value.replace(/\D/g, '').slice(0, 9)),
            })
          }
        />{' '}
        searches a month
        <label className="ml-auto flex items-center gap-2 text-[13px]">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={onlyNew}
            onChange={(event) => setOnlyNew(event.target.checked)}
          />
          only new ones
        </label>
      </div>
      {error && request !== null && (
        <p role="alert" className="border-hair border-b px-4 py-2 text-error">
          {wordsOf(error)}
        </p>
      )}
      {data && request !== null && !error && (from === 'page' || from === 'rival') && (
        <p className="truncate border-hair border-b px-4 py-1.5 text-faint">
          The page speaks of {data.seeds.slice(0, 10).join(', ')}
        </p>
      )}
      <Table
        label="Ideas"
        columns={columns}
        source={source}
        sort={sort}
        onSort={(id, down) => setSort({ id, down })}
        selection={selection}
        dim={() => false}
        empty={
          <Empty
            title={request === null ? 'What are the ideas to be about?' : 'No idea is left by these filters'}
          >
            {request === null
              ? 'Type a word or two, or choose another place to start from.'
              : 'Ask for fewer searches, or take a word away.'}
          </Empty>
        }
      />
      <Yield
        terms={[
          { id: 'found', figure: count(data && request !== null ? data.total : 0), words: 'ideas found' },
          { id: 'shown', figure: count(rows.length), words: 'shown' },
          { id: 'new', figure: count(rows.filter(({ inPool }) => !inPool).length), words: 'new to the pool' },
          { id: 'chosen', figure: count(selection.size), words: 'ticked' },
          {
            id: 'searches',
            figure: short(total),
            words: 'searches a month',
            more: <Help>The sum over the ideas shown, by the stand-in market.</Help>,
          },
        ]}
      />
    </>
  );
}

function sorted(ideas: readonly Idea[], { id, down }: { id: string; down: boolean }): Idea[] {
  const value = (idea: Idea) => idea[id as 'searches' | 'cpc' | 'competition'];
  const list = ideas.slice();
  if (id === 'text') list.sort((a, b) => (a.text < b.text ? -1 : 1));
  else list.sort((a, b) => value(a) - value(b));
  return down ? list.reverse() : list;
}

function ideaColumns(currency: string): TableColumn<Idea>[] {
  return [
    {
      id: 'text',
      heading: 'Idea',
      sortable: true,
      text: ({ text }) => text,
      cell: ({ text, inPool }) => (
        <span className={`px-1 ${inPool ? 'text-faint' : ''}`}>
          {text}
          {inPool && <span className="ml-2 text-[12px]">in the pool</span>}
        </span>
      ),
    },
    {
      id: 'searches',
      heading: 'Searches a month',
      width: 140,
      right: true,
      sortable: true,
      text: ({ searches }) => String(searches),
      cell: ({ searches }) => count(searches),
    },
    {
      id: 'months',
      heading: 'Twelve months',
      width: 120,
      text: ({ months }) => months.join(' '),
      cell: ({ months }) => <YearBars months={months} width={84} height={18} />,
    },
    {
      id: 'competition',
      heading: 'Competition',
      width: 110,
      right: true,
      sortable: true,
      text: ({ competition }) => String(competition),
      cell: ({ competition }) => count(competition),
    },
    {
      id: 'cpc',
      heading: 'CPC',
      width: 90,
      right: true,
      sortable: true,
      text: ({ cpc }) => decimalFromMicros(asMicros(cpc), decimalsOf(currency)),
      cell: ({ cpc }) => money(cpc, currency),
    },
    {
      id: 'impressions',
      heading: 'Impressions',
      width: 110,
      right: true,
      text: ({ impressions }) => String(impressions),
      cell: ({ impressions }) => count(impressions),
    },
    {
      id: 'ctr',
      heading: 'CTR',
      width: 80,
      right: true,
      text: ({ ctr }) => `${(ctr / 100).toFixed(2)}%`,
      cell: ({ ctr }) => `${(ctr / 100).toFixed(2)}%`,
    },
  ];
}
