import * as api from '@sprig/contracts';
import { Router } from 'express';
import { storedModel } from '../../figures/estimates.ts';
import { callerOf, mount, parse } from '../../http/mount.ts';
import { Outflow } from '../../http/outflow.ts';
import { assertPlan, inChangeless } from '../../http/scope.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';
import { listExtras, readExtra, readSeason } from './extras.ts';
import { askFigures, dismissIdeas, findIdeas, listDismissed, lookUp, takeIdeas } from './ideas.ts';
import { editKeyword, setCut, takeEstimatedCpcs } from './keywords.ts';
import { poolFrames } from './pool.ts';
import { rewriteKeywords } from './rewrite.ts';
import { listProblems, listSources, mendProblem, removeSource, renameSource } from './sources.ts';
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
    const out = new Outflow(response);
    await poolFrames(caller, since, (frame) => out.write(frame));
    out.end();
  });
  router.get('/api/plans/:plan/estimates', async (request, response) => {
    const caller = { ...callerOf(request), ...parse(api.planParams, request.params, 'the address') };
    await assertPlan(caller);
    response.set('cache-control', 'no-store');
    const stored = await storedModel(caller);
    if (!stored || request.query.known === stored.told) return void response.status(204).end();
    response
      .set({ 'content-encoding': 'gzip', [api.LEARNED_FROM]: stored.told })
      .type('json')
      .end(stored.body);
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
  mount(router, api.renameSource, (caller, { params: { plan, source }, body }) =>
    renameSource({ ...caller, plan }, source, body.name, body.before),
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
  mount(router, api.takeEstimatedCpcs, (caller, { params, body }) =>
    takeEstimatedCpcs({ ...caller, ...params }, body.taken),
  );
  mount(router, api.rewriteKeywords, (caller, { params, body }) =>
    rewriteKeywords({ ...caller, ...params }, body.edits),
  );
  mount(router, api.listExtras, async (caller, { params }) => ({
    extras: await listExtras({ ...caller, ...params }),
  }));
  mount(router, api.readSeason, async (caller, { params }) => ({
    season: await readSeason({ ...caller, ...params }),
  }));
  mount(router, api.readExtra, (caller, { params, query }) =>
    readExtra({ ...caller, ...params }, query.heading),
  );
  mount(router, api.startSiteReading, async (caller, { params, body }) => ({
    job: await inChangeless({ ...caller, ...params }, (scoped, transaction) =>
      enqueue(scoped, transaction, 'site', body),
    ),
  }));
  mount(router, api.listDismissed, async (caller, { params }) => ({
    texts: await listDismissed({ ...caller, ...params }),
  }));
  mount(router, api.dismissIdeas, (caller, { params, body }) =>
    dismissIdeas({ ...caller, ...params }, body.texts, body.dismissed),
  );
  mount(router, api.findIdeas, (caller, { params, body }) =>
    findIdeas({ ...caller, ...params }, body.request, body.filters),
  );
  mount(router, api.takeIdeas, (caller, { params, body }) =>
    takeIdeas({ ...caller, ...params }, body.name, body.texts),
  );
  mount(router, api.askFigures, (caller, { params, body }) => askFigures({ ...caller, ...params }, body.ids));
  mount(router, api.lookUp, (caller, { params, query }) => lookUp({ ...caller, ...params }, query.text));
  return router;
};
