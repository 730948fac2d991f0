import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { inChangeless } from '../../http/scope.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';
import { accountsSideBySide } from './accounts.ts';
import { adTestGroups, adTestRows, adTestsOf, keepBetter } from './ad-tests.ts';
import { resultBidRows, resultBids, takeBids } from './bids.ts';
import { budgetsOf } from './budgets.ts';
import { forecastAgainst } from './forecast-against.ts';
import { dropReport, listReports, takeReportBack, takeReports } from './imports.ts';
import { keepLook, listLooks, removeLook } from './kept-looks.ts';
import { lookAt, lookDays, lookNames, lookPoints, lookRows } from './looks.ts';
import { resultColumn, resultsOf } from './results.ts';
import { blockEffect, judge, termRows, termsOf } from './terms.ts';
import { act, verdictRows, verdictsOf } from './verdicts.ts';
import { sellersOf, unlikeDaysOf } from './watch.ts';
import { mark, worthOf, worthOfAll } from './worth.ts';

export const learnRoutes = (): Router => {
  const router = Router();
  mount(router, api.startReports, async (caller, { body }) => ({
    job: await inChangeless(caller, (scoped, transaction) => enqueue(scoped, transaction, 'reports', body)),
  }));
  mount(router, api.listReports, (caller) => listReports(caller));
  mount(router, api.takeReports, (caller, { body }) => takeReports(caller, body.readings, body.isWhole));
  mount(router, api.dropReport, async (caller, { params }) => {
    await dropReport(caller, params.reading);
    return {};
  });
  mount(router, api.takeReportBack, (caller, { params }) => takeReportBack(caller, params.import));
  mount(router, api.readLook, (caller, { body }) => lookAt(caller, body));
  mount(router, api.readLookRows, async (caller, { body }) => ({
    rows: await lookRows(caller, body.look, body.rows),
  }));
  mount(router, api.readLookPoints, (caller, { body }) => lookPoints(caller, body));
  mount(router, api.readLookDays, (caller, { body }) => lookDays(caller, body.look));
  mount(router, api.readLookNames, (caller, { body }) => lookNames(caller, body));
  mount(router, api.readTerms, (caller, { body }) => termsOf(caller, body));
  mount(router, api.readTermRows, async (caller, { body }) => ({
    rows: await termRows(caller, body.account, body.rows),
  }));
  mount(router, api.previewBlock, (caller, { body }) => blockEffect(caller, body));
  mount(router, api.judgeTerms, (caller, { body }) => judge(caller, body));
  mount(router, api.readVerdicts, (caller, { body }) => verdictsOf(caller, body));
  mount(router, api.readVerdictRows, async (caller, { body }) => ({
    rows: await verdictRows(caller, body.account, body.by, body.rows),
  }));
  mount(router, api.actOnVerdicts, (caller, { body }) => act(caller, body));
  mount(router, api.readResultBids, (caller, { body }) => resultBids(caller, body));
  mount(router, api.readResultBidRows, async (caller, { body }) => ({
    rows: await resultBidRows(caller, body),
  }));
  mount(router, api.takeResultBids, (caller, { body }) => takeBids(caller, body));
  mount(router, api.readAdTests, (caller, { body }) => adTestsOf(caller, body.account, body.by));
  mount(router, api.readAdTestGroups, (caller, { body }) => adTestGroups(caller, body));
  mount(router, api.readAdTestRows, async (caller, { body }) => ({ rows: await adTestRows(caller, body) }));
  mount(router, api.keepBetterAd, (caller, { body }) => keepBetter(caller, body));
  mount(router, api.readWorth, (caller) => worthOf(caller));
  mount(router, api.markWorth, (caller, { body }) => mark(caller, body));
  mount(router, api.listWorth, async (caller) => ({ plans: await worthOfAll(caller) }));
  mount(router, api.readUnlikeDays, (caller, { body }) => unlikeDaysOf(caller, body.account));
  mount(router, api.readSellers, (caller, { body }) => sellersOf(caller, body.account, body.by));
  mount(router, api.readForecastAgainst, (caller, { body }) => forecastAgainst(caller, body.account));
  mount(router, api.readAccounts, (caller, { body }) => accountsSideBySide(caller, body));
  mount(router, api.readBudgets, (caller, { body }) => budgetsOf(caller, body));
  mount(router, api.readResults, (caller, { body }) => resultsOf(caller, body.by, body.keys));
  mount(router, api.readResultColumn, (caller, { query }) => resultColumn(caller, query.figure));
  mount(router, api.listLooks, async (caller) => ({ looks: await listLooks(caller) }));
  mount(router, api.keepLook, (caller, { body }) => keepLook(caller, body.name, body.look));
  mount(router, api.removeLook, (caller, { params }) => removeLook(caller, params.look));
  return router;
};
