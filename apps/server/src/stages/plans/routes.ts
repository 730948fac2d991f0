import * as api from '@sprig/contracts';
import { Router } from 'express';
import { ResponseStream } from '../../http/backpressure.ts';
import { mount, mountRaw } from '../../http/mount.ts';
import { fileSafe } from '../../platform/zip-files.ts';
import { changeDetails, history } from './history.ts';
import type { CountQueries } from './plan-counts.ts';
import { bytesOf } from './plan-file/archive.ts';
import { openPlanFile } from './plan-file/read-file.ts';
import { writePlanFile } from './plan-file/write-file.ts';
import {
  duplicatePlan,
  editBrief,
  listPlans,
  makePlan,
  makePlanFrom,
  makePlanLike,
  planState,
} from './service.ts';
import { stepBack, stepBackOne } from './step-back.ts';

/** `counts`: what each stage counts of a plan, in SQL. */
export const planRoutes = (counts: CountQueries): Router => {
  const router = Router();
  mount(router, api.listPlans, async (caller) => ({ plans: await listPlans(caller) }));
  mount(router, api.makePlan, async (caller, { body: { like, outset, ...brief } }) => ({
    id: await (outset !== null
      ? makePlanFrom(caller, brief, outset)
      : like !== null
        ? makePlanLike(caller, brief, like)
        : makePlan(caller, brief)),
  }));
  mount(router, api.duplicatePlan, async (caller) => ({
    id: await duplicatePlan(caller),
  }));
  mountRaw(router, api.savePlanFile, async (scope, _input, _request, response) => {
    const { brief } = await planState(scope, counts);
    response
      .attachment(`${fileSafe(brief.name)}.plan.zip`)
      .type('application/zip')
      .set('cache-control', 'no-store');
    const out = new ResponseStream(response);
    await writePlanFile(scope, (chunk) => out.write(chunk));
    out.end();
  });
  mountRaw(router, api.openPlanFile, async (scope, _input, request, response) => {
    response.json({ id: await openPlanFile(scope, await bytesOf(request)) });
  });
  mount(router, api.openPlan, (caller) => planState(caller, counts));
  mount(router, api.editBrief, (caller, { body }) => editBrief(caller, body.edits));
  mount(router, api.planHistory, (caller, { query }) => history(caller, query));
  mount(router, api.readChange, (caller, { params }) => changeDetails(caller, params.revision));
  mount(router, api.undoOne, (caller, { params, body }) => stepBackOne(caller, params.revision, body.force));
  mount(router, api.undoChange, (caller, { body }) => stepBack(caller, 'undo', body.force));
  mount(router, api.redoChange, (caller, { body }) => stepBack(caller, 'redo', body.force));
  return router;
};
