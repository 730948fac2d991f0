import type { GroupPage, PlanState } from '@sprig/contracts';
import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { adLines } from '../../kit/ad-lines.ts';
import { ChoiceChip, PercentChip, TextChip } from '../../kit/chips.tsx';
import { count, counted, money } from '../../kit/format.ts';
import { readMoney } from '../../kit/read-typed.ts';
import { Tie } from '../../kit/Tie.tsx';
import { ResultLine } from '../../plan/results/ResultLine.tsx';
import { ResultsMenu } from '../../plan/results/ResultsMenu.tsx';
import { useResults } from '../../plan/results/use-results.ts';
import { useForecast } from '../../plan/use-forecast.ts';
import type { useHolds } from '../../plan/use-holds.ts';
import { useGroupSettings } from '../../plan/use-outlets.ts';
import { BuiltHeader } from './BuiltHeader.tsx';
import { CopyLine } from './CopyLine.tsx';
import { CostCurve } from './CostCurve.tsx';
import { GroupKeywords } from './GroupKeywords.tsx';
import { MATCHINGS, ROTATIONS } from './group-settings.tsx';
import { aboveWords, NegativesPart } from './NegativesPart.tsx';
import type { BuildActions } from './use-build.ts';
import { usePending } from './use-pending.ts';

type Props = {
  plan: PlanState;
  page: GroupPage;
  hold: ReturnType<typeof useHolds>['hold'];
  actions: BuildActions;
  onTry: (search: string) => void;
  onOpen: (key: string) => void;
};

/** One ad group as a page: its keywords and bids, its negatives, its fences and its ad. */
export function GroupView({ plan, page: built, hold: keep, actions, onTry, onOpen }: Props) {
  const { pending, holdNow: hold } = usePending(plan.id, keep, built.builtRevision, plan.revision);
  const page = useMemo(() => withPending(built, pending), [built, pending]);
  const { group } = page;
  const { currency } = plan.brief;
  const scope = { groups: [group.key] };
  const { data: forecast, refetch } = useForecast(plan.id, scope);
  const { figures, of } = useResults(
    plan,
    'group',
    useMemo(() => [group.key], [group.key]),
  );
  const settings = useGroupSettings(plan.id);
  const letGo = (field: string) => void actions.letGo([{ rowKey: group.key, field }]);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_396px] border-hair border-t">
      <div className="flex min-h-0 flex-col">
        <BuiltHeader plan={plan.id} what="ad group" row={group} hold={hold} actions={actions} onLetGo={letGo}>
          {counted(group.keywords, 'keyword')} · {count(group.searches)} searches
        </BuiltHeader>
        <CopyLine plan={plan.id} page={built} />
        {plan.counts.reports > 0 && (
          <p className="flex shrink-0 items-center justify-between gap-3 border-hair border-b px-4 text-[13px]">
            <ResultLine figures={figures} results={of.get(group.key)} />
            <span className="ml-auto">
              <ResultsMenu plan={plan} by="group" />
            </span>
          </p>
        )}
        <p className="shrink-0 border-hair border-b px-4 pb-1.5 text-[13px] leading-7">
          Bids begin at{' '}
          <TextChip
            label="Base of the ad group"
            value={decimalFromMicros(asMicros(group.base), decimalsOf(currency))}
            shown={money(group.base, currency)}
            read={readMoney}
            onKeep={(value) => hold(group.key, 'bid', value as number)}
            width={7}
          />
          {group.covered?.bid !== undefined && (
            <Tie rule={money(Number(group.covered.bid), currency)} onLetGo={() => letGo('bid')} />
          )}{' '}
          <span className="text-faint">{FROM[group.baseFrom]}</span>, at{' '}
          <PercentChip
            label="Bid step of the ad group"
            value={group.step}
            onDraft={() => {}}
            onUndraft={() => {}}
            onKeep={(value) => hold(group.key, 'step', value as number)}
          />
          {group.covered?.step !== undefined && <Tie rule="100%" onLetGo={() => letGo('step')} />} of the
          ladder.
          {settings.matching && (
            <>
              {' '}
              Its keywords match{' '}
              <ChoiceChip
                label="Matching of the ad group"
                value={group.matching}
                choices={MATCHINGS}
                onChoose={(value) => void hold(group.key, 'matching', value)}
              />
              .
            </>
          )}
          {settings.rotation && (
            <>
              {' '}
              Its ads take turns{' '}
              <ChoiceChip
                label="Rotation of the ad group"
                value={group.rotation}
                choices={ROTATIONS}
                onChoose={(value) => void hold(group.key, 'rotation', value)}
              />
              .
            </>
          )}
        </p>
        <GroupKeywords
          plan={plan}
          page={page}
          currency={currency}
          hold={hold}
          actions={actions}
          onTry={onTry}
        />
      </div>
      <aside
        aria-label="Around the ad group"
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
        <NegativesPart
          place={group.key}
          negatives={page.negatives}
          above={aboveWords(page.campaignNegatives.length, page.above)}
          actions={actions}
        />
        <Fences page={page} onOpen={onOpen} />
        <AdAsRead plan={plan} page={page} />
      </aside>
    </div>
  );
}

/** The page with what was just set by hand, before it is built. */
function withPending(page: GroupPage, pending: ReadonlyMap<string, string | number>): GroupPage {
  if (pending.size === 0) return page;
  const { group } = page;
  const of = (key: string, field: string) => pending.get(`${key} ${field}`);
  return {
    ...page,
    group: {
      ...group,
      name: String(of(group.key, 'name') ?? group.name),
      base: asMicros(Number(of(group.key, 'bid') ?? group.base)),
      step: Number(of(group.key, 'step') ?? group.step),
      matching: (of(group.key, 'matching') ?? group.matching) as typeof group.matching,
      rotation: (of(group.key, 'rotation') ?? group.rotation) as typeof group.rotation,
    },
    rows: page.rows.map((row) => {
      const bid = of(row.key, 'bid');
      return bid === undefined ? row : { ...row, bid: asMicros(Number(bid)), held: true };
    }),
  };
}

const FROM = {
  held: 'set by hand',
  estimate: 'its CPC',
  theme: 'the median of its theme',
  taken: 'an estimate that was taken',
  default: 'the plan’s, since no CPC is told',
};

const SHOWN = 12;

function Fences({ page, onOpen }: { page: GroupPage; onOpen: (key: string) => void }) {
  const { fences, fenceCount, keeps } = page;
  if (fenceCount === 0 && keeps === 0) return null;
  return (
    <section aria-label="Fences">
      <h3 className="font-semibold text-[13px]">
        {counted(fenceCount, 'fence')}{' '}
        {keeps > 0 && (
          <span className="font-normal text-faint">
            and {counted(keeps, 'keyword')} of its own kept from others
          </span>
        )}
      </h3>
      <ul className="text-[12.5px]">
        {fences.slice(0, SHOWN).map(({ text, phrase, keeper, keeperName }) => (
          <li key={`${text} ${phrase}`} className="flex justify-between gap-2">
            <span className="truncate">{phrase ? `-"${text}"` : `-[${text}]`}</span>
            <button
              type="button"
              className="max-w-44 truncate text-faint hover:underline"
              title={`It stays in ${keeperName}, which has it as a keyword`}
              onClick={() => onOpen(keeper)}
            >
              stays in {keeperName}
            </button>
          </li>
        ))}
      </ul>
      {fenceCount > SHOWN && <p className="text-[12px] text-faint">and {count(fenceCount - SHOWN)} more</p>}
    </section>
  );
}

function AdAsRead({ plan, page }: { plan: PlanState; page: GroupPage }) {
  const { ads } = page;
  return (
    <section aria-label="Its ads" className="pb-2">
      <h3 className="font-semibold text-[13px]">
        {ads.length === 1 ? 'Its ad' : `Its ${count(ads.length)} ads`}{' '}
        <Link
          to={`/plans/${plan.id}/write?group=${page.group.key}`}
          className="font-normal text-primary hover:underline"
        >
          write
        </Link>
      </h3>
      {ads.slice(0, 4).map((ad) => {
        const { head, text } = adLines(ad.texts);
        return (
          <div
            key={ad.key}
            className={`mt-1 rounded-md border px-2.5 py-1.5 text-[13px] ${ad.misfit ? 'border-error' : 'border-hair'}`}
          >
            <p className="font-semibold">{head}</p>
            <p className="truncate text-[12px] text-faint">{ad.finalUrl}</p>
            <p className="text-[12.5px]">{text}</p>
            <p className="text-[12px] text-faint">
              {ad.name}
              {ad.labels.length > 0 && ` · ${ad.labels.join(', ')}`}
              {ad.status === 'paused' && ' · paused'}
            </p>
          </div>
        );
      })}
      {ads.length === 0 && <p className="text-[12.5px] text-faint">It has none.</p>}
    </section>
  );
}
