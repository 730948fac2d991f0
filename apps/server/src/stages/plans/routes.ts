import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { duplicatePlan, editBrief, history, listPlans, makePlan, planState } from './service.ts';
import { stepBack } from './step-back.ts';

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
  mount(router, api.undoChange, (caller, { params, body }) =>
    stepBack({ ...caller, ...params }, 'undo', body.force),
  );
  mount(router, api.redoChange, (caller, { params, body }) =>
    stepBack({ ...caller, ...params }, 'redo', body.force),
  );
  return router;
};
