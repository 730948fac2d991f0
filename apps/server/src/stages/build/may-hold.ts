import { may } from '@sprig/contracts';
import { kindOfKey } from '@sprig/core/build';
import { REFUSED } from '../../http/mount.ts';
import type { PlanSender } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';

/** Whoever holds values of these rows: of ads alone, or somebody who may build. */
export function mayHold(caller: PlanSender, keys: readonly string[]): PlanSender {
  if (!may(caller, 'build') && !keys.every((key) => kindOfKey(key) === 'ad'))
    throw new SprigFailure('forbidden', REFUSED.build);
  return caller;
}
