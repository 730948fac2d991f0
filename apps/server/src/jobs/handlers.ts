import { rebuildJob } from '../rebuild/index.ts';
import { importJob } from '../stages/gather/index.ts';
import { mixJob } from '../stages/mix/index.ts';
import { followJob } from '../stages/plans/index.ts';
import { checkJob, handInJob, readBackJob, shipJob, takeBackJob } from '../stages/ship/index.ts';
import { sortJob } from '../stages/sort/index.ts';
import { addressesJob } from '../stages/write/index.ts';
import type { JobHandlers } from './execution.ts';

export const handlers: JobHandlers = {
  addresses: addressesJob,
  follow: followJob,
  check: checkJob,
  'hand-in': handInJob,
  import: importJob,
  mix: mixJob,
  'read-back': readBackJob,
  rebuild: rebuildJob,
  ship: shipJob,
  sort: sortJob,
  'take-back': takeBackJob,
};
