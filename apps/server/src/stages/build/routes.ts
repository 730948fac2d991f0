import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { refreshBlocks } from '../prune/index.ts';
import { changeNegatives, orderNegatives, pageNegatives } from './all-negatives.ts';
import { aimBids, changeBids } from './bids.ts';
import { changeCampaigns } from './change-campaigns.ts';
import { clientPageOf } from './client-page.ts';
import { copyBuilt, editCopy, removeCopy } from './copies.ts';
import { auditView, fenceCounts, fencesView } from './fence-views.ts';
import { forecastOf } from './forecasts.ts';
import { headsOf, negativesAt, orderGroups, pageGroups, readGroup } from './groups.ts';
import { holdEach, holdMany, holdValue, labelMany, letGo, listHolds } from './holds.ts';
import { editLayout, readLayout } from './layouts.ts';
import { changeTypes } from './match-types.ts';
import { mayHold } from './may-hold.ts';
import { attachToCampaigns, listAttached, placeNegatives, removePlaced } from './negatives.ts';
import { rewriteNames } from './rewrite-names.ts';
import { orderRows, pageRows } from './rows.ts';
import {
  editSet,
  listSets,
  listSharedSettings,
  makeSet,
  removeSet,
  shareSet,
  takeShared,
} from './settings.ts';
import { sizesOf } from './sizes.ts';
import { standingOf } from './standing.ts';
import { trySearch, trySearches } from './try.ts';
import { viewOf } from './view.ts';

export const buildRoutes = (): Router => {
  const router = Router();
  mount(router, api.readLayout, async (caller) => ({
    layout: await readLayout(caller),
  }));
  mount(router, api.editLayout, (caller, { body }) => editLayout(caller, body.edits));
  mount(router, api.viewBuild, (caller, { query }) => viewOf(caller, query.by));
  mount(router, api.readClientPage, (caller, { query }) => clientPageOf(caller, query));
  mount(router, api.readGroupSizes, (caller) => sizesOf(caller));
  mount(router, api.orderGroups, (caller, { query }) => orderGroups(caller, query));
  mount(router, api.pageGroups, async (caller, { body }) => ({
    groups: await pageGroups(caller, body.keys),
  }));
  mount(router, api.readHeads, (caller) => headsOf(caller));
  mount(router, api.readGroup, (caller, { params: { group } }) => readGroup(caller, group));
  mount(router, api.orderRows, (caller, { query }) => orderRows(caller, query));
  mount(router, api.pageRows, async (caller, { body }) => ({
    rows: await pageRows(caller, body.keys),
  }));
  mount(router, api.holdValue, (caller, { body }) => holdValue(mayHold(caller, [body.rowKey]), body));
  mount(router, api.labelMany, (caller, { body }) => labelMany(mayHold(caller, body.rowKeys), body));
  mount(router, api.holdEach, (caller, { body }) =>
    holdEach(
      mayHold(
        caller,
        body.values.map(([key]) => key),
      ),
      body.values,
    ),
  );
  mount(router, api.holdMany, (caller, { body }) =>
    holdMany(mayHold(caller, body.rowKeys), body.rowKeys, body.field, body.value),
  );
  mount(router, api.orderAllNegatives, (caller, { query }) => orderNegatives(caller, query));
  mount(router, api.pageAllNegatives, async (caller, { body }) => ({
    negatives: await pageNegatives(caller, body.keys),
  }));
  mount(router, api.changeAllNegatives, (caller, { body }) => changeNegatives(caller, body));
  mount(router, api.changeTypes, (caller, { body }) => changeTypes(caller, body));
  mount(router, api.changeCampaigns, (caller, { body }) => changeCampaigns(caller, body));
  mount(router, api.rewriteNames, (caller, { body }) => rewriteNames(caller, body));
  mount(router, api.letGo, (caller, { body }) =>
    letGo(
      mayHold(
        caller,
        body.places.map(({ rowKey }) => rowKey),
      ),
      body.places,
    ),
  );
  mount(router, api.listHolds, async (caller) => ({
    holds: await listHolds(caller),
  }));
  mount(router, api.changeBids, (caller, { body }) => changeBids(caller, body));
  mount(router, api.aimBids, (caller, { body }) => aimBids(caller, body));
  mount(router, api.viewForecast, (caller, { body }) => forecastOf(caller, body.scope));
  mount(router, api.placeNegatives, (caller, { body }) =>
    placeNegatives(caller, body.places, body.negatives),
  );
  mount(router, api.listPlaced, async (caller, { query }) => ({
    negatives: await negativesAt(caller, query.place),
  }));
  mount(router, api.removePlacedNegatives, (caller, { body }) => removePlaced(caller, body.ids));
  mount(router, api.listAttached, async (caller) => ({
    lists: await listAttached(caller),
  }));
  mount(router, api.attachToCampaigns, (caller, { params: { list }, body }) =>
    attachToCampaigns(caller, list, body.campaigns, refreshBlocks),
  );
  mount(router, api.listSettingSets, async (caller) => ({
    sets: await listSets(caller),
  }));
  mount(router, api.makeSettingSet, (caller, { body }) =>
    makeSet(caller, body.name, body.from, body.campaigns),
  );
  mount(router, api.editSettingSet, (caller, { params: { set }, body }) => editSet(caller, set, body.edits));
  mount(router, api.removeSettingSet, (caller, { params: { set } }) => removeSet(caller, set));
  mount(router, api.listSharedSettings, async (caller) => ({ shared: await listSharedSettings(caller) }));
  mount(router, api.shareSettingSet, (caller, { params: { set }, body }) =>
    shareSet(caller, set, body.shared),
  );
  mount(router, api.takeSharedSettings, (caller, { params: { shared }, body }) =>
    takeShared(caller, shared, body.campaigns),
  );
  mount(router, api.readStanding, (caller) => standingOf(caller));
  mount(router, api.copyBuilt, (caller, { body }) => copyBuilt(caller, body));
  mount(router, api.editCopy, (caller, { body }) => editCopy(caller, body));
  mount(router, api.removeCopy, (caller, { body }) => removeCopy(caller, body.key));
  mount(router, api.countFences, (caller) => fenceCounts(caller));
  mount(router, api.viewFences, (caller) => fencesView(caller));
  mount(router, api.viewAudit, (caller) => auditView(caller));
  mount(router, api.trySearch, (caller, { body }) => trySearch(caller, body.search));
  mount(router, api.trySearches, (caller, { body }) => trySearches(caller, body.text));
  return router;
};
