import type { PlanState } from '@sprig/contracts';
import type { Router } from 'express';
import type { JobHandlers } from '../platform/jobs/execution.ts';

/** What the trail tells of a plan. What the brief says is counted where it is read. */
export type Counts = Omit<PlanState['counts'], 'facts' | 'locations' | 'languages'>;

/** What a stage has on the server: it says so itself, and `stages/all.ts` lists it. */
export type Stage = {
  routes: () => Router;
  jobs?: Partial<JobHandlers>;
  /** SQL of one number each, of the plan `p`; `k` has its keywords by their states. */
  counts?: Partial<Record<keyof Counts, string>>;
};
