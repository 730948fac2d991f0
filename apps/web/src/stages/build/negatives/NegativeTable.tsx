import {
  changeAllNegatives,
  type NegativesChange,
  negativeSorts,
  orderAllNegatives,
  type PlanState,
  pageAllNegatives,
} from '@sprig/contracts';
import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { call } from '../../../data/call.ts';
import { useWidths } from '../../../data/me.ts';
import { question } from '../../../data/question.ts';
import { useKeyedRows } from '../../../data/use-keyed-rows.ts';
import { useWrite } from '../../../data/use-write.ts';
import { isTyped, withParams } from '../../../kit/address.ts';
import { Empty } from '../../../kit/Empty.tsx';
import { FilterField } from '../../../kit/FilterField.tsx';
import { counted } from '../../../kit/format.ts';
import { useSelection } from '../../../kit/table/selection.ts';
import { Table } from '../../../kit/table/Table.tsx';
import { useSettled } from '../../../kit/use-settled.ts';
import { NegativeBar } from './NegativeBar.tsx';
import { negativeColumns } from './negative-columns.tsx';
import { changedWords } from './negative-words.ts';

const levels = ['all', 'plan', 'list', 'campaign', 'group', 'fence', 'out'] as const;
const levelChoices = {
  all: 'of every level',
  plan: 'of all campaigns',
  list: 'of shared lists',
  campaign: 'of campaigns',
  group: 'of ad groups',
  fence: 'fences',
  out: 'fences taken away',
};

type Props = {
  plan: PlanState;
  campaigns: readonly { key: string; name: string }[];
  onOpen: (key: string) => void;
};

/** All negatives of the plan, whatever their level, with its fences: searched, ordered, and changed many at once. */
export function NegativeTable({ plan, campaigns, onOpen }: Props) {
  const [params, setParams] = useSearchParams();
  const selection = useSelection<string>();
  const widths = useWidths('negatives');
  const [reason, setReason] = useState<string | null>(null);
  const filter = params.get('filter') ?? '';
  const level = levels.find((one) => one === params.get('level')) ?? 'all';
  const sort = negativeSorts.find((one) => one === params.get('sort')) ?? 'level';
  const down = params.get('down') === 'yes';
  const typed = useSettled(filter);
  const set = (change: Record<string, string>) =>
    setParams((old) => withParams(old, change), { replace: isTyped(change) });
  const query = { filter: typed, level, sort, down: down ? ('true' as const) : ('false' as const) };
  const page = useCallback(
    async (keys: string[]) =>
      (await call(pageAllNegatives, { params: { plan: plan.id }, body: { keys } })).negatives,
    [plan.id],
  );
  const { source, data } = useKeyedRows({
    order: question(orderAllNegatives, { params: { plan: plan.id }, query }),
    page,
    stamp: String(plan.revision),
  });
  const { write } = useWrite(changeAllNegatives);
  const [said, setSaid] = useState('');
  const act = useCallback(
    async (keys: readonly string[], change: NegativesChange) => {
      if (keys.length === 0) return;
      const done = await write({ params: { plan: plan.id }, body: { keys: [...keys], change } });
      if (!done) return;
      setSaid(changedWords(change.kind, done));
      setReason(null);
      selection.clear();
    },
    [write, plan.id, selection],
  );
  const columns = useMemo(() => negativeColumns(act, onOpen), [act, onOpen]);
  const chosen = selection.size > 0 ? selection.listIn(source.ids) : [];
  const takeAway = (keys: readonly string[]) => {
    if (keys.some((key) => key.startsWith('f'))) {
      if (selection.size === 0) selection.all(keys);
      setReason('');
    } else void act(keys, { kind: 'remove', reason: '' });
  };
  return (
    <>
      <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-2 gap-y-1 px-4 py-0.5">
        <FilterField
          label="Filter negatives"
          placeholder="Words, or where they stand"
          value={filter}
          onChange={(next) => set({ filter: next })}
        />
        <select
          className="plain-field chip"
          aria-label="Which negatives"
          value={level}
          onChange={({ target }) => set({ level: target.value === 'all' ? '' : target.value })}
        >
          {levels.map((one) => (
            <option key={one} value={one}>
              {levelChoices[one]}
            </option>
          ))}
        </select>
        <span className="whitespace-nowrap text-faint" role="status">
          {data ? counted(data.keys.length, 'negative') : '…'}
          {said && ` · ${said}`}
        </span>
        {chosen.length > 0 && (
          <NegativeBar
            keys={chosen}
            campaigns={campaigns}
            reason={reason}
            onReason={setReason}
            onChange={(change) => void act(chosen, change)}
            onTakeAway={() => takeAway(chosen)}
          />
        )}
      </div>
      <Table
        label="Negatives"
        columns={columns}
        source={source}
        sort={{ id: sort, down }}
        onSort={(id, isDown) => set({ sort: id, down: isDown ? 'yes' : '' })}
        selection={selection}
        widths={widths}
        dim={({ level: of }) => of === 'out'}
        actions={{ d: takeAway, u: (keys) => void act(keys, { kind: 'plan' }) }}
        empty={
          <Empty
            title={
              filter === '' && level === 'all'
                ? 'There are no negatives yet'
                : 'No negative is left by this filter'
            }
          >
            Words are blocked in Prune; negatives of one campaign or ad group are added on its page, or to
            many from their tables.
          </Empty>
        }
      />
    </>
  );
}
