import * as api from '@sprig/contracts';
import type { Outlet } from '@sprig/core/ship';
import { type Request, Router } from 'express';
import { callerOf, mount, parse } from '../../http/mount.ts';
import { inChangeless } from '../../http/scope.ts';
import { outletOf } from '../../plan/outlets.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';
import { viewAccount } from './account.ts';
import { listRefusals, readAnswer } from './answers.ts';
import { sendFile, sendZip } from './downloads.ts';
import { acceptFinding, refuseBlocked, viewShip } from './findings.ts';
import { applyFix, lookAtFix } from './fixes.ts';
import { sendKeywords, sendLosses } from './losses.ts';
import { chooseOutlet, keepOutlet, listOutlets, removeOutlet } from './outlets.ts';
import { chooseStaged, dropReadBack, latestReadBack, listStaged, readBackOf } from './read-back/index.ts';
import { listReceipts, markReceipt } from './receipts.ts';
import { tryOutlet } from './try-outlet.ts';

const inPlan = (request: Request, plan: number) => ({ ...callerOf(request), plan });

export const shipRoutes = (): Router => {
  const router = Router();
  mount(router, api.viewShip, (caller, { params }) => viewShip({ ...caller, ...params }));
  mount(router, api.listOutlets, async (caller, { params }) => ({
    outlets: await listOutlets({ ...caller, ...params }),
  }));
  mount(router, api.keepOutlet, (caller, { params, body }) =>
    keepOutlet({ ...caller, plan: params.plan }, params.outlet, body.outlet as Outlet, body.isNew),
  );
  mount(router, api.removeOutlet, (caller, { params }) =>
    removeOutlet({ ...caller, plan: params.plan }, params.outlet),
  );
  mount(router, api.tryOutlet, (caller, { params, body }) =>
    tryOutlet({ ...caller, ...params }, body.outlet as Outlet),
  );
  mount(router, api.chooseOutlet, (caller, { params, body }) =>
    chooseOutlet({ ...caller, plan: params.plan }, params.outlet, body.chosen, body.body),
  );
  mount(router, api.acceptFinding, (caller, { params, body }) =>
    acceptFinding({ ...caller, ...params }, body),
  );
  mount(router, api.previewFix, (caller, { params, body }) => lookAtFix({ ...caller, ...params }, body));
  mount(router, api.applyFix, (caller, { params, body }) => applyFix({ ...caller, ...params }, body));
  mount(router, api.startCheck, async (caller, { params }) => ({
    job: await inChangeless({ ...caller, ...params }, (scoped, transaction) =>
      enqueue(scoped, transaction, 'check', {}),
    ),
  }));
  mount(router, api.startShip, async (caller, { params, body }) => {
    await outletOf({ ...caller, ...params }, body.outlet);
    const job = await inChangeless({ ...caller, ...params }, async (scoped, transaction) => {
      await refuseBlocked(scoped, body.outlet, transaction);
      return enqueue(scoped, transaction, 'ship', body);
    });
    return { job };
  });
  mount(router, api.listReceipts, async (caller, { params }) => ({
    receipts: await listReceipts({ ...caller, ...params }),
  }));
  mount(router, api.markReceipt, async (caller, { params, body }) => ({
    receipt: await markReceipt({ ...caller, plan: params.plan }, params.set, body),
  }));
  mount(router, api.handIn, async (caller, { params }) => ({
    job: await inChangeless({ ...caller, plan: params.plan }, (scoped, transaction) =>
      enqueue(scoped, transaction, 'hand-in', { set: params.set }),
    ),
  }));
  mount(router, api.readAnswer, (caller, { params, body }) =>
    readAnswer({ ...caller, plan: params.plan }, params.set, body.upload, body.name),
  );
  mount(router, api.listRefusals, (caller, { params }) =>
    listRefusals({ ...caller, plan: params.plan }, params.set),
  );
  mount(router, api.viewAccount, (caller, { params, query }) =>
    viewAccount({ ...caller, plan: params.plan }, params.outlet, query.campaign),
  );
  mount(router, api.startReadBack, async (caller, { params, body }) => ({
    job: await inChangeless({ ...caller, ...params }, (scoped, transaction) =>
      enqueue(scoped, transaction, 'read-back', body),
    ),
  }));
  mount(router, api.viewReadBack, async (caller, { params }) => ({
    readBack: await latestReadBack({ ...caller, ...params }),
  }));
  mount(router, api.listReadBackRows, (caller, { params, query }) =>
    listStaged({ ...caller, plan: params.plan }, params.readBack, query),
  );
  mount(router, api.chooseReadBackRows, (caller, { params, body }) =>
    chooseStaged({ ...caller, plan: params.plan }, params.readBack, body),
  );
  mount(router, api.takeReadBack, async (caller, { params, body }) => {
    await readBackOf({ ...caller, plan: params.plan }, params.readBack);
    return {
      job: await inChangeless({ ...caller, plan: params.plan }, (scoped, transaction) =>
        enqueue(scoped, transaction, 'take-back', { readBack: params.readBack, options: body }),
      ),
    };
  });
  mount(router, api.dropReadBack, (caller, { params }) =>
    dropReadBack({ ...caller, plan: params.plan }, params.readBack),
  );
  router.get('/api/plans/:plan/outlets/:outlet/losses.csv', async (request, response) => {
    const { plan, outlet } = parse(api.outletParams, request.params, 'the address');
    await sendLosses(inPlan(request, plan), outlet, response);
  });
  router.get('/api/plans/:plan/outlets/:outlet/keywords.txt', async (request, response) => {
    const { plan, outlet } = parse(api.outletParams, request.params, 'the address');
    await sendKeywords(inPlan(request, plan), outlet, response);
  });
  router.get('/api/plans/:plan/sheet-sets/:set/zip', async (request, response) => {
    const { plan, set } = parse(api.sheetSetParams, request.params, 'the address');
    await sendZip(inPlan(request, plan), set, response);
  });
  router.get('/api/plans/:plan/sheet-sets/:set/files/:file', async (request, response) => {
    const { plan, set, file } = parse(api.sheetFileParams, request.params, 'the address');
    await sendFile(inPlan(request, plan), set, file, response);
  });
  return router;
};
