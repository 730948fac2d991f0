import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { foldKeywords, setApart, unfoldKeywords } from './folding.ts';
import {
  addNegatives,
  keepWords,
  keptWords,
  listNegatives,
  removeNegatives,
  setReason,
} from './negatives.ts';
import { attachShared, listShared, makeShared, removeFromShared, renameShared } from './shared-lists.ts';

export const pruneRoutes = (): Router => {
  const router = Router();
  mount(router, api.foldKeywords, (caller, { params, body }) =>
    foldKeywords({ ...caller, ...params }, body.folds),
  );
  mount(router, api.unfoldKeywords, (caller, { params, body }) =>
    unfoldKeywords({ ...caller, ...params }, body.ids),
  );
  mount(router, api.setApart, (caller, { params, body }) =>
    setApart({ ...caller, ...params }, body.ids, body.apart),
  );
  mount(router, api.listNegatives, async (caller, { params }) => ({
    negatives: await listNegatives({ ...caller, ...params }),
  }));
  mount(router, api.addNegatives, (caller, { params, body: { negatives, ...where } }) =>
    addNegatives({ ...caller, ...params }, negatives, where),
  );
  mount(router, api.setReason, (caller, { params, body }) =>
    setReason({ ...caller, ...params }, body.ids, body.reason),
  );
  mount(router, api.removeNegatives, (caller, { params, body }) =>
    removeNegatives({ ...caller, ...params }, body.ids),
  );
  mount(router, api.listVerdicts, async (caller, { params }) => ({
    kept: await keptWords({ ...caller, ...params }),
  }));
  mount(router, api.keepWords, (caller, { params, body }) =>
    keepWords({ ...caller, ...params }, body.words, body.keep),
  );
  mount(router, api.listShared, async (caller, { params }) => ({
    lists: await listShared({ ...caller, ...params }),
  }));
  mount(router, api.makeShared, (caller, { params, body }) => makeShared({ ...caller, ...params }, body));
  mount(router, api.renameShared, (caller, { params: { plan, list }, body }) =>
    renameShared({ ...caller, plan }, list, body.name, body.before),
  );
  mount(router, api.attachShared, (caller, { params: { plan, list }, body }) =>
    attachShared({ ...caller, plan }, list, body.attach),
  );
  mount(router, api.removeFromShared, (caller, { params: { plan, list }, body }) =>
    removeFromShared({ ...caller, plan }, list, body.ids),
  );
  return router;
};
