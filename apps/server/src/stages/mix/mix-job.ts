import { z } from 'zod';
import type { JobContext } from '../../platform/jobs/context.ts';
import type { Followed } from './follow.ts';
import { followLater } from './recipes.ts';

const mixJobInput = z.object({ recipe: z.number().int() });

/** The pool follows a recipe that makes much. Run again after a crash it does what is left to do. */
export async function mixJob(context: JobContext): Promise<Followed> {
  const { recipe } = mixJobInput.parse(context.input);
  await context.phase('following a recipe');
  const { result } = await followLater(context.caller, recipe);
  return result;
}
