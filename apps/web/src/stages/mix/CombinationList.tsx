import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useWidths } from '../../data/me.ts';
import { withParams } from '../../kit/address.ts';
import { Empty } from '../../kit/Empty.tsx';
import { FilterField } from '../../kit/FilterField.tsx';
import { count, counted, money } from '../../kit/format.ts';
import type { TableColumn } from '../../kit/table/column.ts';
import type { RowSource } from '../../kit/table/row-source.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import type { Combination, MixFilter } from '../../pool/mixing.ts';
import { type usePool, useWorked } from '../../pool/use-pool.ts';

type Props = {
  worker: ReturnType<typeof usePool>['worker'];
  stamp: string;
  currency: string;
  onCut: (texts: string[], cut: boolean) => Promise<void>;
  onVariants: (texts: string[]) => void;
};

const states = [
  { value: 'all', words: 'All' },
  { value: 'fresh', words: 'New' },
  { value: 'elsewhere', words: 'In the pool by others' },
  { value: 'cut', words: 'Cut' },
] as const satisfies { value: MixFilter['state']; words: string }[];

/** Everything that the recipe makes as one list, to be cut and put back from the keyboard. */
export function CombinationList({ worker, stamp, currency, onCut, onVariants }: Props) {
  const [params, setParams] = useSearchParams();
  const state = states.find(({ value }) => value === params.get('state'))?.value ?? 'all';
  const text = params.get('filter') ?? '';
  const [sort, setSort] = useState<{ id: MixFilter['sort']; down: boolean }>({ id: 'made', down: false });
  const selection = useSelection<number>();
  const widths = useWidths('combinations');
  const filter: MixFilter = { text, state, sort: sort.id, down: sort.down };
  const version = `${stamp}:${JSON.stringify(filter)}`;
  const { data: places, busy } = useWorked(() => worker.mixList(filter), version);
  const source = useMemo<RowSource<Combination, number>>(() => {
    const fetchPage = (keys: number[]) => worker.mixPage(keys);
    return {
      ids: places ?? new Uint32Array(),
      version,
      loading: busy,
      fetchPage,
      fetchAll: fetchPage,
      keyOf: ({ at }) => at,
    };
  }, [places, busy, version, worker]);
  const act = async (keys: number[], work: (texts: string[]) => unknown) => {
    const texts = await worker.mixTexts(keys);
    if (texts.length > 0) await work(texts);
    selection.clear();
  };
  const chosen = () => selection.listIn(source.ids);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex h-10 shrink-0 items-center gap-2 px-4">
        <FilterField
          label="Filter combinations"
          placeholder="Words in the combination"
          value={text}
          onChange={(next) => setParams((old) => withParams(old, { filter: next }), { replace: true })}
        />
        <fieldset className="join" aria-label="Which combinations">
          {states.map(({ value, words }) => (
            <button
              key={value}
              type="button"
              aria-pressed={state === value}
              className={`btn join-item btn-sm font-normal ${state === value ? 'btn-active' : ''}`}
              onClick={() => {
                selection.clear();
                setParams((old) => withParams(old, { state: value === 'all' ? '' : value }), {
                  replace: true,
                });
              }}
            >
              {words}
            </button>
          ))}
        </fieldset>
        <span className="text-faint">{count(places?.length ?? 0)} shown</span>
        {selection.size > 0 && (
          <span className="ml-auto flex items-center gap-2">
            <span className="text-faint">{counted(selection.size, 'combination')} selected</span>
            <button
              type="button"
              className="btn btn-sm"
              onClick={() => void act(chosen(), (texts) => onCut(texts, true))}
            >
              Cut <span className="key">c</span>
            </button>
            <button
              type="button"
              className="btn btn-sm"
              onClick={() => void act(chosen(), (texts) => onCut(texts, false))}
            >
              Put back <span className="key">b</span>
            </button>
            <button type="button" className="btn btn-sm" onClick={() => void act(chosen(), onVariants)}>
              Match variants <span className="key">v</span>
            </button>
          </span>
        )}
      </div>
      <Table
        label="Combinations"
        columns={columnsOf(currency)}
        source={source}
        sort={sort}
        onSort={(id, down) => setSort({ id: id as MixFilter['sort'], down })}
        selection={selection}
        widths={widths}
        dim={({ isCut }) => isCut}
        actions={{
          c: (keys) => void act(keys, (texts) => onCut(texts, true)),
          b: (keys) => void act(keys, (texts) => onCut(texts, false)),
          v: (keys) => void act(keys, onVariants),
        }}
        empty={
          <Empty title={text || state !== 'all' ? 'Nothing is left by this filter' : 'Nothing is made yet'}>
            {text || state !== 'all'
              ? 'Take a word away, or look at all.'
              : 'Fill the lists and put them into a pattern.'}
          </Empty>
        }
      />
    </div>
  );
}

function stateOf({ isCut, elsewhere }: Combination): string {
  if (isCut) return 'cut';
  return elsewhere ? 'in the pool by others' : 'new';
}

const columnsOf = (currency: string): TableColumn<Combination>[] => [
  {
    id: 'text',
    heading: 'Combination',
    sortable: true,
    text: ({ text }) => text,
    cell: ({ text }) => <span className="px-1">{text}</span>,
  },
  {
    id: 'state',
    heading: 'State',
    width: 160,
    text: stateOf,
    cell: (row) => <span className="text-faint">{stateOf(row)}</span>,
  },
  {
    id: 'searches',
    heading: 'Searches a month',
    width: 150,
    right: true,
    sortable: true,
    text: ({ searches }) => String(searches ?? ''),
    cell: ({ searches }) => count(searches),
  },
  {
    id: 'cpc',
    heading: 'CPC',
    width: 100,
    right: true,
    text: ({ cpc }) => (cpc === null ? '' : (cpc / 1_000_000).toFixed(2)),
    cell: ({ cpc }) => money(cpc, currency),
  },
];
