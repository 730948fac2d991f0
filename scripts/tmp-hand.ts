import { chromium, expect, type Page } from '@playwright/test';
import * as api from '@sprig/contracts';
import config from '../playwright.config.ts';
import { asker, go } from '../e2e/steps.ts';

/** Ships the demo plan to Fennelwick and hands it in to its simulated engine, in the way that its screens do. */
async function handIn(page: Page, url: string): Promise<number> {
  const ask = asker(url);
  const [made] = (await ask(api.listPlans, {})).plans;
  const plan = made?.id ?? 0;
  const params = { plan };
  const done = async (job: string) => {
    const ended = async () => (await ask(api.readJob, { params: { plan, job } })).status;
    await expect.poll(ended, { intervals: [50], timeout: 60_000 }).toBe('done');
    return (await ask(api.readJob, { params: { plan, job } })).result;
  };
  const isBuilt = async () => {
    const { revision, builtRevision } = await ask(api.openPlan, { params });
    return builtRevision >= revision;
  };
  // What stands in its way is settled: negatives against keywords of its own, and a headline that some ad groups leave unfilled.
  await page.goto(`${url}/plans/${plan}/prune`);
  await page.getByRole('button', { name: /^Negatives/ }).click();
  const settle = page.getByRole('button', { name: 'Block them' });
  for (const left of [1, 0]) {
    await settle.first().click();
    await expect(settle).toHaveCount(left);
  }
  await go(page, 'Write');
  await page.getByRole('button', { name: 'Add a line to Headline 3' }).click();
  await page.getByLabel('Headline 3, line 3').fill('Free delivery in Eastmere');
  await page.getByLabel('Headline 3, line 3').press('Enter');
  await expect(page.locator('[data-yield=misfits]')).toHaveText(/^0 do not fit|^all fit/i);
  const outlet = 'fennelwick';
  await ask(api.chooseOutlet, {
    params: { plan, outlet },
    body: { chosen: true, body: { ticks: ['consent'] } },
  });
  await expect.poll(isBuilt, { timeout: 60_000 }).toBe(true);
  await done((await ask(api.startCheck, { params })).job);
  // Too many words for this outlet: what does not fit there is cut.
  const { findings } = await ask(api.viewShip, { params });
  for (const { rule } of findings)
    if (rule === 'keyword-too-long' || rule === 'keyword-too-many-words')
      await ask(api.applyFix, { params, body: { rule, outlet } });
  await expect.poll(isBuilt, { timeout: 60_000 }).toBe(true);
  await done((await ask(api.startCheck, { params })).job);
  const { job } = await ask(api.startShip, {
    params,
    body: { outlet, format: 'csv', what: 'all', sheets: ['combined'] },
  });
  const { sheetSet: set } = api.shipResult.parse(await done(job));
  await done((await ask(api.handIn, { params: { plan, set } })).job);
  return plan;
}


const url = process.argv[2] ?? '';
const browser = await chromium.launch(config.use?.launchOptions ?? {});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.setDefaultTimeout(60000);
const plan = await handIn(page, url);
const ask = asker(url);
const job = async (id: string) => { for (;;) { const one = await ask(api.readJob, { params: { plan, job: id } }); if (one.status !== 'queued' && one.status !== 'running') return one; await new Promise((r) => setTimeout(r, 200)); } };
const ran = await job((await ask(api.runAccount, { params: { plan, outlet: 'fennelwick' }, body: { days: 42, read: ['campaigns', 'keywords', 'terms', 'ads'] } } as never)).job);
console.log(JSON.stringify(ran).slice(0, 300));
const reading = (ran.result as { reading: string }).reading;
const read = await job(reading);
await ask(api.takeReports, { params: { plan }, body: { readings: (read.result as { readings: string[] }).readings } });
await ask(api.editPreferences, { body: { resultColumns: ['impressions', 'clicks', 'ctr', 'cost', 'conversions'] } });
await browser.close();
