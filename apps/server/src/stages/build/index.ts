import type { Stage } from '../stage.ts';
import { buildRoutes } from './routes.ts';

export { aimBids, bidsTo, changeBids } from './bids.ts';
export { costBeyond, dayOf, type Entered } from './forecasts.ts';
export { holdAll, holdTexts } from './holds.ts';
export { placeIn } from './negatives.ts';
export { type BiddingRow, scopedRows } from './scope-rows.ts';
export { keepSet } from './settings.ts';
export { sharedPlanOf } from './shared-plan.ts';

export const buildStage = {
  routes: buildRoutes,
  counts: {
    groups: { ofBuilt: 'select count(*) from ad_groups where plan_id = p.id' },
    rows: { ofBuilt: 'select count(*) from keyword_rows where plan_id = p.id' },
    unbudgeted: `select count(*) from campaigns where plan_id = p.id and daily_budget <= 0 and status = 'enabled'`,
  },
} satisfies Stage;
