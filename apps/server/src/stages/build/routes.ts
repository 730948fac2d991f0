import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { refreshBlocks } from '../prune/index.ts';
import { aimBids, changeBids } from './bids.ts';
import { copyBuilt, removeCopy } from './copies.ts';
import { auditView, fenceCounts, fencesView } from './fence-views.ts';
import { forecastOf } from './forecasts.ts';
import { headsOf, negativesAt, orderGroups, pageGroups, readGroup } from './groups.ts';
import { holdMany, holdValue, labelMany, letGo, listHolds } from './holds.ts';
import { editLayout, readLayout } from './layouts.ts';
import { attachToCampaigns, listAttached, placeNegatives, removePlaced } from './negatives.ts';
import { orderRows, pageRows } from './rows.ts';
import { editSet, listSets, makeSet, removeSet } from './settings.ts';
import { trySearch, trySearches } from './try.ts';
import { viewOf } from './view.ts';

export const buildRoutes = (): Router => {
  const router = Router();
  mount(router, api.readLayout, async (caller, { params }) => ({
    layout: await readLayout({ ...caller, ...params }),
  }));
  mount(router, api.editLayout, (caller, { params, body }) =>
    editLayout({ ...caller, ...params }, body.edits),
  );
  mount(router, api.viewBuild, (caller, { params, query }) => viewOf({ ...caller, ...params }, query.by));
  mount(router, api.orderGroups, (caller, { params, query }) => orderGroups({ ...caller, ...params }, query));
  mount(router, api.pageGroups, async (caller, { params, body }) => ({
    groups: await pageGroups({ ...caller, ...params }, body.keys),
  }));
  mount(router, api.readHeads, (caller, { params }) => headsOf({ ...caller, ...params }));
  mount(router, api.readGroup, (caller, { params: { plan, group } }) =>
    readGroup({ ...caller, plan }, group),
  );
  mount(router, api.orderRows, (caller, { params, query }) => orderRows({ ...caller, ...params }, query));
  mount(router, api.pageRows, async (caller, { params, body }) => ({
    rows: await pageRows({ ...caller, ...params }, body.keys),
  }));
  mount(router, api.holdValue, (caller, { params, body }) => holdValue({ ...caller, ...params }, body));
  mount(router, api.labelMany, (caller, { params, body }) => labelMany({ ...caller, ...params }, body));
  mount(router, api.holdMany, (caller, { params, body }) =>
    holdMany({ ...caller, ...params }, body.rowKeys, body.field, body.value),
  );
  mount(router, api.letGo, (caller, { params, body }) => letGo({ ...caller, ...params }, body.places));
  mount(router, api.listHolds, async (caller, { params }) => ({
    holds: await listHolds({ ...caller, ...params }),
  }));
  mount(router, api.changeBids, (caller, { params, body }) =>
    changeBids({ ...caller, ...params }, body.scope, body.change, body.dry),
  );
  mount(router, api.aimBids, (caller, { params, body }) =>
    aimBids({ ...caller, ...params }, body.scope, body.aim, body.headroom, body.dry),
  );
  mount(router, api.viewForecast, (caller, { params, body }) =>
    forecastOf({ ...caller, ...params }, body.scope),
  );
  mount(router, api.placeNegatives, (caller, { params, body }) =>
    placeNegatives({ ...caller, ...params }, body.places, body.negatives),
  );
  mount(router, api.listPlaced, async (caller, { params, query }) => ({
    negatives: await negativesAt({ ...caller, ...params }, query.place),
  }));
  mount(router, api.removePlacedNegatives, (caller, { params, body }) =>
    removePlaced({ ...caller, ...params }, body.ids),
  );
  mount(router, api.listAttached, async (caller, { params }) => ({
    lists: await listAttached({ ...caller, ...params }),
  }));
  mount(router, api.attachToCampaigns, (caller, { params: { plan, list }, body }) =>
    attachToCampaigns({ ...caller, plan }, list, body.campaigns, refreshBlocks),
  );
  mount(router, api.listSettingSets, async (caller, { params }) => ({
    sets: await listSets({ ...caller, ...params }),
  }));
  mount(router, api.makeSettingSet, (caller, { params, body }) =>
    makeSet({ ...caller, ...params }, body.name, body.from, body.campaigns),
  );
  mount(router, api.editSettingSet, (caller, { params: { plan, set }, body }) =>
    editSet({ ...caller, plan }, set, body.edits),
  );
  mount(router, api.removeSettingSet, (caller, { params: { plan, set } }) =>
    removeSet({ ...caller, plan }, set),
  );
  mount(router, api.copyBuilt, (caller, { params, body }) => copyBuilt({ ...caller, ...params }, body));
  mount(router, api.removeCopy, (caller, { params, body }) => removeCopy({ ...caller, ...params }, body.key));
  mount(router, api.countFences, (caller, { params }) => fenceCounts({ ...caller, ...params }));
  mount(router, api.viewFences, (caller, { params }) => fencesView({ ...caller, ...params }));
  mount(router, api.viewAudit, (caller, { params }) => auditView({ ...caller, ...params }));
  mount(router, api.trySearch, (caller, { params, body }) =>
    trySearch({ ...caller, ...params }, body.search),
  );
  mount(router, api.trySearches, (caller, { params, body }) =>
    trySearches({ ...caller, ...params }, body.text),
  );
  return router;
};
