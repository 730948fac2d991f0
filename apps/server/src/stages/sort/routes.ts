import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { assertPlan, inChangeless } from '../../http/scope.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';
import { listByHand, placeByHand, placeInNew, stageByHand } from './by-hand.ts';
import { editSortSettings, noteSeen, seenBy, sortSettings } from './settings.ts';
import { editTheme, listThemes, makeThemes, moveThemes, removeThemes } from './themes.ts';

export const sortRoutes = (): Router => {
  const router = Router();
  mount(router, api.readSort, async (caller) => {
    const there = caller;
    await assertPlan(there);
    return {
      themes: await listThemes(there),
      placed: await listByHand(there),
      settings: await sortSettings(there),
      seen: await seenBy(there),
    };
  });
  mount(router, api.makeThemes, (caller, { body }) =>
    makeThemes(caller, body.parent, body.themes, body.instead),
  );
  mount(router, api.proposeThemes, async (caller, { body }) => ({
    job: await inChangeless(caller, (scoped, transaction) => enqueue(scoped, transaction, 'sort', body)),
  }));
  mount(router, api.moveThemes, (caller, { body }) => moveThemes(caller, body.ids, body.parent, body.before));
  mount(router, api.removeThemes, (caller, { body }) => removeThemes(caller, body.ids));
  mount(router, api.editTheme, (caller, { params: { theme }, body }) => editTheme(caller, theme, body.edits));
  mount(router, api.placeByHand, (caller, { body }) =>
    'made' in body
      ? placeInNew(caller, body.keywords, body.made)
      : placeByHand(caller, body.keywords, body.theme),
  );
  mount(router, api.stageByHand, (caller, { body }) => stageByHand(caller, body.keywords, body.stage));
  mount(router, api.editSortSettings, (caller, { body }) => editSortSettings(caller, body.edits));
  mount(router, api.lookedAtSort, async (caller, { body }) => {
    const there = caller;
    await assertPlan(there);
    return noteSeen(there, body.keyword);
  });
  return router;
};
