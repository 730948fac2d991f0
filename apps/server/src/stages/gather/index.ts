import { Asker } from '../../pages/index.ts';
import type { Stage } from '../stage.ts';
import { importJob } from './import.ts';
import { gatherRoutes } from './routes.ts';
import { siteJob } from './site-job.ts';
import { keepUpload } from './uploads.ts';

export { giveTypes, giveTypesKnown } from './given-types.ts';
export { decodedUpload, takeIn, takeInKeywords, textOfUpload } from './import.ts';
export { keepUpload, siteJob };

export const gatherStage = {
  routes: gatherRoutes,
  jobs: { import: importJob, site: siteJob(new Asker()) },
  counts: {
    keywords: { ofPool: 'k.keywords' },
    sources: 'select count(*) from sources where plan_id = p.id',
  },
} satisfies Stage;
