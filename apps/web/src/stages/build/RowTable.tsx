import { type LongRow, orderRows, type PlanState, pageRows, rowSorts } from '@sprig/contracts';
import { bitOf, matchTypes, setOf } from '@sprig/core/match';
import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { call } from '../../data/call.ts';
import { useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { useKeyedRows } from '../../data/use-keyed-rows.ts';
import { isTyped, withParams } from '../../kit/address.ts';
import { Empty } from '../../kit/Empty.tsx';
import { FilterField } from '../../kit/FilterField.tsx';
import { count, counted, money } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { readHeld } from '../../kit/read-held.ts';
import { Tie } from '../../kit/Tie.tsx';
import type { Put, TableColumn } from '../../kit/table/column.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { useSettled } from '../../kit/use-settled.ts';
import { MatchTypesOf } from '../../plan/MatchTypes.tsx';
import { RewriteMany } from '../../plan/RewriteMany.tsx';
import { ResultsMenu } from '../../plan/results/ResultsMenu.tsx';
import { resultColumns } from '../../plan/results/result-columns.tsx';
import { useResultFigures, withResults } from '../../plan/results/use-results.ts';
import { useHolds } from '../../plan/use-holds.ts';
import { useBidNetworks } from '../../plan/use-outlets.ts';
import { BidEdit } from './BidEdit.tsx';
import { BulkBar } from './BulkBar.tsx';
import { BulkBids } from './BulkBids.tsx';
import { MoveKeywords } from './MoveKeywords.tsx';
import { RowConditions } from './RowConditions.tsx';
import { readBid, readStatus } from './read-cells.ts';
import { conditionsIn } from './row-conditions.ts';
import type { BuildActions } from './use-build.ts';
import { useManyRows } from './use-many-rows.ts';
import { usePending } from './use-pending.ts';

type Sort = (typeof rowSorts)[number];
const onlys = ['all', 'held', 'paused', 'twice', 'unreached'] as const;
const onlyWords = {
  all: 'all',
  held: 'with a held bid',
  paused: 'paused',
  twice: 'in two places',
  unreached: 'that reach no position',
};

/** Every keyword row across the ad groups, edited in place or in bulk. */
export function RowTable({ plan, labels }: { plan: PlanState; labels: readonly string[] }) {
  const [params, setParams] = useSearchParams();
  const selection = useSelection<string>();
  const widths = useWidths('rows');
  const many = useManyRows(plan.id, 'keyword row');
  const { actions } = many;
  const { hold } = useHolds(plan.id);
  const [bulk, setBulk] = useState<'bids' | 'types' | 'move' | 'replace' | null>(null);
  const filter = params.get('filter') ?? '';
  const sort = rowSorts.find((one) => one === params.get('sort')) ?? 'searches';
  const down = params.get('down') !== 'no';
  const only = onlys.find((one) => one === params.get('rows')) ?? 'all';
  const types = Number(params.get('types') ?? setOf(matchTypes));
  const campaign = params.get('campaign') ?? '';
  const conditions = conditionsIn(params);
  const typed = useSettled(filter);
  const set = useCallback(
    (change: Record<string, string>) =>
      setParams((old) => withParams(old, change), { replace: isTyped(change) }),
    [setParams],
  );
  const figures = useResultFigures(plan);
  const hasResults = figures.length > 0;
  const query = {
    filter: typed,
    sort,
    down: down ? ('true' as const) : ('false' as const),
    only,
    types,
    campaign,
    ...conditions,
  };
  const page = useCallback(
    async (keys: string[]) => {
      const { rows } = await call(pageRows, { params: { plan: plan.id }, body: { keys } });
      return withResults(plan.id, 'row', rows, ({ key }) => key, hasResults);
    },
    [plan.id, hasResults],
  );
  const { source, data, seen } = useKeyedRows({
    order: question(orderRows, { params: { plan: plan.id }, query }),
    page,
    stamp: hasResults ? String(plan.revision) : '',
  });
  const { currency } = plan.brief;
  const networks = useBidNetworks(plan.id);
  const { pending, holdNow, holdEachNow } = usePending(plan.id, hold, seen, plan.revision);
  const columns = useMemo(
    () => [
      ...rowColumns(currency, holdNow, actions, pending, networks.length > 1, (group) =>
        set({ view: '', at: group }),
      ),
      ...resultColumns<LongRow>(figures),
    ],
    [currency, holdNow, actions, pending, networks, set, figures],
  );
  const filling = useMemo(
    () => ({
      put: (puts: Put<LongRow>[]) =>
        holdEachNow(
          puts.map(({ row, column, value }) => [
            row.key,
            column as 'bid' | 'status' | 'finalUrl' | NetworkField,
            value ?? '',
          ]),
        ),
    }),
    [holdEachNow],
  );
  const chosen = selection.size > 0 ? selection.listIn(source.ids) : [];
  const openFor = (what: 'bids' | 'types') => (keys: string[]) => {
    if (selection.size === 0) selection.all(keys);
    setBulk(what);
  };
  return (
    <>
      <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-2 gap-y-1 px-4 py-0.5">
        <RowFilters filter={filter} types={types} only={only} onAddress={set} />
        <RowConditions
          plan={plan.id}
          currency={plan.brief.currency}
          labels={labels}
          now={conditions}
          onAddress={set}
        />
        <span className="text-faint">{data ? counted(data.keys.length, 'keyword row') : '…'}</span>
        {chosen.length === 0 && (
          <span className="ml-auto">
            <ResultsMenu plan={plan} by="row" />
          </span>
        )}
        {chosen.length > 0 && (
          <BulkBar
            keys={chosen}
            word="row"
            held={many.heldIn(chosen).length}
            actions={actions}
            onBids={() => setBulk('bids')}
            onLetGo={() => many.letGo(chosen)}
          >
            <button type="button" className="btn btn-sm" onClick={() => setBulk('types')}>
              Match types <span className="key">m</span>
            </button>
            <button type="button" className="btn btn-sm" onClick={() => setBulk('move')}>
              Move
            </button>
            <button type="button" className="btn btn-sm" onClick={() => setBulk('replace')}>
              Replace
            </button>
          </BulkBar>
        )}
      </div>
      <Table
        label="Keyword rows"
        columns={columns}
        source={source}
        sort={{ id: sort, down }}
        onSort={(id, isDown) => set({ sort: id as Sort, down: isDown ? '' : 'no' })}
        selection={selection}
        widths={widths}
        filling={filling}
        dim={({ status: now }) => now === 'paused'}
        actions={{
          ...many.keys,
          b: openFor('bids'),
          m: openFor('types'),
        }}
        empty={
          <Empty
            title={
              plan.counts.rows === 0
                ? 'The keyword rows are being built'
                : 'No keyword row is left by this filter'
            }
          >
            They show here as soon as they are there.
          </Empty>
        }
      />
      {bulk === 'move' && chosen.length > 0 && (
        <MoveKeywords plan={plan.id} rows={chosen} onClose={() => setBulk(null)} />
      )}
      {bulk === 'replace' && chosen.length > 0 && (
        <RewriteMany
          plan={plan.id}
          scope={{ keys: chosen }}
          what={counted(chosen.length, 'keyword row')}
          choices={['labels', 'urls']}
          onClose={() => setBulk(null)}
        />
      )}
      {bulk === 'types' && chosen.length > 0 && (
        <MatchTypesOf
          plan={plan.id}
          scope={{ rows: chosen }}
          what={`the keywords of ${counted(chosen.length, 'keyword row')}`}
          onClose={() => setBulk(null)}
        />
      )}
      {bulk === 'bids' && chosen.length > 0 && (
        <BulkBids
          plan={plan.id}
          currency={currency}
          scope={{ rows: chosen }}
          what={counted(chosen.length, 'keyword row')}
          onClose={() => setBulk(null)}
        />
      )}
    </>
  );
}

type FilterProps = {
  filter: string;
  /** The match types shown, as a set of bits. */
  types: number;
  only: (typeof onlys)[number];
  onAddress: (change: Record<string, string>) => void;
};

/** Which keyword rows are listed. */
function RowFilters({ filter, types, only, onAddress }: FilterProps) {
  return (
    <>
      <FilterField
        label="Filter keywords and ad groups"
        placeholder="Filter keywords and ad groups"
        value={filter}
        onChange={(next) => onAddress({ filter: next })}
      />
      {matchTypes.map((type) => (
        <button
          key={type}
          type="button"
          aria-pressed={(types & bitOf(type)) !== 0}
          aria-label={`Show ${matchWords[type]}`}
          title={matchWords[type]}
          className={`chip ${types & bitOf(type) ? '' : 'chip-off'}`}
          onClick={() => {
            const next = types ^ bitOf(type);
            onAddress({ types: next === setOf(matchTypes) || next === 0 ? '' : String(next) });
          }}
        >
          <ReachBars type={type} />
        </button>
      ))}
      <select
        className="plain-field chip"
        aria-label="Which rows"
        value={only}
        onChange={({ target }) => onAddress({ rows: target.value === 'all' ? '' : target.value })}
      >
        {onlys.map((one) => (
          <option key={one} value={one}>
            {onlyWords[one]}
          </option>
        ))}
      </select>
    </>
  );
}

function rowColumns(
  currency: string,
  hold: ReturnType<typeof useHolds>['hold'],
  actions: BuildActions,
  pending: ReadonlyMap<string, string | number>,
  hasNetworks: boolean,
  onGroup: (group: string) => void,
): TableColumn<LongRow>[] {
  const bidOf = (row: LongRow) => asMicros(Number(pending.get(`${row.key} bid`) ?? row.bid));
  const urlOf = (row: LongRow) =>
    String(pending.get(`${row.key} finalUrl`) ?? row.heldUrl ?? row.ruleUrl ?? '');
  const plain = (amount: number) => decimalFromMicros(asMicros(amount), decimalsOf(currency));
  return [
    { id: 'text', heading: 'Keyword', sortable: true, text: ({ text }) => text, cell: ({ text }) => text },
    {
      id: 'type',
      heading: 'Match type',
      width: 130,
      sortable: true,
      text: ({ type }) => matchWords[type],
      cell: ({ type }) => (
        <span className="inline-flex items-center gap-1.5">
          <ReachBars type={type} /> {matchWords[type]}
        </span>
      ),
    },
    {
      id: 'group',
      heading: 'Ad group',
      width: 240,
      sortable: true,
      text: ({ groupName }) => groupName,
      cell: ({ group, groupName }) => (
        <button
          type="button"
          tabIndex={-1}
          className="truncate text-faint hover:underline"
          onClick={() => onGroup(group)}
        >
          {groupName}
        </button>
      ),
    },
    {
      id: 'searches',
      heading: 'Searches',
      width: 92,
      right: true,
      sortable: true,
      text: ({ searches }) => (searches === null ? '' : String(searches)),
      cell: ({ searches }) => count(searches),
    },
    {
      id: 'cpc',
      heading: 'CPC',
      width: 80,
      right: true,
      text: ({ cpc }) => (cpc === null ? '' : plain(cpc)),
      cell: ({ cpc }) => <span className="text-faint">{money(cpc, currency)}</span>,
    },
    {
      id: 'bid',
      heading: 'Bid',
      width: 110,
      right: true,
      sortable: true,
      text: (row) => plain(bidOf(row)),
      read: readBid,
      cell: (row) => (
        <span className="flex items-center justify-end gap-0.5">
          <BidEdit row={row} bid={bidOf(row)} currency={currency} hold={hold} actions={actions} />
        </span>
      ),
    },
    ...(hasNetworks ? networkColumns(currency, hold, actions, pending) : []),
    {
      id: 'position',
      heading: 'Position',
      width: 80,
      right: true,
      hint: 'The position that its bid reaches, by the forecast; 1 is the top',
      text: ({ position }) => (position === null ? '' : position.toFixed(1)),
      cell: ({ position }) => (
        <span className="text-faint">{position === null ? '–' : `≈ ${position.toFixed(1)}`}</span>
      ),
    },
    {
      id: 'status',
      heading: 'Status',
      width: 84,
      text: ({ status }) => status,
      read: readStatus,
      cell: ({ status }) =>
        status === 'paused' ? (
          <span className="text-warning">paused</span>
        ) : (
          <span className="text-faint">enabled</span>
        ),
    },
    {
      id: 'labels',
      heading: 'Labels',
      width: 120,
      text: ({ labels }) => labels.join(', '),
      cell: ({ labels }) => <span className="text-faint">{labels.join(', ')}</span>,
    },
    {
      id: 'finalUrl',
      heading: 'Final URL',
      hint: 'Where the keyword leads by itself; empty: where the ads of its ad group do',
      width: 220,
      text: (row) => urlOf(row),
      read: (typed) => (typed === '' ? { value: '' } : readHeld('finalUrl', typed)),
      cell: (row) => (
        <span className="flex min-w-0 items-center gap-0.5">
          {row.heldUrl !== null && (
            <Tie
              rule={row.ruleUrl === null ? 'where its ads lead' : `“${row.ruleUrl}”`}
              onLetGo={() => void actions.letGo([{ rowKey: row.key, field: 'finalUrl' }])}
            />
          )}
          <InlineEdit
            label={`final URL of ${row.text} ${matchWords[row.type]}`}
            shown={urlOf(row) || <span className="text-faint">as its ads</span>}
            text={urlOf(row)}
            onKeep={(typed) => hold(row.key, 'finalUrl', typed.trim())}
          />
        </span>
      ),
    },
  ];
}

type NetworkField = 'bidPartners' | 'bidDisplay';

/** What is bid on other networks than search, by hand. */
const networkColumns = (
  currency: string,
  hold: ReturnType<typeof useHolds>['hold'],
  actions: BuildActions,
  pending: ReadonlyMap<string, string | number>,
): TableColumn<LongRow>[] =>
  (
    [
      ['bidPartners', 'At partners'],
      ['bidDisplay', 'On pages'],
    ] as const
  ).map(([id, heading]): TableColumn<LongRow> => {
    const heldOf = (row: LongRow) => {
      const value = pending.get(`${row.key} ${id}`) ?? row[id] ?? '';
      return value === '' ? null : asMicros(Number(value));
    };
    const text = (row: LongRow) => {
      const held = heldOf(row);
      return held === null ? '' : decimalFromMicros(held, decimalsOf(currency));
    };
    const read = (typed: string) => (typed.trim() === '' ? { value: '' } : readBid(typed));
    return {
      id,
      heading,
      width: 112,
      right: true,
      hint: `What is bid ${heading.toLowerCase()} by hand; empty: the share of the bid that is set in Ship`,
      text,
      read,
      cell: (row) => {
        const held = heldOf(row);
        return (
          <span className="flex items-center justify-end gap-0.5">
            {held !== null && (
              <Tie
                rule="its share of the bid"
                onLetGo={() => void actions.letGo([{ rowKey: row.key, field: id }])}
              />
            )}
            <InlineEdit
              label={`bid ${heading.toLowerCase()} of ${row.text} ${matchWords[row.type]}`}
              right
              shown={held === null ? <span className="text-faint">its share</span> : money(held, currency)}
              text={text(row)}
              onKeep={async (typed) => {
                const found = read(typed);
                return 'words' in found ? found.words : hold(row.key, id, found.value ?? '');
              }}
            />
          </span>
        );
      },
    };
  });
