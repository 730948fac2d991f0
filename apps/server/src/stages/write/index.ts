import type { Stage } from '../stage.ts';
import { addressesJob } from './addresses.ts';
import { writeRoutes } from './routes.ts';

export { reviewAds } from './ads.ts';
export { unaccepted, WAITS_FOR_ACCEPTANCE } from './desk.ts';

export const writeStage = {
  routes: writeRoutes,
  jobs: { addresses: addressesJob },
  counts: {
    ads: { ofBuilt: `select count(*) from ads where plan_id = p.id and outlet = 'plain'` },
    misfits: { ofBuilt: `select count(*) from ads where plan_id = p.id and outlet = 'plain' and misfit` },
  },
} satisfies Stage;
