import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { editOutset, keepOutset, listOutsets, takeOutset, tryOutset } from './service.ts';

export const outsetRoutes = (): Router => {
  const router = Router();
  mount(router, api.listOutsets, async (caller) => ({ outsets: await listOutsets(caller) }));
  mount(router, api.keepOutset, async (caller, { body }) => ({ id: await keepOutset(caller, body) }));
  mount(router, api.editOutset, async (caller, { params: { outset }, body }) => {
    await editOutset(caller, outset, body);
    return {};
  });
  mount(router, api.tryOutset, (caller, { params: { outset }, body }) =>
    tryOutset(caller, outset, body.parts),
  );
  mount(router, api.takeOutset, (caller, { params: { outset }, body }) =>
    takeOutset(caller, outset, body.parts, body.seen),
  );
  return router;
};
