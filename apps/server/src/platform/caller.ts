import type { Access, Standing } from '@sprig/contracts';
import type { Sequelize } from 'sequelize';

/** Who asks. Every query is scoped to the workspace, every change carries the actor. */
export type Caller = {
  database: Sequelize;
  workspace: number;
  actor: number;
  /** A job, which nobody waits for with a finger on a key. */
  isJob?: boolean;
  /** What whoever asked for a job must still be allowed to do when it writes. */
  needs?: Access;
};

/** Who sends a request, with what they may do. Jobs do what somebody was let to ask for, and have no standing. */
export type Sender = Caller & Standing;

/** A caller at one plan of the workspace. */
export type PlanCaller = Caller & { plan: number };

/** Who sends a request about a plan, with what they may do there. */
export type PlanSender = Sender & { plan: number };
