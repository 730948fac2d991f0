import * as api from '@sprig/contracts';
import { Router } from 'express';
import { standIn } from '../../figures/market.ts';
import { mount } from '../../http/mount.ts';
import { holdTexts } from '../build/index.ts';
import { listAddresses, readLanding, startCheck } from './addresses.ts';
import { orderAds, pageAds, refusedTexts, reviewAds } from './ads.ts';
import { deskOf, moveAds } from './desk.ts';
import { changeExtra, listExtras, makeExtra, placeExtras, removeExtra } from './extras.ts';
import {
  editAddressRule,
  editPattern,
  makePattern,
  orderPatterns,
  readPatterns,
  removePattern,
} from './patterns.ts';
import { addRivalNote, listRivalNotes, removeRivalNote } from './rival-notes.ts';

export const writeRoutes = (): Router => {
  const router = Router();
  patternRoutes(router);
  extraRoutes(router);
  noteRoutes(router);
  adRoutes(router);
  deskRoutes(router);
  pageRoutes(router);
  return router;
};

function patternRoutes(router: Router) {
  mount(router, api.readPatterns, (caller) => readPatterns(caller));
  mount(router, api.makePattern, (caller, { body }) => makePattern(caller, body.body, body.behind));
  mount(router, api.orderPatterns, (caller, { body }) => orderPatterns(caller, body.patterns));
  mount(router, api.editPattern, (caller, { params: { pattern }, body }) =>
    editPattern(caller, pattern, body.edits),
  );
  mount(router, api.removePattern, (caller, { params: { pattern } }) => removePattern(caller, pattern));
  mount(router, api.editAddressRule, (caller, { body }) => editAddressRule(caller, body.edits));
}

function extraRoutes(router: Router) {
  mount(router, api.listExtras, async (caller) => ({
    extras: await listExtras(caller),
  }));
  mount(router, api.placeExtras, (caller, { body }) => placeExtras(caller, body));
  mount(router, api.makeExtra, (caller, { body }) => makeExtra(caller, body));
  mount(router, api.changeExtra, (caller, { params: { extra }, body }) => changeExtra(caller, extra, body));
  mount(router, api.removeExtra, (caller, { params: { extra } }) => removeExtra(caller, extra));
}

function noteRoutes(router: Router) {
  mount(router, api.listRivalNotes, async (caller) => ({ notes: await listRivalNotes(caller) }));
  mount(router, api.addRivalNote, (caller, { body }) => addRivalNote(caller, body));
  mount(router, api.removeRivalNote, (caller, { params: { note } }) => removeRivalNote(caller, note));
}

function adRoutes(router: Router) {
  mount(router, api.orderAds, (caller, { query }) => orderAds(caller, query));
  mount(router, api.pageAds, async (caller, { body }) => ({
    ads: await pageAds(caller, body.keys),
  }));
  mount(router, api.holdTexts, (caller, { body }) => holdTexts(caller, body.texts));
  mount(router, api.reviewAds, (caller, { body: { keys, state, reason, fields, outlet } }) =>
    reviewAds(caller, keys, state, reason, fields, outlet),
  );
  mount(router, api.refusedTexts, async (caller) => ({
    texts: await refusedTexts(caller),
  }));
}

function deskRoutes(router: Router) {
  mount(router, api.listDesk, (caller, { query }) => deskOf(caller, query));
  mount(router, api.handOver, (caller, { body }) => moveAds(caller, body.which, body.state));
  mount(router, api.judgeAds, (caller, { body }) => moveAds(caller, body.which, body.state, body.reason));
}

function pageRoutes(router: Router) {
  mount(router, api.listAddresses, (caller) => listAddresses(caller));
  mount(router, api.checkAddresses, (caller) => startCheck(caller));
  mount(router, api.readLanding, (_, { query }) => readLanding(query.address));
  mount(router, api.readRivals, async (_, { query }) => {
    const provider = standIn();
    return { market: provider.name, ads: await provider.rivalAds(query.search) };
  });
}
