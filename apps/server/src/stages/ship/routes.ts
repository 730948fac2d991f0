import * as api from '@sprig/contracts';
import { type Request, Router } from 'express';
import { select } from '../../database/connect.ts';
import { SprigFailure } from '../../failure.ts';
import { callerOf, mount, parse } from '../../http/mount.ts';
import { inChangeless } from '../../http/scope.ts';
import { enqueue } from '../../jobs/enqueue.ts';
import { sendFile, sendZip } from './downloads.ts';
import { viewShip } from './view.ts';

const inPlan = (request: Request, plan: number) => ({ ...callerOf(request), plan });

export const shipRoutes = (): Router => {
  const router = Router();
  mount(router, api.viewShip, (caller, { params }) => viewShip({ ...caller, ...params }));
  mount(router, api.startShip, async (caller, { params, body }) => ({
    job: await inChangeless({ ...caller, ...params }, async (scoped, transaction) => {
      const [known] = await select<{ blockers: number }>(
        scoped.database,
        `select count(*)::int as blockers from findings f join plans p on p.id = f.plan_id
         where f.plan_id = $1 and f.severity = 'blocker' and p.built_revision = p.revision`,
        [scoped.plan],
        { transaction },
      );
      if (known && known.blockers > 0)
        throw new SprigFailure('blocked', 'Blockers stand in the way. Mend them first: nothing was written.');
      return enqueue(scoped, transaction, 'ship', body);
    }),
  }));
  router.get('/api/plans/:plan/sheet-sets/:set/zip', async (request, response) => {
    const { plan, set } = parse(api.sheetSetParams, request.params, 'the address');
    await sendZip(inPlan(request, plan), set, response);
  });
  router.get('/api/plans/:plan/sheet-sets/:set/files/:file', async (request, response) => {
    const { plan, set, file } = parse(api.sheetFileParams, request.params, 'the address');
    await sendFile(inPlan(request, plan), set, file, response);
  });
  return router;
};
