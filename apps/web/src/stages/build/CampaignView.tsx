import * as api from '@sprig/contracts';
import { decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { question } from '../../data/question.ts';
import { ChoiceChip, TextChip } from '../../kit/chips.tsx';
import { count, counted, money } from '../../kit/format.ts';
import { readMoney } from '../../kit/read-typed.ts';
import { Tie } from '../../kit/Tie.tsx';
import { useForecast } from '../../plan/use-forecast.ts';
import type { useHolds } from '../../plan/use-holds.ts';
import { BuiltHeader } from './BuiltHeader.tsx';
import { CostCurve } from './CostCurve.tsx';
import { NegativesPart } from './NegativesPart.tsx';
import { SettingsPanel } from './SettingsPanel.tsx';
import { type BuildActions, useSettingSets, useSharedSettings } from './use-build.ts';

type Props = {
  plan: api.PlanState;
  campaign: api.CampaignRow;
  campaignKeys: readonly string[];
  hold: ReturnType<typeof useHolds>['hold'];
  actions: BuildActions;
  onOpen: (key: string) => void;
};

/** One campaign: its budget and settings, its negatives and lists, its largest ad groups, and what it may cost. */
export function CampaignView({ plan, campaign, campaignKeys, hold, actions, onOpen }: Props) {
  const { currency } = plan.brief;
  const { data: sets = [] } = useSettingSets(plan.id);
  const [editing, setEditing] = useState<number | null>(null);
  const scope = { campaign: campaign.key };
  const { data: forecast, refetch } = useForecast(plan.id, scope);
  const { data: lists = [] } = useQuery({
    ...question(api.listAttached, { params: { plan: plan.id } }),
    select: ({ lists: attached }) => attached,
  });
  const { data: negatives = [] } = useQuery({
    ...question(api.listPlaced, { params: { plan: plan.id }, query: { place: campaign.key } }),
    select: ({ negatives: placed }) => placed,
  });
  const letGo = (field: string) => void actions.letGo([{ rowKey: campaign.key, field }]);
  const { data: shared = [] } = useSharedSettings(plan.id);
  const set = sets.find(({ id }) => id === campaign.settings);
  const chooseSet = async (chosen: string) => {
    if (chosen === 'brief') letGo('settings');
    else if (chosen.startsWith('shared'))
      await actions.takeShared(Number(chosen.slice('shared'.length)), [campaign.key]);
    else if (chosen === 'new')
      await actions.makeSet(freeName(sets, campaign.name), set?.id ?? null, [campaign.key]);
    else
      await actions.many([campaign.key], 'settings', Number(chosen), `${campaign.name} has other settings.`);
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_396px] border-hair border-t">
      <div className="min-h-0 overflow-auto text-[14px] leading-8">
        <BuiltHeader
          plan={plan.id}
          what="campaign"
          row={campaign}
          hold={hold}
          actions={actions}
          onLetGo={letGo}
        >
          {counted(campaign.groups, 'ad group')} · {counted(campaign.keywords, 'keyword')} ·{' '}
          {count(campaign.searches)} searches
        </BuiltHeader>
        <div className="px-4 pb-1.5">
          <p>
            It may spend{' '}
            <TextChip
              label="Daily budget of the campaign"
              value={decimalFromMicros(campaign.dailyBudget, decimalsOf(currency))}
              shown={money(campaign.dailyBudget, currency)}
              read={readMoney}
              onKeep={(value) => hold(campaign.key, 'budget', value as number)}
              width={7}
            />{' '}
            a day
            {campaign.covered?.budget !== undefined && (
              <Tie rule={money(Number(campaign.covered.budget), currency)} onLetGo={() => letGo('budget')} />
            )}
            , and has{' '}
            <ChoiceChip
              label="Settings of the campaign"
              value={set ? String(set.id) : 'brief'}
              choices={[
                { value: 'brief', words: 'the brief’s settings' },
                ...sets.map(({ id, name }) => ({ value: String(id), words: `the settings “${name}”` })),
                ...shared
                  .filter(({ here }) => here === null)
                  .map(({ id, name }) => ({ value: `shared${id}`, words: `the workspace’s “${name}”` })),
                { value: 'new', words: 'settings of its own …' },
              ]}
              onChoose={(chosen) => void chooseSet(chosen)}
            />
            {set && (
              <button type="button" className="btn btn-ghost btn-xs ml-1" onClick={() => setEditing(set.id)}>
                Change “{set.name}”
              </button>
            )}
            .
          </p>
          {lists.length > 0 && (
            <p>
              Of the attached lists it takes{' '}
              {lists.map(({ id, name, campaigns, negatives: size }) => {
                const on = campaigns === null || campaigns.includes(campaign.key);
                return (
                  <button
                    key={id}
                    type="button"
                    aria-pressed={on}
                    className={`chip mr-1 ${on ? '' : 'chip-off'}`}
                    title={
                      campaigns === null
                        ? 'For all campaigns; it blocks the pool too. Click to take this campaign out.'
                        : 'For some campaigns only; it takes nothing out of the pool.'
                    }
                    onClick={() =>
                      void actions.attach(id, toggled(campaigns, campaign.key, campaignKeys, on))
                    }
                  >
                    {name} <span className="text-faint">{count(size)}</span>
                  </button>
                );
              })}
            </p>
          )}
          <h3 className="mt-1 font-semibold text-[13px]">Its ad groups</h3>
          <ul className="columns-2 gap-6 text-[13px] leading-6">
            {campaign.largest.map(({ key, name, searches }) => (
              <li key={key} className="flex break-inside-avoid justify-between gap-3">
                <button type="button" className="truncate hover:underline" onClick={() => onOpen(key)}>
                  {name}
                </button>
                <span className="text-faint">{count(searches)}</span>
              </li>
            ))}
          </ul>
          {campaign.groups > campaign.largest.length && (
            <p className="text-[12.5px] text-faint">
              and {count(campaign.groups - campaign.largest.length)} more in the table of ad groups
            </p>
          )}
        </div>
      </div>
      <aside
        aria-label="Around the campaign"
        className="flex min-h-0 flex-col gap-3 overflow-auto border-hair border-l px-4 py-2"
      >
        {forecast && (
          <CostCurve
            plan={plan.id}
            currency={currency}
            scope={scope}
            forecast={forecast}
            onChanged={() => void refetch()}
          />
        )}
        <NegativesPart place={campaign.key} negatives={negatives} above="of the campaign" actions={actions} />
      </aside>
      {editing !== null && (
        <SettingsPanel plan={plan.id} set={editing} actions={actions} onClose={() => setEditing(null)} />
      )}
    </div>
  );
}

function freeName(sets: readonly api.SettingSet[], wanted: string): string {
  const taken = new Set(sets.map(({ name }) => name.toLowerCase()));
  const name = wanted.slice(0, 110);
  if (!taken.has(name.toLowerCase())) return name;
  for (let number = 2; ; number++)
    if (!taken.has(`${name} ${number}`.toLowerCase())) return `${name} ${number}`;
}

/** The campaigns of a list with this one taken out or put in; all of them again is no choice any more. */
function toggled(
  campaigns: readonly string[] | null,
  key: string,
  all: readonly string[],
  on: boolean,
): string[] | null {
  const now = campaigns ?? all;
  const next = on ? now.filter((one) => one !== key) : [...now, key];
  return all.every((one) => next.includes(one)) ? null : next;
}
