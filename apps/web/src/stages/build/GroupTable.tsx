import { type GroupRow, groupSorts, orderGroups, type PlanState, pageGroups } from '@sprig/contracts';
import type { MatchType } from '@sprig/core/match';
import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { ArrowUpRight } from 'lucide-react';
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
import { readMoney } from '../../kit/read-typed.ts';
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
import { useGroupSettings } from '../../plan/use-outlets.ts';
import { BulkBar } from './BulkBar.tsx';
import { BulkBids } from './BulkBids.tsx';
import { groupSettingColumn, groupSettings } from './group-settings.tsx';
import { ManyExtras } from './ManyExtras.tsx';
import { ManyNegatives } from './negatives/ManyNegatives.tsx';
import { readBid } from './read-cells.ts';
import type { BuildActions } from './use-build.ts';
import { useManyRows } from './use-many-rows.ts';
import { type Held, usePending } from './use-pending.ts';

type Sort = (typeof groupSorts)[number];
type Bulk = 'bids' | 'names' | 'types' | 'negatives' | 'extras';
const onlyValues = ['all', 'held', 'no-estimate', 'paused'] as const;
const onlyWords = {
  all: 'all',
  held: 'with something held',
  'no-estimate': 'without an estimate',
  paused: 'paused',
};

/** The ad groups with the bids of their rows, edited in place; what is set by hand carries a tie. */
export function GroupTable({
  plan,
  used,
  campaigns,
  labels,
  onOpen,
}: {
  plan: PlanState;
  used: readonly MatchType[];
  campaigns: readonly { key: string; name: string }[];
  labels: readonly string[];
  onOpen: (key: string) => void;
}) {
  const [params, setParams] = useSearchParams();
  const selection = useSelection<string>();
  const widths = useWidths('groups');
  const { hold } = useHolds(plan.id);
  const filter = params.get('filter') ?? '';
  const sort = groupSorts.find((one) => one === params.get('sort')) ?? 'searches';
  const down = params.get('down') !== 'no';
  const only = onlyValues.find((one) => one === params.get('only')) ?? 'all';
  const campaign = params.get('campaign') ?? '';
  const label = params.get('label') ?? '';
  const many = useManyRows(plan.id, 'ad group');
  const { actions } = many;
  const [bulk, setBulk] = useState<Bulk | null>(null);
  const typed = useSettled(filter);
  const set = (change: Record<string, string>) =>
    setParams((old) => withParams(old, change), { replace: isTyped(change) });
  const figures = useResultFigures(plan);
  const hasResults = figures.length > 0;
  const query = {
    filter: typed,
    sort,
    down: down ? ('true' as const) : ('false' as const),
    only,
    campaign,
    label,
  };
  const page = useCallback(
    async (keys: string[]) => {
      const { groups } = await call(pageGroups, { params: { plan: plan.id }, body: { keys } });
      return withResults(plan.id, 'group', groups, ({ key }) => key, hasResults);
    },
    [plan.id, hasResults],
  );
  const { source, data, seen } = useKeyedRows({
    order: question(orderGroups, { params: { plan: plan.id }, query }),
    page,
    stamp: hasResults ? String(plan.revision) : '',
  });
  const { letGo } = actions;
  const settings = useGroupSettings(plan.id);
  const { currency } = plan.brief;
  const { pending, holdNow, holdEachNow } = usePending(plan.id, hold, seen, plan.revision);
  const columns = useMemo(
    () => [
      ...[
        ...groupColumns(currency, used, holdNow, letGo, onOpen),
        ...groupSettings.filter((id) => settings[id]).map((id) => groupSettingColumn(id, holdNow)),
      ].map((column) => shownAs(column, pending)),
      ...resultColumns<GroupRow>(figures),
    ],
    [currency, used, holdNow, letGo, onOpen, settings, pending, figures],
  );
  const filling = useMemo(
    () => ({ put: (puts: Put<GroupRow>[]) => holdEachNow(puts.flatMap(heldCell)) }),
    [holdEachNow],
  );
  const chosen = selection.size > 0 ? selection.listIn(source.ids) : [];
  const openFor = (what: Bulk) => (keys: string[]) => {
    if (selection.size === 0) selection.all(keys);
    setBulk(what);
  };
  return (
    <>
      <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 px-4 py-0.5">
        <GroupFilters
          filter={filter}
          only={only}
          campaign={campaign}
          label={label}
          campaigns={campaigns}
          labels={labels}
          onAddress={set}
        />
        <span className="text-faint">{data ? counted(data.keys.length, 'ad group') : '…'}</span>
        {chosen.length === 0 && (
          <span className="ml-auto">
            <ResultsMenu plan={plan} by="group" />
          </span>
        )}
        {chosen.length > 0 && (
          <BulkBar
            keys={chosen}
            word="ad group"
            held={many.heldIn(chosen).length}
            actions={actions}
            onBids={() => setBulk('bids')}
            onLetGo={() => many.letGo(chosen)}
          >
            <button type="button" className="btn btn-sm" onClick={() => setBulk('names')}>
              Replace <span className="key">n</span>
            </button>
            <button type="button" className="btn btn-sm" onClick={() => setBulk('types')}>
              Types <span className="key">m</span>
            </button>
            <button type="button" className="btn btn-sm" onClick={() => setBulk('negatives')}>
              Negatives
            </button>
            <button type="button" className="btn btn-sm" onClick={() => setBulk('extras')}>
              Extras
            </button>
          </BulkBar>
        )}
      </div>
      <Table
        label="Ad groups"
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
          o: (keys) => keys[0] && onOpen(keys[0]),
          b: openFor('bids'),
          n: openFor('names'),
          m: openFor('types'),
        }}
        empty={
          <Empty
            title={
              plan.counts.groups === 0
                ? 'The ad groups are being built'
                : 'No ad group is left by this filter'
            }
          >
            They show here as soon as they are there.
          </Empty>
        }
      />
      {bulk === 'types' && chosen.length > 0 && (
        <MatchTypesOf
          plan={plan.id}
          scope={{ groups: chosen.slice(0, MOST_GROUPS) }}
          what={`the keywords of ${counted(Math.min(MOST_GROUPS, chosen.length), 'ad group')}`}
          onClose={() => setBulk(null)}
        />
      )}
      {bulk === 'extras' && chosen.length > 0 && (
        <ManyExtras
          plan={plan.id}
          places={chosen.slice(0, MOST_GROUPS)}
          what={counted(Math.min(MOST_GROUPS, chosen.length), 'ad group')}
          onClose={() => setBulk(null)}
        />
      )}
      {bulk === 'negatives' && chosen.length > 0 && (
        <ManyNegatives
          places={chosen.slice(0, MOST_GROUPS)}
          what={counted(Math.min(MOST_GROUPS, chosen.length), 'ad group')}
          actions={actions}
          onClose={() => setBulk(null)}
        />
      )}
      {bulk === 'names' && chosen.length > 0 && (
        <RewriteMany
          plan={plan.id}
          scope={{ keys: chosen }}
          what={counted(chosen.length, 'ad group')}
          choices={['names', 'labels', 'urls']}
          onClose={() => setBulk(null)}
        />
      )}
      {bulk === 'bids' && chosen.length > 0 && (
        <BulkBids
          plan={plan.id}
          currency={currency}
          scope={{ groups: chosen.slice(0, MOST_GROUPS) }}
          what={counted(Math.min(MOST_GROUPS, chosen.length), 'ad group')}
          onClose={() => setBulk(null)}
        />
      )}
    </>
  );
}

type FilterProps = {
  filter: string;
  only: (typeof onlyValues)[number];
  campaign: string;
  label: string;
  campaigns: readonly { key: string; name: string }[];
  labels: readonly string[];
  onAddress: (change: Record<string, string>) => void;
};

/** Which ad groups are listed. */
function GroupFilters({ filter, only, campaign, label, campaigns, labels, onAddress }: FilterProps) {
  return (
    <>
      <FilterField
        label="Filter ad groups"
        placeholder="Filter ad groups"
        value={filter}
        onChange={(typedFilter) => onAddress({ filter: typedFilter })}
      />
      <Choice
        label="Which ad groups"
        value={only}
        choices={onlyValues.map((one) => [one, onlyWords[one]])}
        onChoose={(value) => onAddress({ only: value === 'all' ? '' : value })}
      />
      {campaigns.length > 1 && (
        <Choice
          label="Campaign"
          value={campaign}
          choices={[
            ['', 'all campaigns'],
            ...campaigns.map(({ key, name }): [string, string] => [key, name]),
          ]}
          onChoose={(value) => onAddress({ campaign: value })}
        />
      )}
      {labels.length > 0 && (
        <Choice
          label="Label"
          value={label}
          choices={[['', 'any label'], ...labels.map((one): [string, string] => [one, one])]}
          onChoose={(value) => onAddress({ label: value })}
        />
      )}
    </>
  );
}

/** Bids of more groups than this are changed campaign by campaign. */
const MOST_GROUPS = 20_000;

const Choice = ({
  label,
  value,
  choices,
  onChoose,
}: {
  label: string;
  value: string;
  choices: readonly (readonly [string, string])[];
  onChoose: (value: string) => void;
}) => (
  <select
    className="plain-field chip max-w-56"
    aria-label={label}
    value={value}
    onChange={({ target }) => onChoose(target.value)}
  >
    {choices.map(([one, words]) => (
      <option key={one} value={one}>
        {words}
      </option>
    ))}
  </select>
);

type Hold = ReturnType<typeof useHolds>['hold'];
type LetGo = BuildActions['letGo'];

const plainMoney = (micros: number, currency: string) =>
  decimalFromMicros(asMicros(micros), decimalsOf(currency));

/** A column that shows what was just set by hand, before it is built. */
function shownAs(
  column: TableColumn<GroupRow>,
  pending: ReadonlyMap<string, string | number>,
): TableColumn<GroupRow> {
  if (pending.size === 0) return column;
  const now = (row: GroupRow): GroupRow => ({
    ...row,
    name: String(pending.get(`${row.key} name`) ?? row.name),
    base: asMicros(Number(pending.get(`${row.key} bid`) ?? row.base)),
    matching: (pending.get(`${row.key} matching`) ?? row.matching) as GroupRow['matching'],
    rotation: (pending.get(`${row.key} rotation`) ?? row.rotation) as GroupRow['rotation'],
    rows: row.rows.map((one) => ({
      ...one,
      bid: asMicros(Number(pending.get(`${one.key} bid`) ?? one.bid)),
    })),
  });
  return { ...column, cell: (row) => column.cell(now(row)), text: (row) => column.text(now(row)) };
}

/** What a cell that was pasted holds; bids of match types belong to the lead keyword's rows. */
function heldCell({ row, column, value }: Put<GroupRow>): Held[] {
  if (value === null) return [];
  if (column === 'name' || column === 'bid' || column === 'matching' || column === 'rotation')
    return [[row.key, column, value]];
  const of = row.rows.find(({ type }) => type === column);
  return of ? [[of.key, 'bid', value]] : [];
}

function groupColumns(
  currency: string,
  used: readonly MatchType[],
  hold: Hold,
  letGo: LetGo,
  onOpen: (key: string) => void,
): TableColumn<GroupRow>[] {
  const keepBid = (rowKey: string) => async (typed: string) => {
    const read = readMoney(typed);
    return 'words' in read ? read.words : hold(rowKey, 'bid', read.value);
  };
  return [
    {
      id: 'name',
      heading: 'Ad group',
      sortable: true,
      text: ({ name }) => name,
      read: (typed) => readHeld('name', typed),
      cell: ({ key, name, covered }) => (
        <span className="flex items-center gap-1">
          <InlineEdit
            label={`name of ${name}`}
            shown={name}
            text={name}
            onKeep={(typed) => hold(key, 'name', typed)}
          />
          {covered?.name !== undefined && (
            <Tie rule={`“${covered.name}”`} onLetGo={() => void letGo([{ rowKey: key, field: 'name' }])} />
          )}
          <button
            type="button"
            tabIndex={-1}
            className="btn btn-ghost btn-square btn-xs ml-auto"
            aria-label={`Open ${name}`}
            title="Open it as a page"
            onClick={() => onOpen(key)}
          >
            <ArrowUpRight size={13} />
          </button>
        </span>
      ),
    },
    {
      id: 'keyword',
      heading: 'Lead keyword',
      width: 220,
      text: ({ keyword }) => keyword,
      cell: ({ keyword }) => <span className="text-faint">{keyword}</span>,
    },
    {
      id: 'keywords',
      heading: 'Keywords',
      width: 92,
      right: true,
      sortable: true,
      text: ({ keywords }) => String(keywords),
      cell: ({ keywords }) => count(keywords),
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
      id: 'bid',
      heading: 'Base',
      width: 108,
      right: true,
      sortable: true,
      hint: 'The CPC estimate, or the base without one; a base set by hand moves the bids of all match types',
      text: ({ base }) => plainMoney(base, currency),
      read: readBid,
      cell: ({ key, name, base, baseFrom, covered }) => (
        <span className="flex items-center justify-end gap-0.5">
          {covered?.bid !== undefined && (
            <Tie
              rule={money(Number(covered.bid), currency)}
              onLetGo={() => void letGo([{ rowKey: key, field: 'bid' }])}
            />
          )}
          <InlineEdit
            label={`base bid of ${name}`}
            right
            shown={
              <span className={baseFrom === 'default' ? 'text-faint' : ''}>{money(base, currency)}</span>
            }
            text={plainMoney(base, currency)}
            onKeep={keepBid(key)}
          />
        </span>
      ),
    },
    ...used.map(
      (type): TableColumn<GroupRow> => ({
        id: type,
        heading:
          type === 'modified' ? 'Modified' : matchWords[type][0]?.toUpperCase() + matchWords[type].slice(1),
        width: 112,
        right: true,
        text: ({ rows }) => {
          const row = rows.find((one) => one.type === type);
          return row ? plainMoney(row.bid, currency) : '';
        },
        read: (typed, { rows }) =>
          rows.some((one) => one.type === type)
            ? readBid(typed)
            : { words: `This ad group has no ${matchWords[type]} keyword.` },
        cell: ({ rows, name }) => {
          const row = rows.find((one) => one.type === type);
          if (!row) return <span className="text-hair">–</span>;
          return (
            <span className="flex items-center justify-end gap-1">
              {row.held && (
                <Tie
                  rule={money(row.ruleBid, currency)}
                  onLetGo={() => void letGo([{ rowKey: row.key, field: 'bid' }])}
                />
              )}
              <ReachBars type={type} />
              <InlineEdit
                label={`${matchWords[type]} bid of ${name}`}
                right
                shown={money(row.bid, currency)}
                text={plainMoney(row.bid, currency)}
                onKeep={keepBid(row.key)}
              />
            </span>
          );
        },
      }),
    ),
  ];
}
