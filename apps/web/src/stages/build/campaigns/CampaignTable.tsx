import type { CampaignRow, HeldValue, PlanState } from '@sprig/contracts';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useWidths } from '../../../data/me.ts';
import { isTyped, withParams } from '../../../kit/address.ts';
import { Empty } from '../../../kit/Empty.tsx';
import { FilterField } from '../../../kit/FilterField.tsx';
import { counted, money } from '../../../kit/format.ts';
import { allOrNone, type Put } from '../../../kit/table/column.ts';
import type { RowSource } from '../../../kit/table/row-source.ts';
import { useSelection } from '../../../kit/table/selection.ts';
import { Table } from '../../../kit/table/Table.tsx';
import { RewriteMany } from '../../../plan/RewriteMany.tsx';
import { useFacts } from '../../../plan/use-facts.ts';
import { useHolds } from '../../../plan/use-holds.ts';
import { BulkBar } from '../BulkBar.tsx';
import { ManyExtras } from '../ManyExtras.tsx';
import { ManyNegatives } from '../negatives/ManyNegatives.tsx';
import { SettingsPanel } from '../SettingsPanel.tsx';
import { useSettingSets } from '../use-build.ts';
import { useManyRows } from '../use-many-rows.ts';
import { BulkBudgets } from './BulkBudgets.tsx';
import { BulkSettings } from './BulkSettings.tsx';
import { campaignColumns, changeOf } from './campaign-columns.tsx';
import { campaignSorts, foundCampaigns, type ShownCampaign, shownCampaigns } from './shown-campaigns.ts';
import { useCampaignChange, withPending } from './use-campaign-change.ts';

type Props = {
  plan: PlanState;
  campaigns: readonly CampaignRow[];
  builtRevision: number;
  /** What each may cost a day, by its key. */
  costs: ReadonlyMap<string, number>;
  onOpen: (key: string) => void;
};

type Opened = 'budgets' | 'settings' | 'names' | 'negatives' | 'extras';

/** Every campaign with what it is set to, edited in place or many at once. */
export function CampaignTable({ plan, campaigns, builtRevision, costs, onOpen }: Props) {
  const [params, setParams] = useSearchParams();
  const selection = useSelection<string>();
  const widths = useWidths('campaigns');
  const many = useManyRows(plan.id, 'campaign');
  const { data: sets = [] } = useSettingSets(plan.id);
  const { value: facts } = useFacts(plan.id);
  const { holds } = useHolds(plan.id);
  const { change, pending } = useCampaignChange(plan.id, builtRevision, plan.revision);
  const [opened, setOpened] = useState<Opened | null>(null);
  const [editing, setEditing] = useState<number | null>(null);
  const filter = params.get('filter') ?? '';
  const sort = campaignSorts.find((one) => one === params.get('sort')) ?? 'made';
  const down = params.get('down') === 'yes';
  const set = (next: Record<string, string>) =>
    setParams((old) => withParams(old, next), { replace: isTyped(next) });
  const { currency } = plan.brief;
  const rows = useMemo(
    () =>
      facts
        ? shownCampaigns(campaigns, sets, facts, costs, heldIn(holds)).map((one) => withPending(one, pending))
        : undefined,
    [campaigns, sets, facts, costs, holds, pending],
  );
  const found = useMemo(() => foundCampaigns(rows ?? [], { filter, sort, down }), [rows, filter, sort, down]);
  const source = useMemo<RowSource<ShownCampaign, string>>(() => sourceOf(found, !rows), [found, rows]);
  const { letGo } = many.actions;
  const columns = useMemo(
    () => campaignColumns({ currency, sets, change, letGo, onOpen, onSettings: setEditing }),
    [currency, sets, change, letGo, onOpen],
  );
  const filling = useMemo(
    () => ({
      put: async (puts: Put<ShownCampaign>[]) => allOrNone(await change(changeOf(puts, sets))),
    }),
    [change, sets],
  );
  const keys = selection.size > 0 ? selection.listIn(source.ids) : [];
  const chosen = new Set(keys);
  const chosenRows = found.filter(({ key }) => chosen.has(key));
  const openFor = (what: Opened) => (at: string[]) => {
    if (selection.size === 0) selection.all(at);
    setOpened(what);
  };
  const budget = (keys.length > 0 ? chosenRows : found)
    .filter(({ status }) => status === 'enabled')
    .reduce((sum, { dailyBudget }) => sum + dailyBudget, 0);
  const what = counted(keys.length, 'campaign');
  const close = () => setOpened(null);
  return (
    <>
      <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 px-4 py-0.5">
        <FilterField
          label="Filter campaigns"
          placeholder="Name, label or settings"
          value={filter}
          onChange={(next) => set({ filter: next })}
        />
        <span className="whitespace-nowrap text-faint">
          {counted(keys.length > 0 ? keys.length : found.length, 'campaign')}
          {keys.length > 0 ? ' selected' : ''}, {money(budget, currency)} a day
        </span>
        {keys.length > 0 && (
          <BulkBar
            keys={keys}
            word="campaign"
            held={many.heldIn(keys).length}
            actions={many.actions}
            onLetGo={() => many.letGo(keys)}
          >
            <button type="button" className="btn btn-sm" onClick={() => setOpened('budgets')}>
              Budgets <span className="key">b</span>
            </button>
            <button type="button" className="btn btn-sm" onClick={() => setOpened('settings')}>
              Settings <span className="key">s</span>
            </button>
            <button type="button" className="btn btn-sm" onClick={() => setOpened('names')}>
              Replace <span className="key">n</span>
            </button>
            <button type="button" className="btn btn-sm" onClick={() => setOpened('negatives')}>
              Negatives
            </button>
            <button type="button" className="btn btn-sm" onClick={() => setOpened('extras')}>
              Extras
            </button>
          </BulkBar>
        )}
      </div>
      <Table
        label="Campaigns"
        columns={columns}
        source={source}
        sort={{ id: sort, down }}
        onSort={(id, isDown) => set({ sort: id, down: isDown ? 'yes' : '' })}
        selection={selection}
        widths={widths}
        filling={filling}
        dim={({ status }) => status === 'paused'}
        actions={{
          ...many.keys,
          o: (at) => at[0] && onOpen(at[0]),
          b: openFor('budgets'),
          s: openFor('settings'),
          n: openFor('names'),
        }}
        empty={
          <Empty
            title={
              campaigns.length === 0 ? 'The campaigns are being built' : 'No campaign is left by this filter'
            }
          >
            They show here as soon as they are there.
          </Empty>
        }
      />
      {opened === 'budgets' && keys.length > 0 && (
        <BulkBudgets campaigns={chosenRows} currency={currency} onChange={change} onClose={close} />
      )}
      {opened === 'settings' && keys.length > 0 && (
        <BulkSettings plan={plan.id} campaigns={chosenRows} sets={sets} onChange={change} onClose={close} />
      )}
      {opened === 'extras' && keys.length > 0 && (
        <ManyExtras plan={plan.id} places={keys} what={what} onClose={close} />
      )}
      {opened === 'negatives' && keys.length > 0 && (
        <ManyNegatives places={keys} what={what} actions={many.actions} onClose={close} />
      )}
      {opened === 'names' && keys.length > 0 && (
        <RewriteMany
          plan={plan.id}
          scope={{ keys }}
          what={what}
          choices={['names', 'labels', 'urls']}
          onClose={close}
        />
      )}
      {editing !== null && (
        <SettingsPanel plan={plan.id} set={editing} actions={many.actions} onClose={() => setEditing(null)} />
      )}
    </>
  );
}

function heldIn(holds: readonly HeldValue[]) {
  const of = (wanted: string) =>
    new Map(holds.flatMap(({ rowKey, field, value }) => (field === wanted ? [[rowKey, String(value)]] : [])));
  return { paths: of('path'), matchings: of('matching') };
}

/** Rows that are all here. */
function sourceOf(found: readonly ShownCampaign[], loading: boolean): RowSource<ShownCampaign, string> {
  const byKey = new Map(found.map((one) => [one.key, one]));
  const fetchPage = async (keys: string[]) => keys.flatMap((key) => byKey.get(key) ?? []);
  return {
    ids: found.map(({ key }) => key),
    version: String(++versions),
    loading,
    fetchPage,
    fetchAll: fetchPage,
    keyOf: ({ key }) => key,
  };
}
let versions = 0;
