import { once } from 'node:events';
import * as api from '@sprig/contracts';
import { Router } from 'express';
import { callerOf, mount, parse } from '../../http/mount.ts';
import { inChangeless } from '../../http/scope.ts';
import { enqueue } from '../../jobs/enqueue.ts';
import { assertPlan } from '../plans/index.ts';
import { editKeyword, setCut } from './keywords.ts';
import { poolFrames } from './pool.ts';
import { listProblems, listSources, mendProblem, removeSource } from './sources.ts';
import { keepUpload } from './uploads.ts';

export const gatherRoutes = (): Router => {
  const router = Router();
  router.post('/api/plans/:plan/uploads', async (request, response) => {
    const caller = { ...callerOf(request), ...parse(api.planParams, request.params, 'the address') };
    await assertPlan(caller);
    response.json(await keepUpload(caller, request, Number(request.headers['content-length'] ?? 0)));
  });
  router.get('/api/plans/:plan/pool', async (request, response) => {
    const caller = { ...callerOf(request), ...parse(api.planParams, request.params, 'the address') };
    const since = parse(api.count, Number(request.query.since ?? 0), 'since');
    await assertPlan(caller);
    response.type('application/x-sprig-pool').set('cache-control', 'no-store');
    await poolFrames(caller, since, async (frame) => {
      if (!response.write(frame)) await once(response, 'drain');
    });
    response.end();
  });
  mount(router, api.startImport, async (caller, { params, body }) => ({
    job: await inChangeless({ ...caller, ...params }, (scoped, transaction) =>
      enqueue(scoped, transaction, 'import', body),
    ),
  }));
  mount(router, api.listSources, async (caller, { params }) => ({
    sources: await listSources({ ...caller, ...params }),
  }));
  mount(router, api.listProblems, async (caller, { params: { plan, source } }) => ({
    problems: await listProblems({ ...caller, plan }, source),
  }));
  mount(router, api.mendProblem, (caller, { params: { plan, problem }, body }) =>
    mendProblem({ ...caller, plan }, problem, body.text),
  );
  mount(router, api.removeSource, (caller, { params: { plan, source } }) =>
    removeSource({ ...caller, plan }, source),
  );
  mount(router, api.setCut, (caller, { params, body }) =>
    setCut({ ...caller, ...params }, body.ids, body.cut),
  );
  mount(router, api.editKeyword, (caller, { params: { plan, keyword }, body }) =>
    editKeyword({ ...caller, plan }, keyword, body),
  );
  return router;
};
