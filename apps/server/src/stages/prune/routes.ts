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
  mount(router, api.foldKeywords, (caller, { body }) => foldKeywords(caller, body.folds));
  mount(router, api.unfoldKeywords, (caller, { body }) => unfoldKeywords(caller, body.ids));
  mount(router, api.setApart, (caller, { body }) => setApart(caller, body.ids, body.apart));
  mount(router, api.listNegatives, async (caller) => ({
    negatives: await listNegatives(caller),
  }));
  mount(router, api.addNegatives, (caller, { body: { negatives, ...where } }) =>
    addNegatives(caller, negatives, where),
  );
  mount(router, api.setReason, (caller, { body }) => setReason(caller, body.ids, body.reason));
  mount(router, api.removeNegatives, (caller, { body }) => removeNegatives(caller, body.ids));
  mount(router, api.listVerdicts, async (caller) => ({
    kept: await keptWords(caller),
  }));
  mount(router, api.keepWords, (caller, { body }) => keepWords(caller, body.words, body.keep));
  mount(router, api.listShared, async (caller) => ({
    lists: await listShared(caller),
  }));
  mount(router, api.makeShared, (caller, { body }) => makeShared(caller, body));
  mount(router, api.renameShared, (caller, { params: { list }, body }) =>
    renameShared(caller, list, body.name, body.before),
  );
  mount(router, api.attachShared, (caller, { params: { list }, body }) =>
    attachShared(caller, list, body.attach),
  );
  mount(router, api.removeFromShared, (caller, { params: { list }, body }) =>
    removeFromShared(caller, list, body.ids),
  );
  return router;
};
