import { rebuildJob } from '../rebuild/index.ts';
import { importJob } from '../stages/gather/index.ts';
import { shipJob } from '../stages/ship/index.ts';
import type { JobHandlers } from './runner.ts';

export const handlers: JobHandlers = { import: importJob, rebuild: rebuildJob, ship: shipJob };
