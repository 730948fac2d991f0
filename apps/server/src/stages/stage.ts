import type { PlanState } from '@sprig/contracts';
import type { Router } from 'express';
import type { JobHandlers } from '../platform/jobs/execution.ts';

/** What the trail tells of a plan. What the brief says is counted where it is read. */
export type Counts = Omit<PlanState['counts'], 'facts' | 'locations' | 'languages'>;

/** What a stage has on the server: it says so itself, and `stages/all.ts` lists it. */
export type Stage = {
  routes: () => Router;
  jobs?: Partial<JobHandlers>;
  counts?: Partial<Record<keyof Counts, Count>>;
};

/**
 * SQL of one number, of the plan `p`. What is counted of its keywords alone (`k` has them by their states), or of what is built
 * alone, is told apart: it is counted anew only when those have changed.
 */
export type Count = string | { ofPool: string } | { ofBuilt: string };
