import * as api from '@sprig/contracts';
import { Router } from 'express';
import { storedModel } from '../../figures/estimates.ts';
import { ResponseStream } from '../../http/backpressure.ts';
import { mount, mountRaw } from '../../http/mount.ts';
import { inChangeless } from '../../http/scope.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';
import { askFigures, dismissIdeas, findIdeas, listDismissed, lookUp, takeIdeas } from './ideas.ts';
import { listKeptColumns, readKeptColumn, readSeason } from './kept-columns.ts';
import { editKeyword, setCut, takeEstimatedCpcs } from './keywords.ts';
import { poolFrames } from './pool.ts';
import { fillKeywords, rewriteKeywords } from './rewrite.ts';
import { listProblems, listSources, mendProblem, removeSource, renameSource } from './sources.ts';
import { keepUpload } from './uploads.ts';

export const gatherRoutes = (): Router => {
  const router = Router();
  mountRaw(router, api.uploadList, async (scope, _input, request, response) => {
    response.json(await keepUpload(scope, request, Number(request.headers['content-length'] ?? 0)));
  });
  mountRaw(router, api.fetchPool, async (scope, { query }, _request, response) => {
    response.type('application/x-sprig-pool').set('cache-control', 'no-store');
    const out = new ResponseStream(response);
    await poolFrames(scope, query.since, (frame) => out.write(frame));
    out.end();
  });
  mountRaw(router, api.fetchEstimates, async (scope, { query }, _request, response) => {
    response.set('cache-control', 'no-store');
    const stored = await storedModel(scope);
    if (!stored || query.known === stored.told) return response.status(204).end();
    return response
      .set({ 'content-encoding': 'gzip', [api.LEARNED_FROM]: stored.told })
      .type('json')
      .end(stored.body);
  });
  mount(router, api.startImport, async (caller, { body }) => ({
    job: await inChangeless(caller, (scoped, transaction) => enqueue(scoped, transaction, 'import', body)),
  }));
  mount(router, api.listSources, async (caller) => ({
    sources: await listSources(caller),
  }));
  mount(router, api.listProblems, async (caller, { params: { source } }) => ({
    problems: await listProblems(caller, source),
  }));
  mount(router, api.mendProblem, (caller, { params: { problem }, body }) =>
    mendProblem(caller, problem, body.text),
  );
  mount(router, api.renameSource, (caller, { params: { source }, body }) =>
    renameSource(caller, source, body.name, body.before),
  );
  mount(router, api.removeSource, (caller, { params: { source } }) => removeSource(caller, source));
  mount(router, api.setCut, (caller, { body }) => setCut(caller, body.ids, body.cut));
  mount(router, api.editKeyword, (caller, { params: { keyword }, body }) =>
    editKeyword(caller, keyword, body),
  );
  mount(router, api.takeEstimatedCpcs, (caller, { body }) => takeEstimatedCpcs(caller, body.taken));
  mount(router, api.fillKeywords, (caller, { body }) => fillKeywords(caller, body));
  mount(router, api.rewriteKeywords, (caller, { body }) => rewriteKeywords(caller, body.edits));
  mount(router, api.listKeptColumns, async (caller) => ({
    keptColumns: await listKeptColumns(caller),
  }));
  mount(router, api.readSeason, async (caller) => ({
    season: await readSeason(caller),
  }));
  mount(router, api.readKeptColumn, (caller, { query }) => readKeptColumn(caller, query.heading));
  mount(router, api.startSiteReading, async (caller, { body }) => ({
    job: await inChangeless(caller, (scoped, transaction) => enqueue(scoped, transaction, 'site', body)),
  }));
  mount(router, api.listDismissed, async (caller) => ({
    texts: await listDismissed(caller),
  }));
  mount(router, api.dismissIdeas, (caller, { body }) => dismissIdeas(caller, body.texts, body.dismissed));
  mount(router, api.findIdeas, (caller, { body }) => findIdeas(caller, body.request, body.filters));
  mount(router, api.takeIdeas, (caller, { body }) => takeIdeas(caller, body.name, body.texts));
  mount(router, api.askFigures, (caller, { body }) => askFigures(caller, body.ids));
  mount(router, api.lookUp, (caller, { query }) => lookUp(caller, query.text));
  return router;
};
