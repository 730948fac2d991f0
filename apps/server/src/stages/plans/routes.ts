import * as api from '@sprig/contracts';
import { Router } from 'express';
import { callerOf, mount, parse } from '../../http/mount.ts';
import { Outflow } from '../../http/outflow.ts';
import { fileSafe } from '../../platform/zip-files.ts';
import { bytesOf } from './plan-file/archive.ts';
import { openPlanFile } from './plan-file/read-file.ts';
import { writePlanFile } from './plan-file/write-file.ts';
import { duplicatePlan, editBrief, history, listPlans, makePlan, planState } from './service.ts';
import { stepBack } from './step-back.ts';

export const planRoutes = (): Router => {
  const router = Router();
  mount(router, api.listPlans, async (caller) => ({ plans: await listPlans(caller) }));
  mount(router, api.makePlan, async (caller, { body }) => ({ id: await makePlan(caller, body) }));
  mount(router, api.duplicatePlan, async (caller, { params }) => ({
    id: await duplicatePlan({ ...caller, ...params }),
  }));
  router.get('/api/plans/:plan/file', async (request, response) => {
    const caller = { ...callerOf(request), ...parse(api.planParams, request.params, 'the address') };
    const { brief } = await planState(caller);
    response
      .attachment(`${fileSafe(brief.name)}.plan.zip`)
      .type('application/zip')
      .set('cache-control', 'no-store');
    const out = new Outflow(response);
    await writePlanFile(caller, (chunk) => out.write(chunk));
    out.end();
  });
  router.post('/api/plan-files', async (request, response) => {
    response.json({ id: await openPlanFile(callerOf(request), await bytesOf(request)) });
  });
  mount(router, api.openPlan, (caller, { params }) => planState({ ...caller, ...params }));
  mount(router, api.editBrief, (caller, { params, body }) => editBrief({ ...caller, ...params }, body.edits));
  mount(router, api.planHistory, async (caller, { params }) => ({
    changes: await history({ ...caller, ...params }),
  }));
  mount(router, api.undoChange, (caller, { params, body }) =>
    stepBack({ ...caller, ...params }, 'undo', body.force),
  );
  mount(router, api.redoChange, (caller, { params, body }) =>
    stepBack({ ...caller, ...params }, 'redo', body.force),
  );
  return router;
};
