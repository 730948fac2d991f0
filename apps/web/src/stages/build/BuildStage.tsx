import type { CampaignRow } from '@sprig/contracts';
import { kindOfKey } from '@sprig/core/build';
import { matchTypes } from '@sprig/core/match';

import { useCallback, useEffect, useMemo, useState } from 'react';
import { useOpenPlan } from '../../data/plan.ts';
import { useAddress } from '../../kit/address.ts';
import { useCommands, viewRuns } from '../../kit/commands.ts';
import { count } from '../../kit/format.ts';
import { Part } from '../../kit/Part.tsx';
import { ViewButtons } from '../../kit/ViewButtons.tsx';
import { dayWords } from '../../plan/day-words.ts';
import { NothingYet } from '../../plan/NothingYet.tsx';
import { useForecast } from '../../plan/use-forecast.ts';
import { useHolds } from '../../plan/use-holds.ts';
import { BuildYield } from './BuildYield.tsx';
import { BuiltPicture } from './BuiltPicture.tsx';
import { CampaignView } from './CampaignView.tsx';
import { CampaignTable } from './campaigns/CampaignTable.tsx';
import { buildCommands, buildViews } from './commands.ts';
import { FencesView } from './FencesView.tsx';
import { GroupTable } from './GroupTable.tsx';
import { GroupView } from './GroupView.tsx';
import { NegativeTable } from './negatives/NegativeTable.tsx';
import { OrphansPanel } from './OrphansPanel.tsx';
import { RowTable } from './RowTable.tsx';
import { RulesView } from './RulesView.tsx';
import { summaryWords } from './summary-words.ts';
import { TryPanel } from './TryPanel.tsx';
import { measures, useBuildActions, useBuildView, useGroupPage } from './use-build.ts';
import { useLiveBuild } from './use-live-build.ts';

const noCampaigns: CampaignRow[] = [];

/** Which campaigns and ad groups, match types, bids and negatives: the rules, what they make, and what is set by hand. */
export function BuildStage() {
  const plan = useOpenPlan();
  const { layout, facts, live, themes, sources } = useLiveBuild(plan);
  const day = dayWords(facts.value);
  const { holds, hold } = useHolds(plan.id);
  const actions = useBuildActions(plan.id);
  const [params, go] = useAddress();
  const [judging, setJudging] = useState(false);
  const view = buildViews.find(([id]) => id === params.get('view'))?.[0] ?? '';
  const by = measures.find((one) => one === params.get('by')) ?? 'searches';
  const { data: built } = useBuildView(plan.id, by);
  const campaigns = built?.campaigns ?? noCampaigns;
  const zoom = params.get('zoom');
  const at = params.get('at') ?? campaigns[0]?.largest[0]?.key ?? campaigns[0]?.key ?? null;
  const campaign = campaigns.find(({ key }) => key === at) ?? null;
  const { data: page, error: lost } = useGroupPage(
    plan.id,
    at !== null && kindOfKey(at) === 'group' ? at : null,
  );
  const { currency } = plan.brief;
  const isPicture = view === '';
  const { data: forecast } = useForecast(plan.id, built && campaigns.length > 0 ? { all: true } : null);
  const costs = useMemo(() => new Map(forecast?.parts.map(({ key, cost }) => [key, cost])), [forecast]);
  const usedNames = matchTypes.filter((type) => (live?.rowsByType[type] ?? 0) > 0).join();
  const used = useMemo(() => matchTypes.filter((type) => usedNames.split(',').includes(type)), [usedNames]);
  const orphans = holds.filter(({ orphan }) => orphan);
  const held = holds.length - orphans.length;
  const tried = params.get('try');
  const open = useCallback((key: string) => go({ view: '', at: key, try: '' }), [go]);
  const onTry = useCallback((search: string) => go({ try: search || ' ' }), [go]);
  useCommands(buildCommands, { ...viewRuns(buildViews, (id) => go({ view: id })), try: () => onTry('') });
  // What was open is gone: its campaign or the largest group takes its place.
  const isGone =
    lost !== null && params.get('at') !== null && built !== undefined && plan.builtRevision === plan.revision;
  useEffect(() => {
    if (isGone) go({ at: '' });
  }, [isGone, go]);
  if (plan.counts.keywords === 0)
    return <NothingYet todo="build">Ad groups are made of the keywords in the pool.</NothingYet>;
  const behind = plan.builtRevision < plan.revision;
  const did = built?.summary ? summaryWords(built.summary) : '';
  return (
    <>
      <section
        aria-label="Build"
        className="flex h-12 shrink-0 items-center gap-1.5 border-hair border-b px-4"
      >
        <ViewButtons
          views={buildViews}
          current={view}
          figures={{
            campaigns: count(campaigns.length),
            groups: count(plan.counts.groups),
            rows: count(plan.counts.rows),
            ...(built?.fences ? { fences: count(built.fences.exact + built.fences.phrase) } : {}),
          }}
          onView={(id) => go({ view: id })}
        />
        <button
          type="button"
          className="ml-2 flex h-8 shrink-0 items-center gap-1.5 whitespace-nowrap rounded-md border border-hair px-2.5 hover:bg-base-200"
          onClick={() => onTry('')}
        >
          Try a search <span className="key">t</span>
        </button>
        {orphans.length > 0 && <SetAside many={orphans.length} onJudge={() => setJudging(true)} />}
        <span className="ml-auto truncate pl-3 text-[12.5px] text-faint" role="status">
          {behind ? 'Building …' : did && `Last build: ${did}`}
        </span>
      </section>
      {view === 'rules' && (
        <RulesView
          layout={layout}
          plan={plan.id}
          facts={facts}
          currency={currency}
          live={live}
          themes={themes}
          sources={sources}
          planName={plan.brief.name}
        />
      )}
      {view === 'campaigns' && (
        <CampaignTable
          plan={plan}
          campaigns={campaigns}
          builtRevision={built?.builtRevision ?? 0}
          costs={costs}
          onOpen={open}
        />
      )}
      {view === 'groups' && (
        <GroupTable
          plan={plan}
          used={used}
          campaigns={campaigns}
          labels={built?.labels ?? []}
          onOpen={open}
        />
      )}
      {view === 'rows' && <RowTable plan={plan} labels={built?.labels ?? []} />}
      {view === 'negatives' && <NegativeTable plan={plan} campaigns={campaigns} onOpen={open} />}
      {view === 'fences' && (
        <FencesView
          plan={plan}
          layout={layout}
          figures={built?.fences ?? null}
          actions={actions}
          onOpen={open}
          onTry={onTry}
        />
      )}
      {isPicture && (
        <div className="flex min-h-0 flex-1 flex-col">
          <Part name="The picture of what is built">
            <BuiltPicture
              plan={plan}
              campaigns={campaigns}
              by={by}
              costs={costs}
              day={day}
              at={at}
              zoom={zoom}
              page={campaign ? null : (page ?? null)}
              go={go}
            />
          </Part>
          {campaign && built && (
            <CampaignView
              plan={plan}
              campaign={campaign}
              campaignKeys={campaigns.map(({ key }) => key)}
              hold={hold}
              actions={actions}
              onOpen={open}
            />
          )}
          {!campaign && page && (
            <GroupView plan={plan} page={page} hold={hold} actions={actions} onTry={onTry} onOpen={open} />
          )}
          {!campaign && !page && (
            <div className="grid flex-1 place-items-center text-faint">
              {behind ? 'The ad groups are being built …' : 'Opening …'}
            </div>
          )}
        </div>
      )}
      <BuildYield plan={plan} live={live} forecast={forecast} held={held} day={day} behind={behind} />
      {judging && <OrphansPanel plan={plan} onClose={() => setJudging(false)} />}
      {tried !== null && (
        <TryPanel plan={plan} search={tried.trim()} onClose={() => go({ try: '' })} onOpen={open} />
      )}
    </>
  );
}

/** Values held by hand whose row is no longer made. */
const SetAside = ({ many, onJudge }: { many: number; onJudge: () => void }) => (
  <button
    type="button"
    className="flex h-8 items-center gap-1.5 rounded-md px-2 text-warning hover:bg-base-200"
    onClick={onJudge}
  >
    <span className="font-semibold">{count(many)}</span> set aside, to judge
  </button>
);
