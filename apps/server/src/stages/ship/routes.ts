import * as api from '@sprig/contracts';
import type { Outlet } from '@sprig/core/outlets';
import { Router } from 'express';
import { mount, mountRaw } from '../../http/mount.ts';
import { inChangeless } from '../../http/scope.ts';
import { outletOf } from '../../plan/outlets.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';
import { viewAccount } from './account.ts';
import { listRefusals, readAnswer } from './answers.ts';
import { sendFile, sendZip } from './downloads.ts';
import { acceptFinding, listFinding, refuseBlocked, viewShip } from './findings.ts';
import { applyFix, lookAtFix } from './fixes.ts';
import { sendKeywords, sendLosses } from './losses.ts';
import { chooseOutlet, keepOutlet, listOutlets, removeOutlet } from './outlets.ts';
import { partChoices, partGroups } from './part.ts';
import {
  chooseStaged,
  dropReadBack,
  latestReadBack,
  listStaged,
  readBackOf,
  stagedCampaigns,
} from './read-back/index.ts';
import { listReceipts, markReceipt } from './receipts.ts';
import { pageRows, viewRows } from './row-look.ts';
import { sendReport } from './traffic-job.ts';
import { tryOutlet } from './try-outlet.ts';

export const shipRoutes = (): Router => {
  const router = Router();
  mount(router, api.viewShip, (caller) => viewShip(caller));
  mount(router, api.listFinding, (caller, { query }) => listFinding(caller, query));
  mount(router, api.listOutlets, async (caller) => ({
    outlets: await listOutlets(caller),
  }));
  mount(router, api.keepOutlet, (caller, { params, body }) =>
    keepOutlet(caller, params.outlet, body.outlet as Outlet, body.isNew),
  );
  mount(router, api.removeOutlet, (caller, { params }) => removeOutlet(caller, params.outlet));
  mount(router, api.tryOutlet, (caller, { body }) => tryOutlet(caller, body.outlet as Outlet));
  mount(router, api.chooseOutlet, (caller, { params, body }) =>
    chooseOutlet(caller, params.outlet, body.chosen, body.body),
  );
  mount(router, api.acceptFinding, (caller, { body }) => acceptFinding(caller, body));
  mount(router, api.previewFix, (caller, { body }) => lookAtFix(caller, body));
  mount(router, api.applyFix, (caller, { body }) => applyFix(caller, body));
  mount(router, api.startCheck, async (caller) => ({
    job: await inChangeless(caller, (scoped, transaction) => enqueue(scoped, transaction, 'check', {})),
  }));
  mount(router, api.viewRows, (caller, { params }) => viewRows(caller, params.outlet));
  mount(router, api.startRows, async (caller, { params }) => {
    await outletOf(caller, params.outlet);
    return {
      job: await inChangeless(caller, (scoped, transaction) =>
        enqueue(scoped, transaction, 'row-look', { outlet: params.outlet }),
      ),
    };
  });
  mount(router, api.pageOutletRows, (caller, { params, body }) => pageRows(caller, params.outlet, body));
  mount(router, api.readPartChoices, (caller) => partChoices(caller));
  mount(router, api.findPartGroups, (caller, { body }) => partGroups(caller, body.words, body.keys));
  mount(router, api.startPartLook, async (caller, { params, body }) => {
    await outletOf(caller, params.outlet);
    return {
      job: await inChangeless(caller, (scoped, transaction) =>
        enqueue(scoped, transaction, 'part-look', { outlet: params.outlet, part: body.part }),
      ),
    };
  });
  mount(router, api.startShip, async (caller, { body }) => {
    await outletOf(caller, body.outlet);
    const job = await inChangeless(caller, async (scoped, transaction) => {
      await refuseBlocked(scoped, body.outlet, transaction);
      return enqueue(scoped, transaction, 'ship', body);
    });
    return { job };
  });
  mount(router, api.listReceipts, async (caller) => ({
    receipts: await listReceipts(caller),
  }));
  mount(router, api.markReceipt, async (caller, { params, body }) => ({
    receipt: await markReceipt(caller, params.set, body),
  }));
  mount(router, api.handIn, async (caller, { params }) => ({
    job: await inChangeless(caller, (scoped, transaction) =>
      enqueue(scoped, transaction, 'hand-in', { set: params.set }),
    ),
  }));
  mount(router, api.readAnswer, (caller, { params, body }) =>
    readAnswer(caller, params.set, body.upload, body.name),
  );
  mount(router, api.listRefusals, (caller, { params }) => listRefusals(caller, params.set));
  mount(router, api.viewAccount, (caller, { params, query }) =>
    viewAccount(caller, params.outlet, query.campaign),
  );
  mount(router, api.startReadBack, async (caller, { body }) => ({
    job: await inChangeless(caller, (scoped, transaction) => enqueue(scoped, transaction, 'read-back', body)),
  }));
  mount(router, api.viewReadBack, async (caller) => ({
    readBack: await latestReadBack(caller),
  }));
  mount(router, api.listReadBackRows, (caller, { params, query }) =>
    listStaged(caller, params.readBack, query),
  );
  mount(router, api.listReadBackCampaigns, async (caller, { params }) => ({
    campaigns: await stagedCampaigns(caller, params.readBack),
  }));
  mount(router, api.chooseReadBackRows, (caller, { params, body }) =>
    chooseStaged(caller, params.readBack, body),
  );
  mount(router, api.takeReadBack, async (caller, { params, body }) => {
    await readBackOf(caller, params.readBack);
    return {
      job: await inChangeless(caller, (scoped, transaction) =>
        enqueue(scoped, transaction, 'take-back', { readBack: params.readBack, options: body }),
      ),
    };
  });
  mount(router, api.dropReadBack, (caller, { params }) => dropReadBack(caller, params.readBack));
  mount(router, api.runAccount, async (caller, { params, body }) => ({
    job: await inChangeless(caller, (scoped, transaction) =>
      enqueue(scoped, transaction, 'traffic', { ...body, outlet: params.outlet }),
    ),
  }));
  mountRaw(router, api.downloadAccountReport, (scope, { params }, _request, response) =>
    sendReport(scope, params.outlet, params.report, response),
  );
  mountRaw(router, api.downloadLosses, (scope, { params }, _request, response) =>
    sendLosses(scope, params.outlet, response),
  );
  mountRaw(router, api.downloadKeywords, (scope, { params }, _request, response) =>
    sendKeywords(scope, params.outlet, response),
  );
  mountRaw(router, api.downloadSheets, (scope, { params }, _request, response) =>
    sendZip(scope, params.set, response),
  );
  mountRaw(router, api.downloadSheet, (scope, { params }, _request, response) =>
    sendFile(scope, params.set, params.file, response),
  );
  return router;
};
