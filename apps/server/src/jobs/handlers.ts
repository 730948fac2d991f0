import { rebuildJob } from '../rebuild/index.ts';
import { importJob } from '../stages/gather/index.ts';
import { mixJob } from '../stages/mix/index.ts';
import { shipJob } from '../stages/ship/index.ts';
import { sortJob } from '../stages/sort/index.ts';
import type { JobHandlers } from './runner.ts';

export const handlers: JobHandlers = {
  import: importJob,
  mix: mixJob,
  rebuild: rebuildJob,
  ship: shipJob,
  sort: sortJob,
};
