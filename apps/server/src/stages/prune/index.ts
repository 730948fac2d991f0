import type { Stage } from '../stage.ts';
import { pruneRoutes } from './routes.ts';

export { blockQuietly, refreshBlocks } from './blocks.ts';
export { addToPlan, soundNegatives } from './negatives.ts';
export { makeStarterLists, tellOthers } from './shared-lists.ts';

export const pruneStage = {
  routes: pruneRoutes,
  counts: {
    cut: { ofPool: 'k.cut' },
    folded: { ofPool: 'k.folded' },
    blocked: { ofPool: 'k.blocked' },
    kept: 'select count(*) from word_verdicts where plan_id = p.id',
    negatives: `select (select count(*) from negatives where plan_id = p.id) + (select count(*) from attached_lists a
      join shared_negatives n on n.workspace_id = a.workspace_id and n.list_id = a.list_id where a.plan_id = p.id)`,
  },
} satisfies Stage;
