import { Asker } from '../pages/index.ts';
import { rebuildJob } from '../plan/rebuild/index.ts';
import type { JobHandlers } from '../platform/jobs/execution.ts';
import { briefStage } from './brief/index.ts';
import { buildStage } from './build/index.ts';
import { gatherStage, siteJob } from './gather/index.ts';
import { learnStage } from './learn/index.ts';
import { mixStage } from './mix/index.ts';
import { followJob } from './plans/index.ts';
import { pruneStage } from './prune/index.ts';
import { shipStage } from './ship/index.ts';
import { sortStage } from './sort/index.ts';
import type { Count, Counts, Stage } from './stage.ts';
import { writeStage } from './write/index.ts';

/** The stages, in the order of the work. */
export const stages: readonly Stage[] = [
  briefStage,
  gatherStage,
  mixStage,
  pruneStage,
  sortStage,
  buildStage,
  writeStage,
  shipStage,
  learnStage,
];

/** What all stages count; a count that none has does not compile. */
export const counts: Record<keyof Counts, Count> = {
  ...gatherStage.counts,
  ...mixStage.counts,
  ...pruneStage.counts,
  ...sortStage.counts,
  ...buildStage.counts,
  ...writeStage.counts,
  ...shipStage.counts,
  ...learnStage.counts,
};

/** What does each kind of job; a kind that no stage does does not compile. */
export const handlers: JobHandlers = {
  rebuild: rebuildJob,
  follow: followJob,
  ...gatherStage.jobs,
  ...mixStage.jobs,
  ...sortStage.jobs,
  ...writeStage.jobs,
  ...shipStage.jobs,
  ...learnStage.jobs,
};

/** What does each kind of job, where some hosts may be asked though they lie in a private network: a test's own. */
export const handlersWith = (allowed: readonly string[] = []): JobHandlers => ({
  ...handlers,
  site: siteJob(new Asker(new Set(allowed))),
});
