import { chooseOutlet, type Receipt } from '@sprig/contracts';
import { FileText, Plus, X } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../data/call.ts';
import { useOpenPlan } from '../../data/plan.ts';
import { runChange } from '../../data/run-change.ts';
import { Help } from '../../frame/Help.tsx';
import { useAddress } from '../../kit/address.ts';
import { useCommands, viewRuns } from '../../kit/commands.ts';
import { count } from '../../kit/format.ts';
import { Menu } from '../../kit/Menu.tsx';
import { ViewButtons } from '../../kit/ViewButtons.tsx';
import { useOutlets } from '../../plan/use-outlets.ts';
import { AccountView } from './AccountView.tsx';
import { shipCommands, shipViews } from './commands.ts';
import { byRule, FindingsList } from './FindingsList.tsx';
import { differing, rowsIn } from './look.ts';
import { OutletColumn } from './OutletColumn.tsx';
import { OutletsView } from './OutletsView.tsx';
import { ReadBackView } from './ReadBackView.tsx';
import { ReceiptDetail } from './ReceiptDetail.tsx';
import { ReceiptsTimeline } from './ReceiptsTimeline.tsx';
import { RowsView } from './RowsView.tsx';
import { ShipYield } from './ShipYield.tsx';
import { useChecked, useReceipts, useShipView } from './use-ship.ts';

/** What stands in the way on the left, the outlets side by side with their difference, the receipts below them. */
export function ShipStage() {
  const plan = useOpenPlan();
  const [params, set] = useAddress();
  const view = shipViews.find(([id]) => id === params.get('view'))?.[0] ?? '';
  const { data: ship } = useShipView(plan.id);
  const { isBehind, isChecking, refusal, again } = useChecked(plan, ship);
  const receipts = useReceipts(plan.id);
  const { data: all = [] } = useOutlets(plan.id);
  useCommands(
    shipCommands,
    viewRuns(shipViews, (id) => set({ view: id })),
  );
  if (!ship)
    return <div className="grid flex-1 place-items-center text-faint">Looking through the plan …</div>;
  const { findings, outlets, counts } = ship;
  const open = findings.filter(({ accepted }) => accepted === null);
  const blockersOf = (outlet: string) =>
    open.filter((one) => one.severity === 'blocker' && (one.outlet === null || one.outlet === outlet)).length;
  const blockers = byRule(open.filter(({ severity }) => severity === 'blocker')).length;
  const choose = (outlet: string, chosen: boolean) =>
    runChange(plan.id, () => call(chooseOutlet, { params: { plan: plan.id, outlet }, body: { chosen } }));
  const rows = outlets.reduce((sum, { check }) => sum + rowsIn(check), 0);
  const differs = outlets.reduce((sum, { check }) => sum + differing(check), 0);
  const busy = isBehind || isChecking;
  const looked = ship.checked || plan.counts.keywords === 0 ? 'whole' : 'failed';
  return (
    <>
      <section
        aria-label="Outlets"
        className="flex h-12 shrink-0 items-center gap-2 overflow-x-auto border-hair border-b px-4"
      >
        {outlets.map(({ outlet, check }) => (
          <span
            key={outlet.key}
            className="flex h-8 shrink-0 items-center gap-1.5 whitespace-nowrap rounded-md bg-wash px-2 ring-1 ring-primary"
          >
            {outlet.name} <span className="font-semibold">{count(check && rowsIn(check))}</span>{' '}
            <span className="text-faint">rows</span>
            {outlets.length > 1 && (
              <button
                type="button"
                className="btn btn-ghost btn-square btn-xs"
                aria-label={`Ship to ${outlet.name} no more`}
                onClick={() => void choose(outlet.key, false)}
              >
                <X size={13} aria-hidden />
              </button>
            )}
          </span>
        ))}
        <Menu
          label="Ship to another outlet"
          className="btn btn-ghost btn-sm font-normal"
          items={[
            ...all
              .filter(({ chosen }) => !chosen)
              .map(({ outlet }) => ({ words: outlet.name, run: () => void choose(outlet.key, true) })),
            { words: 'Describe a new outlet …', run: () => set({ view: 'outlets', outlet: 'new' }) },
          ]}
        >
          <Plus size={15} aria-hidden /> Outlet
        </Menu>
        <Link
          to="../client"
          className="btn btn-ghost btn-sm ml-auto shrink-0 font-normal"
          title="What is built, as a client reads it: to print, or to save as PDF"
        >
          <FileText size={15} aria-hidden /> Client’s page
        </Link>
        <fieldset className="flex shrink-0 gap-1.5" aria-label="Views of Ship">
          <ViewButtons views={shipViews} current={view} onView={(id) => set({ view: id })} />
        </fieldset>
      </section>
      {view === 'rows' && (
        <RowsView plan={plan} outlets={outlets.map(({ outlet }) => outlet)} isBuilt={!isBehind} />
      )}
      {view === 'outlets' && (
        <OutletsView
          plan={plan}
          outlets={all}
          wanted={params.get('outlet') ?? ''}
          onOutlet={(outlet) => set({ outlet })}
        />
      )}
      {view === 'account' && (
        <AccountView
          plan={plan.id}
          wanted={params.get('outlet') ?? ''}
          onOutlet={(outlet) => set({ outlet })}
        />
      )}
      {view === 'back' && <ReadBackView plan={plan} outlets={all} />}
      {view === '' && (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(340px,0.85fr)_2fr]">
          <FindingsList
            plan={plan.id}
            findings={findings}
            names={new Map(outlets.map(({ outlet }) => [outlet.key, outlet.name]))}
            isEmpty={counts.groups === 0}
            isWhole={ship.checked}
            looked={busy ? 'under way' : looked}
          />
          <div className="flex min-h-0 min-w-0 flex-col overflow-auto">
            {refusal && (
              <p role="alert" className="px-4 pt-2 text-error">
                {refusal}{' '}
                <button type="button" className="btn btn-xs" onClick={again}>
                  Look again
                </button>
              </p>
            )}
            <div className="flex shrink-0 overflow-x-auto border-hair border-b">
              {outlets.map((chosen) => (
                <OutletColumn
                  key={chosen.outlet.key}
                  plan={plan.id}
                  chosen={chosen}
                  blockers={blockersOf(chosen.outlet.key)}
                  busy={busy}
                  marked={params.get('at') === chosen.outlet.key}
                  onShipped={(id) => set({ receipt: id })}
                />
              ))}
            </div>
            <Receipts
              plan={plan.id}
              differs={new Map(outlets.map(({ outlet, check }) => [outlet.key, differing(check)]))}
              receipts={receipts}
              wanted={params.get('receipt')}
              onChoose={(receipt) => set({ receipt })}
              onAccount={(outlet) => set({ view: 'account', outlet })}
            />
          </div>
        </div>
      )}
      <ShipYield
        plan={plan}
        counts={counts}
        blockers={blockers}
        rows={rows}
        differs={differs}
        outlets={outlets.length}
      />
    </>
  );
}

type ReceiptsProps = {
  plan: number;
  /** How many rows of each outlet differ from what it has. */
  differs: ReadonlyMap<string, number>;
  receipts: readonly Receipt[];
  wanted: string | null;
  onChoose: (set: string) => void;
  onAccount: (outlet: string) => void;
};

/** What was shipped, in time; one of them opened. */
function Receipts({ plan, differs, receipts, wanted, onChoose, onAccount }: ReceiptsProps) {
  const [opened, setOpened] = useState<string | null>(null);
  const chosen =
    receipts.find(({ id }) => id === wanted) ?? receipts.find(({ id }) => id === opened) ?? receipts[0];
  if (!chosen)
    return (
      <div className="px-4 py-3">
        <Help>
          What is shipped leaves a receipt here: its sheets, when and by whom, and what became of them. From
          then on only what changed has to be told.
        </Help>
      </div>
    );
  const latest = receipts.find(({ outlet, state }) => outlet === chosen.outlet && state !== 'withdrawn');
  return (
    <section aria-label="Receipts" className="flex flex-col gap-2.5 px-4 py-3">
      <h2 className="font-semibold text-[15px]">Receipts</h2>
      <ReceiptsTimeline
        receipts={receipts}
        chosen={chosen.id}
        onChoose={(id) => {
          setOpened(id);
          onChoose(id);
        }}
      />
      <ReceiptDetail
        key={chosen.id}
        plan={plan}
        receipt={chosen}
        isLatest={latest?.id === chosen.id}
        differs={differs.get(chosen.outlet) ?? 0}
        onAccount={onAccount}
      />
    </section>
  );
}
