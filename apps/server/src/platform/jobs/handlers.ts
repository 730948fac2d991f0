import { Asker } from '../../pages/index.ts';
import { rebuildJob } from '../../plan/rebuild/index.ts';
import { importJob, siteJob } from '../../stages/gather/index.ts';
import { mixJob } from '../../stages/mix/index.ts';
import { followJob } from '../../stages/plans/index.ts';
import { checkJob, handInJob, readBackJob, shipJob, takeBackJob } from '../../stages/ship/index.ts';
import { sortJob } from '../../stages/sort/index.ts';
import { addressesJob } from '../../stages/write/index.ts';
import type { JobHandlers } from './execution.ts';

/** What does each kind of job. `allowed` are hosts that may be asked though they lie in a private network: a test's own. */
export const handlersWith = (allowed: readonly string[] = []): JobHandlers => ({
  addresses: addressesJob,
  follow: followJob,
  check: checkJob,
  'hand-in': handInJob,
  import: importJob,
  mix: mixJob,
  'read-back': readBackJob,
  rebuild: rebuildJob,
  ship: shipJob,
  site: siteJob(new Asker(new Set(allowed))),
  sort: sortJob,
  'take-back': takeBackJob,
});

export const handlers = handlersWith();
