import type { Stage } from '../stage.ts';
import { resultBids } from './bids.ts';
import { conversionsAt } from './conversions-at.ts';
import { takeReports } from './imports.ts';
import { forgetLooks, lookAt } from './looks.ts';
import { reportsJob } from './read-reports.ts';
import { learnRoutes } from './routes.ts';
import { termsOf } from './terms.ts';
import { verdictsOf } from './verdicts.ts';

export { conversionsAt, forgetLooks, lookAt, resultBids, takeReports, termsOf, verdictsOf };

export const learnStage = {
  routes: learnRoutes,
  jobs: { reports: reportsJob },
  counts: { reports: 'select count(*) from report_imports where plan_id = p.id' },
} satisfies Stage;
