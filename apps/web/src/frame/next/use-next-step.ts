import { type Access, type PlanState, readFacts, readSort } from '@sprig/contracts';
import {
  type NextStep,
  nextStep,
  type Progress,
  type StepCode,
  stepCodes,
  type Unknown,
} from '@sprig/core/next';
import { lookAlikeClasses } from '@sprig/core/prune';
import { readSite } from '@sprig/core/write';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../data/call.ts';
import { usePreferences } from '../../data/me.ts';
import { computed } from '../../data/question.ts';
import { useMay } from '../../kit/allowed.tsx';
import { poolWorker } from '../../pool/use-pool.ts';

/** Plans of which skipped steps are remembered. */
const MOST_PLANS = 300;

const progressOf = ({ brief, counts }: PlanState, looked: Partial<Record<Unknown, number>>): Progress => ({
  ...counts,
  out: counts.cut + counts.folded + counts.blocked,
  judged: counts.negatives + counts.kept,
  lookAlikes: looked.lookAlikes ?? null,
  unplaced: looked.unplaced ?? null,
  hasSite: readSite(brief.site).status === 'address',
  hasLocation: counts.locations > 0,
  hasLanguage: counts.languages > 0,
});

/** Looks at the pool for what a step hangs on; only what comes next is looked at. */
async function look(what: Unknown, { id, brief }: PlanState): Promise<number> {
  const worker = poolWorker(id);
  const params = { plan: id };
  const { facts } = await call(readFacts, { params });
  await worker.refresh(id);
  const { language } = brief;
  if (what === 'lookAlikes') return worker.foldable({ language, facts }, lookAlikeClasses);
  const sort = await call(readSort, { params });
  const { functionWords, places } = facts;
  const { unplaced } = await worker.sort({ language, functionWords, places, ...sort });
  return unplaced.keywords;
}

/** What a step asks of who does it, where that is not to build. */
const NEEDS: Partial<Record<StepCode, Access>> = {
  write: 'write',
  mend: 'write',
  ship: 'ship',
  'hand-in': 'ship',
};

/** What is worth doing next with a plan; null: nothing, or it is not known yet, or nobody wants to be told. */
export function useNextStep(plan: PlanState): {
  step: NextStep | null;
  skip: (code: StepCode) => void;
  stop: () => void;
} {
  const { preferences, isKnown, setAloud } = usePreferences();
  const skippedHere = preferences.skippedSteps[plan.id];
  const may = useMay();
  // What one may not do is no next step of one's own.
  const skipped = new Set([
    ...(skippedHere ?? []),
    ...stepCodes.filter((code) => !may(NEEDS[code] ?? 'build')),
  ]);
  const { counts } = plan;
  const isOn = isKnown && preferences.steps;
  const isAsked = (what: Unknown, looked: Partial<Record<Unknown, number>>) => {
    const next = nextStep(progressOf(plan, looked), skipped);
    return isOn && next.kind === 'ask' && next.what === what;
  };
  const alike = useLook(plan, 'lookAlikes', isAsked('lookAlikes', {}), [counts.keywords, counts.folded]);
  const known = alike === undefined ? {} : { lookAlikes: alike };
  const unplaced = useLook(plan, 'unplaced', isAsked('unplaced', known), [
    counts.keywords,
    counts.themes,
    plan.builtRevision,
  ]);
  const looked = nextStep(
    progressOf(plan, { ...known, ...(unplaced !== undefined && { unplaced }) }),
    skipped,
  );
  // What was built is told a moment after what was changed: until then nobody is sent to do it again.
  const isSettled = plan.builtRevision === plan.revision || plan.counts.keywords === 0;
  return {
    step: isOn && isSettled && looked.kind === 'step' ? looked.step : null,
    skip: (code) => {
      const others = Object.entries(preferences.skippedSteps).filter(([id]) => Number(id) !== plan.id);
      setAloud({
        skippedSteps: Object.fromEntries([
          ...others.slice(1 - MOST_PLANS),
          [String(plan.id), [...(skippedHere ?? []), code]],
        ]),
      });
    },
    stop: () => setAloud({ steps: false }),
  };
}

/** `numbers`: those of the plan with which the answer may change. */
function useLook(
  plan: PlanState,
  what: Unknown,
  isWanted: boolean,
  numbers: readonly number[],
): number | undefined {
  const { data } = useQuery({
    ...computed(plan.id, ['next step', what, ...numbers], () => look(what, plan), ['plan', 'built']),
    enabled: isWanted,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return data;
}
