import type { Facts } from '@sprig/contracts';
import type { Layout } from '@sprig/core/build';
import { type MatchType, matchTypes } from '@sprig/core/match';
import { minorUnit, multiplied } from '@sprig/core/money';
import { toast } from 'sonner';
import type { Document } from '../../data/document.ts';
import { Help } from '../../frame/Help.tsx';
import { Only } from '../../kit/allowed.tsx';
import { estimate, money } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { dayWords } from '../../plan/day-words.ts';
import { clicksWords, restsOn } from '../../plan/forecast-words.ts';
import type { LiveBuild } from '../../pool/building.ts';
import { AssumptionsSentence, CurvePicture } from './AssumptionsSentence.tsx';
import { LadderPicture } from './LadderPicture.tsx';
import { LayoutSentences } from './LayoutSentences.tsx';

type Props = Parameters<typeof LayoutSentences>[0] & { plan: number; facts: Document<Facts> };

/** The rules as sentences, and beside them the ladders to drag with what they come to. */
export function RulesView({ plan, facts, ...props }: Props) {
  const { layout, currency, live } = props;
  if (!layout.value) return null;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_384px] overflow-auto">
      <Only access="build" className="px-4 pt-1 pb-8">
        <LayoutSentences {...props} />
        <AssumptionsSentence plan={plan} facts={facts} />
      </Only>
      <aside aria-label="The ladder" className="flex flex-col gap-3 border-hair border-l px-4 py-3">
        <TypeLadder layout={layout} live={live} currency={currency} />
        <StageLadder layout={layout} currency={currency} />
        <Reckoning live={live} currency={currency} day={dayWords(facts.value)} />
        {facts.value && <CurvePicture assumptions={facts.value.assumptions} />}
      </aside>
    </div>
  );
}

const keepIn = (layout: Document<Layout>, at: string) => (id: string, step: number) =>
  void layout.edit(`${at}.${id}`, step).then((words) => words && toast.error(words));

function TypeLadder({
  layout,
  live,
  currency,
}: {
  layout: Document<Layout>;
  live: LiveBuild | null;
  currency: string;
}) {
  const { ladder } = layout.value as Layout;
  return (
    <section aria-label="Steps by match type">
      <h3 className="font-semibold text-[13px]">Median bid by match type</h3>
      <LadderPicture
        label="Step by match type"
        steps={matchTypes.map((type: MatchType) => ({
          id: type,
          words: type === 'modified' ? 'modified' : matchWords[type],
          step: ladder.steps[type],
          above: money(live?.medians[type] ?? null, currency),
          used: (live?.rowsByType[type] ?? 0) > 0,
        }))}
        onDraft={(id, step) => layout.draft(`ladder.steps.${id}`, step)}
        onUndraft={layout.undraft}
        onKeep={keepIn(layout, 'ladder.steps')}
      />
    </section>
  );
}

const STAGES = [
  ['early', 'early'],
  ['comparing', 'comparing'],
  ['ready', 'ready'],
  ['none', 'no stage'],
] as const;

function StageLadder({ layout, currency }: { layout: Document<Layout>; currency: string }) {
  const { ladder } = layout.value as Layout;
  return (
    <section aria-label="Steps by funnel stage">
      <h3 className="font-semibold text-[13px]">{money(ladder.defaultBase, currency)} by funnel stage</h3>
      <LadderPicture
        label="Step by funnel stage"
        steps={STAGES.map(([id, words]) => ({
          id,
          words,
          step: ladder.stages[id],
          above: money(multiplied(ladder.defaultBase, [ladder.stages[id]], minorUnit(currency)), currency),
          used: true,
        }))}
        onDraft={(id, step) => layout.draft(`ladder.stages.${id}`, step)}
        onUndraft={layout.undraft}
        onKeep={keepIn(layout, 'ladder.stages')}
      />
    </section>
  );
}

/** What the bids come to, while a step moves. */
function Reckoning({ live, currency, day }: { live: LiveBuild | null; currency: string; day: string }) {
  if (!live) return null;
  return (
    <section aria-label="Forecast" className="text-[12.5px]">
      <p role="status">
        Median bid <b>{money(live.medianBid, currency)}</b>, from {money(live.lowestBid, currency)} to{' '}
        {money(live.highestBid, currency)}.
      </p>
      <p>
        {live.day ? (
          <>
            About <b>{clicksWords(live.day.clicks)}</b> for <b>{estimate(live.day.cost, currency)}</b> {day}.{' '}
            <span className="text-faint">{restsOn(live)}</span>
          </>
        ) : (
          <span className="text-faint">
            Nothing can be forecast: no keyword has both searches and a CPC, told or estimated.
          </span>
        )}
      </p>
      <Help>Drag a step up or down, or use the arrow keys on it (Shift for 10%).</Help>
    </section>
  );
}
