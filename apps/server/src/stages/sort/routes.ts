import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { assertPlan, inChangeless } from '../../http/scope.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';
import { listByHand, placeByHand, stageByHand } from './by-hand.ts';
import { editSortSettings, noteSeen, seenBy, sortSettings } from './settings.ts';
import { editTheme, listThemes, makeThemes, moveThemes, removeThemes } from './themes.ts';

export const sortRoutes = (): Router => {
  const router = Router();
  mount(router, api.readSort, async (caller, { params }) => {
    const there = { ...caller, ...params };
    await assertPlan(there);
    return {
      themes: await listThemes(there),
      placed: await listByHand(there),
      settings: await sortSettings(there),
      seen: await seenBy(there),
    };
  });
  mount(router, api.makeThemes, (caller, { params, body }) =>
    makeThemes({ ...caller, ...params }, body.parent, body.themes, body.instead),
  );
  mount(router, api.proposeThemes, async (caller, { params, body }) => ({
    job: await inChangeless({ ...caller, ...params }, (scoped, transaction) =>
      enqueue(scoped, transaction, 'sort', body),
    ),
  }));
  mount(router, api.moveThemes, (caller, { params, body }) =>
    moveThemes({ ...caller, ...params }, body.ids, body.parent, body.before),
  );
  mount(router, api.removeThemes, (caller, { params, body }) =>
    removeThemes({ ...caller, ...params }, body.ids),
  );
  mount(router, api.editTheme, (caller, { params: { plan, theme }, body }) =>
    editTheme({ ...caller, plan }, theme, body.edits),
  );
  mount(router, api.placeByHand, (caller, { params, body }) =>
    placeByHand({ ...caller, ...params }, body.keywords, body.theme),
  );
  mount(router, api.stageByHand, (caller, { params, body }) =>
    stageByHand({ ...caller, ...params }, body.keywords, body.stage),
  );
  mount(router, api.editSortSettings, (caller, { params, body }) =>
    editSortSettings({ ...caller, ...params }, body.edits),
  );
  mount(router, api.lookedAtSort, async (caller, { params, body }) => {
    const there = { ...caller, ...params };
    await assertPlan(there);
    return noteSeen(there, body.keyword);
  });
  return router;
};
