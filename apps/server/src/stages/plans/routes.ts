import * as api from '@sprig/contracts';
import { Router } from 'express';
import { redo, undo } from '../../change/index.ts';
import { mount } from '../../http/mount.ts';
import { duplicatePlan, editBrief, history, listPlans, makePlan, planState } from './service.ts';

export const planRoutes = (): Router => {
  const router = Router();
  mount(router, api.listPlans, async (caller) => ({ plans: await listPlans(caller) }));
  mount(router, api.makePlan, async (caller, { body }) => ({ id: await makePlan(caller, body) }));
  mount(router, api.duplicatePlan, async (caller, { params }) => ({
    id: await duplicatePlan({ ...caller, ...params }),
  }));
  mount(router, api.openPlan, (caller, { params }) => planState({ ...caller, ...params }));
  mount(router, api.editBrief, (caller, { params, body }) => editBrief({ ...caller, ...params }, body.edits));
  mount(router, api.planHistory, async (caller, { params }) => ({
    changes: await history({ ...caller, ...params }),
  }));
  mount(router, api.undoChange, async (caller, { params, body }) => {
    const { revision, result } = await undo({ ...caller, ...params }, body.force);
    return { revision, label: result };
  });
  mount(router, api.redoChange, async (caller, { params, body }) => {
    const { revision, result } = await redo({ ...caller, ...params }, body.force);
    return { revision, label: result };
  });
  return router;
};
