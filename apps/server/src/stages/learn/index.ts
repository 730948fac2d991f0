import type { Stage } from '../stage.ts';
import { takeReports } from './imports.ts';
import { forgetLooks, lookAt } from './looks.ts';
import { reportsJob } from './read-reports.ts';
import { learnRoutes } from './routes.ts';
import { verdictsOf } from './verdicts.ts';

export { forgetLooks, lookAt, takeReports, verdictsOf };

export const learnStage = {
  routes: learnRoutes,
  jobs: { reports: reportsJob },
  counts: { reports: 'select count(*) from report_imports where plan_id = p.id' },
} satisfies Stage;
