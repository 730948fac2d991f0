import * as api from '@sprig/contracts';
import { Router } from 'express';
import { standIn } from '../../figures/market.ts';
import { mount } from '../../http/mount.ts';
import { holdTexts } from '../build/index.ts';
import { listAddresses, readLanding, startCheck } from './addresses.ts';
import { orderAds, pageAds, refusedTexts, reviewAds } from './ads.ts';
import { changeAsset, listAssets, makeAsset, removeAsset } from './assets.ts';
import {
  editAddressRule,
  editPattern,
  makePattern,
  orderPatterns,
  readPatterns,
  removePattern,
} from './patterns.ts';

export const writeRoutes = (): Router => {
  const router = Router();
  patternRoutes(router);
  assetRoutes(router);
  adRoutes(router);
  pageRoutes(router);
  return router;
};

function patternRoutes(router: Router) {
  mount(router, api.readPatterns, (caller, { params }) => readPatterns({ ...caller, ...params }));
  mount(router, api.makePattern, (caller, { params, body }) =>
    makePattern({ ...caller, ...params }, body.body, body.behind),
  );
  mount(router, api.orderPatterns, (caller, { params, body }) =>
    orderPatterns({ ...caller, ...params }, body.patterns),
  );
  mount(router, api.editPattern, (caller, { params: { pattern, ...params }, body }) =>
    editPattern({ ...caller, ...params }, pattern, body.edits),
  );
  mount(router, api.removePattern, (caller, { params: { pattern, ...params } }) =>
    removePattern({ ...caller, ...params }, pattern),
  );
  mount(router, api.editAddressRule, (caller, { params, body }) =>
    editAddressRule({ ...caller, ...params }, body.edits),
  );
}

function assetRoutes(router: Router) {
  mount(router, api.listAssets, async (caller, { params }) => ({
    assets: await listAssets({ ...caller, ...params }),
  }));
  mount(router, api.makeAsset, (caller, { params, body }) =>
    makeAsset({ ...caller, ...params }, body.at, body.body),
  );
  mount(router, api.changeAsset, (caller, { params: { asset, ...params }, body }) =>
    changeAsset({ ...caller, ...params }, asset, body.at, body.body),
  );
  mount(router, api.removeAsset, (caller, { params: { asset, ...params } }) =>
    removeAsset({ ...caller, ...params }, asset),
  );
}

function adRoutes(router: Router) {
  mount(router, api.orderAds, (caller, { params, query }) => orderAds({ ...caller, ...params }, query));
  mount(router, api.pageAds, async (caller, { params, body }) => ({
    ads: await pageAds({ ...caller, ...params }, body.keys),
  }));
  mount(router, api.holdTexts, (caller, { params, body }) => holdTexts({ ...caller, ...params }, body.texts));
  mount(router, api.reviewAds, (caller, { params, body: { keys, state, reason, fields } }) =>
    reviewAds({ ...caller, ...params }, keys, state, reason, fields),
  );
  mount(router, api.refusedTexts, async (caller, { params }) => ({
    texts: await refusedTexts({ ...caller, ...params }),
  }));
}

function pageRoutes(router: Router) {
  mount(router, api.listAddresses, (caller, { params }) => listAddresses({ ...caller, ...params }));
  mount(router, api.checkAddresses, (caller, { params }) => startCheck({ ...caller, ...params }));
  mount(router, api.readLanding, (_, { query }) => readLanding(query.address));
  mount(router, api.readRivals, async (_, { query }) => {
    const provider = standIn();
    return { market: provider.name, ads: await provider.rivalAds(query.search) };
  });
}
