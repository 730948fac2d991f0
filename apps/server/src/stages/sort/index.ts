import type { Stage } from '../stage.ts';
import { sortRoutes } from './routes.ts';
import { sortJob } from './sort-job.ts';

export { setEachByHand } from './by-hand.ts';
export { proposeWithin } from './sort-job.ts';
export { listThemes, makeThemes, makeThemesIn } from './themes.ts';

export const sortStage = {
  routes: sortRoutes,
  jobs: { sort: sortJob },
  counts: { themes: 'select count(*) from themes where plan_id = p.id' },
} satisfies Stage;
