import type { Page } from '@playwright/test';
import * as api from '@sprig/contracts';
import { freePort } from '../scripts/setup/free-port.mjs';
import { startServer } from '../scripts/setup/server.mjs';
import { signInDemo } from '../scripts/setup/sign-in.mjs';
import { expect, freshDatabase, test } from './server.ts';
import { isSignedIn } from './signed-in.ts';
import { asker, go, openPlan } from './steps.ts';

const LIST = 'sea kayak\t9000\t0.60\nkayak hire\t4000\t0.50\n';

const table = (page: Page) => page.getByRole('grid', { name: /^Results by/ });
const narrow = (page: Page, item: string) =>
  page
    .getByRole('button', { name: 'Narrow it down' })
    .click()
    .then(() => page.getByRole('menuitem', { name: item }).first().click());

function waits(url: string, plan: number) {
  const ask = asker(url);
  return {
    done: async (job: string) => {
      const ended = async () => (await ask(api.readJob, { params: { plan, job } })).status;
      await expect.poll(ended, { intervals: [50], timeout: 60_000 }).toBe('done');
      return (await ask(api.readJob, { params: { plan, job } })).result;
    },
    isBuilt: async () => {
      const { revision, builtRevision } = await ask(api.openPlan, { params: { plan } });
      return builtRevision >= revision;
    },
  };
}

/** Ships to Fennelwick, and hands the sheets in to its simulated engine. */
async function ship(url: string, plan: number, what: 'all' | 'difference'): Promise<void> {
  const ask = asker(url);
  const { done } = waits(url, plan);
  const { job } = await ask(api.startShip, {
    params: { plan },
    body: { outlet: 'fennelwick', format: 'csv', what, sheets: ['combined'] },
  });
  const { sheetSet: set } = api.shipResult.parse(await done(job));
  await done((await ask(api.handIn, { params: { plan, set } })).job);
}

/** Ships the demo plan to Fennelwick and hands it in to its simulated engine, in the way that its screens do. */
async function handIn(page: Page, url: string): Promise<number> {
  const ask = asker(url);
  const [made] = (await ask(api.listPlans, {})).plans;
  const plan = made?.id ?? 0;
  const params = { plan };
  const { done, isBuilt } = waits(url, plan);
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
  await ship(url, plan, 'all');
  return plan;
}

test('the demo plan is handed in, runs for 42 days, and its reports tell what happened', async ({ page }) => {
  const { address, drop } = await freshDatabase();
  const url = `http://127.0.0.1:${await freePort()}`;
  const { stop } = await startServer(
    { DATABASE_URL: address, PORT: new URL(url).port, LOG_LEVEL: 'error', SEED_DEMO: '1' },
    { quiet: true },
  );
  try {
    await isSignedIn(url, await signInDemo(url), page.context());
    await sixWeeks(page, url);
  } finally {
    await stop();
    await drop();
  }
});

async function sixWeeks(page: Page, url: string) {
  const plan = await handIn(page, url);
  await page.goto(`${url}/plans/${plan}/ship`);
  await expect(page.getByRole('region', { name: 'Fennelwick', exact: true })).toBeVisible();
  await page.keyboard.press('a');
  await expect(page.getByText('It has not run yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Run, and read its reports' }).click();
  // A job of half a minute on a slow machine.
  await expect(page.getByText(/^42 days passed: [\d,]+ impressions/)).toBeVisible({ timeout: 120_000 });
  await page.getByRole('link', { name: 'Take its reports in' }).click();

  // Four reports wait, each with what it is and what it would do.
  await expect(page.getByRole('region', { name: /^Report Fennelwick/ })).toHaveCount(4);
  const keywords = page.getByRole('region', { name: 'Report Fennelwick keywords.csv' });
  await expect(keywords).toContainText('reports of keywords by day');
  await expect(keywords).toContainText('replaces nothing');
  await expect(page.getByText('not met in the plan')).toHaveCount(0);
  await page.getByRole('button', { name: 'Take in 4 reports' }).click();
  await expect(page.getByRole('button', { name: /^Take back/ })).toHaveCount(4);

  await page.keyboard.press('h');
  await expect(table(page).getByRole('row')).toHaveCount(3);
  await page.getByLabel('Tell apart by').selectOption('keyword');
  await expect(table(page).getByRole('row').nth(3)).toBeVisible();
  await narrow(page, 'clicks');
  await page.getByRole('button', { name: /^clicks than:/ }).click();
  await page.getByLabel('clicks than').fill('1');
  await page.getByLabel('clicks than').press('Enter');
  await expect(page).toHaveURL(/figures=/);

  // The look is kept, and found again after a reload.
  await page.getByRole('button', { name: 'Kept looks' }).click();
  await page.getByRole('menuitem', { name: 'Keep this look …' }).click();
  await page.getByLabel('Keep this look as').fill('Clicked keywords');
  await page.getByLabel('Keep this look as').press('Enter');
  await expect(page.getByRole('button', { name: 'Kept looks' })).toHaveText('Clicked keywords');
  await page.goto(page.url().replace(/\?.*/, ''));
  await page.reload();
  await expect(page.getByLabel('Tell apart by')).toHaveValue('campaign');
  await page.getByRole('button', { name: 'Kept looks' }).click();
  await page.getByRole('menuitem', { name: 'Clicked keywords' }).click();
  await expect(page.getByLabel('Tell apart by')).toHaveValue('keyword');

  // What is drawn around in the picture is selected in the table, and stands there alone.
  await page.getByRole('button', { name: 'Cost against conversions' }).click();
  const picture = page.getByRole('figure', { name: /^conversions against cost/ });
  await expect(picture.locator('circle').first()).toBeVisible();
  const all = (await table(page).getAttribute('aria-rowcount')) ?? '';
  const box = await picture.locator('svg').boundingBox();
  const dot = await picture.locator('circle').first().boundingBox();
  if (!box || !dot) throw new Error('no picture');
  const [x, y] = [dot.x + dot.width / 2, dot.y + dot.height / 2];
  await page.mouse.move(x - 22, y - 22);
  await page.mouse.down();
  for (const [dx, dy] of [
    [22, -22],
    [22, 22],
    [-22, 22],
    [-22, -20],
  ] as const)
    await page.mouse.move(x + dx, y + dy, { steps: 5 });
  await page.mouse.up();
  const selected = page.getByText(/, \d+ selected/);
  await expect(selected).toBeVisible();
  const within = Number(/, (\d+) selected/.exec((await selected.textContent()) ?? '')?.[1]);
  expect(within).toBeLessThan(10);
  await page.getByRole('button', { name: 'Only these' }).click();
  await expect(table(page).getByRole('row')).toHaveCount(within + 1);
  await page.getByRole('button', { name: 'Only these' }).click();
  await expect(table(page)).toHaveAttribute('aria-rowcount', all);

  // Within a row stand its days; the way back leads out again.
  await table(page).getByRole('row').nth(1).getByRole('button').first().click();
  await expect(page.getByLabel('Tell apart by')).toHaveValue('day');
  await page.goBack();
  await expect(page.getByLabel('Tell apart by')).toHaveValue('keyword');

  // A verdict for each ad group; what is acted on rests until its day, with a reason in history, and comes back with undo.
  await page.keyboard.press('v');
  const judged = page.getByRole('group', { name: 'Verdicts' });
  await page.getByLabel('What is judged').selectOption('group');
  await judged.getByRole('button', { name: /^Too early/ }).click();
  const early = page.getByRole('grid', { name: 'Verdicts: Too early' });
  await expect(early).toContainText(/impressions? more needed, in about \d+ days?/);
  await early.getByRole('row').nth(1).getByRole('checkbox').click();
  await page.keyboard.press('b');
  const acting = page.getByRole('dialog', { name: 'Raise the bids of 1 ad group' });
  await acting.getByLabel('Percent').fill('35');
  await expect(acting.getByRole('list', { name: 'Before and after' })).toContainText('→');
  await acting.getByLabel('Percent').press('Enter');
  await expect(page.getByText(/^\d+ changes? made\. Ctrl\+Z takes/)).toBeVisible();
  await expect(judged.getByRole('button', { name: /^Resting/ })).toContainText('1');
  await judged.getByRole('button', { name: /^Resting/ }).click();
  await expect(page.getByRole('grid', { name: 'Verdicts: Resting' })).toContainText('Bid raised by 35% on');
  await page.keyboard.press('Control+z');
  await expect(judged.getByRole('button', { name: /^Resting/ })).toContainText('0');
  await page.getByRole('button', { name: 'What they go by' }).click();
  const limits = page.getByRole('dialog', { name: 'What verdicts go by' });
  await limits.getByRole('button', { name: /^Impressions:/ }).click();
  await limits.getByLabel('Impressions').fill('5');
  await limits.getByLabel('Impressions').press('Enter');
  await expect(limits.getByRole('alert')).toBeVisible();
  await limits.getByLabel('Impressions').press('Escape');
  await page.keyboard.press('Escape');

  // Search terms by single keys: one gets an ad group of its own, one is blocked, and neither comes back.
  await page.keyboard.press('s');
  const terms = page.getByRole('grid', { name: 'Search terms' });
  await expect(terms.getByRole('row').nth(3)).toBeVisible();
  const first = (await terms.getByRole('row').nth(1).getByRole('gridcell').nth(1).textContent()) ?? '';
  await terms.getByRole('row').nth(1).getByRole('gridcell').nth(1).click();
  await page.keyboard.press('o');
  await expect(page.getByText(/^1 search term has an ad group of its own/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Judged 1 / })).toBeVisible();
  await expect(terms.getByRole('row').nth(1)).not.toContainText(first);
  await page.keyboard.press('b');
  const block = page.getByRole('dialog', { name: /^Block “/ });
  await expect(block).toContainText('would have been kept out');
  await block.getByRole('button', { name: /^Block “/ }).click();
  await expect(page.getByRole('button', { name: /^Judged [2-9]/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Judged 1 / })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Judged 0 / })).toBeVisible();

  // Budgets that ran out.
  await page.keyboard.press('w');
  await expect(page.getByRole('grid', { name: 'Budgets' })).toContainText(/\d+ of 28/);
  await page.keyboard.press('h');

  // Undo takes the kept look back, and then the reports.
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Kept looks' })).toHaveText('Looks');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('heading', { name: 'No report has come home yet' })).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(table(page).getByRole('row').nth(1)).toBeVisible();
  await twoWeeksMore(page, url, plan);
}

/** From what happened to what is done about it, until it shows what came of that. */
async function twoWeeksMore(page: Page, url: string, plan: number) {
  await asker(url)(api.editFacts, {
    params: { plan },
    body: { edits: [{ at: 'targetCost', before: null, after: 15_000_000 }] },
  });
  // What is worth doing leads to where it is done.
  await page.keyboard.press('n');
  const worth = page.getByRole('list', { name: 'Worth doing' });
  await expect(worth.getByRole('link', { name: /search terms? to judge$/ })).toBeVisible();
  await worth.getByRole('button', { name: /^Done: Negatives missing/ }).click();
  await expect(page.locator('summary')).toHaveText('1 put off or done');
  await worth.getByRole('link', { name: /bids? to bring to the aim$/ }).click();

  // Bids to the aim: before and after, with the day on which they are looked at again.
  const bids = page.getByRole('grid', { name: 'Bids: To change' });
  await expect(bids.getByRole('row').nth(2)).toBeVisible();
  await page.getByRole('button', { name: /^Set all/ }).click();
  const setting = page.getByRole('dialog', { name: /^Set \d+ bids?$/ });
  await expect(setting.getByRole('list', { name: 'Before and after' })).toContainText('→');
  await setting.getByRole('button', { name: /^Set \d+ bids?$/ }).click();
  await expect(page.getByText(/^\d+ bids? set\. Ctrl\+Z/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Just changed/ })).toBeVisible();

  // A term gets its own ad group, a word is blocked, and of two ads one is kept.
  await page.keyboard.press('s');
  const terms = page.getByRole('grid', { name: 'Search terms' });
  await terms.getByRole('row').nth(1).getByRole('gridcell').nth(1).click();
  await page.keyboard.press('o');
  await expect(page.getByRole('button', { name: /^Judged 1 / })).toBeVisible();
  await page.keyboard.press('b');
  await page
    .getByRole('dialog', { name: /^Block “/ })
    .getByRole('button', { name: /^Block “/ })
    .click();
  await expect(page.getByRole('button', { name: /^Judged [2-9]/ })).toBeVisible();
  await page.keyboard.press('a');
  const tests = page.getByRole('list', { name: 'Tests' });
  await expect(tests).toContainText('written against live');
  await tests.getByRole('button', { name: 'Keep live' }).click();
  await expect(tests).toContainText('Only live runs.');

  // The difference is shipped, the account runs on, and its reports tell what came of it.
  const { done, isBuilt } = waits(url, plan);
  await expect.poll(isBuilt, { timeout: 60_000 }).toBe(true);
  await done((await asker(url)(api.startCheck, { params: { plan } })).job);
  await ship(url, plan, 'difference');
  await page.goto(`${url}/plans/${plan}/ship`);
  await expect(page.getByRole('region', { name: 'Fennelwick', exact: true })).toBeVisible();
  await page.keyboard.press('a');
  await page.getByRole('button', { name: /^Days to run/ }).click();
  await page.getByLabel('Days to run').fill('14');
  await page.getByLabel('Days to run').press('Enter');
  await page.getByRole('button', { name: 'Run, and read its reports' }).click();
  await expect(page.getByText(/^14 days passed: [\d,]+ impressions/)).toBeVisible();
  await page.getByRole('link', { name: 'Take its reports in' }).click();
  await page.getByRole('button', { name: /^Take in 4 reports/ }).click();
  await expect(page.getByRole('button', { name: /^Take back/ })).toHaveCount(8);
  await page.keyboard.press('v');
  await page
    .getByRole('group', { name: 'Verdicts' })
    .getByRole('button', { name: /^Resting/ })
    .click();
  const resting = page.getByRole('grid', { name: 'Verdicts: Resting' });
  await expect(resting).toContainText(/Bid set from £\d\.\d\d to £\d\.\d\d to the aim on/);
  await expect(resting).toContainText(/A day, before and since: [\d.]+ → [\d.]+ clicks/);
}

test('bids go up by bands of positions; search terms are judged by the keyboard alone', async ({
  page,
  url,
}) => {
  const plan = await openPlan(page, url, { list: LIST, stage: 'learn' });
  const ask = asker(url);
  const heads = await ask(api.readHeads, { params: { plan } });
  const [campaign, kayak, hire] = [
    heads.campaignNames[heads.campaigns[0] ?? 0],
    heads.names[0],
    heads.names[1],
  ];
  const days = Array.from({ length: 14 }, (_, at) => `2026-11-${String(at + 1).padStart(2, '0')}`);
  const reports = {
    'rows.csv': [
      'Day,Campaign,Ad group,Keyword,Match type,Impressions,Clicks,Cost,Position',
      ...days.flatMap((day) => [
        `${day},${campaign},${kayak},${heads.keywords[0]},Exact,100,4,2.40,5.2`,
        `${day},${campaign},${hire},${heads.keywords[1]},Exact,100,9,4.50,1.4`,
      ]),
    ],
    'terms.csv': [
      'Day,Campaign,Ad group,Search term,Impressions,Clicks,Cost',
      ...['free kayak', 'kayak racks', 'used kayak', 'kayak film'].map(
        (term, at) => `${days[0]},${campaign},${kayak},${term},100,${9 - at},${9 - at}.00`,
      ),
    ],
  };
  await page.keyboard.press('r');
  for (const [name, lines] of Object.entries(reports)) {
    const buffer = Buffer.from(lines.join('\n'));
    await page.getByLabel('Reports to take in').setInputFiles({ name, mimeType: 'text/csv', buffer });
    await expect(page.getByRole('region', { name: `Report ${name}` })).toBeVisible();
  }
  await page.getByRole('button', { name: 'Take in 2 reports' }).click();
  await expect(page.getByRole('button', { name: /^Take back/ })).toHaveCount(2);

  await page.keyboard.press('d');
  await page.getByLabel('What bids follow from').selectOption('bands');
  const bids = page.getByRole('grid', { name: 'Bids: To change' });
  await expect(bids.getByRole('row')).toHaveCount(2);
  await expect(bids).toContainText('+20%');
  await page.getByRole('button', { name: /^Band 1 changes bids by percent/ }).click();
  await page.getByLabel('Band 1 changes bids by percent').fill('40');
  await page.getByLabel('Band 1 changes bids by percent').press('Enter');
  await expect(bids).toContainText('+40%');
  await page.getByRole('button', { name: 'Set all 1 …' }).click();
  await page.getByRole('dialog', { name: 'Set 1 bid' }).getByRole('button', { name: 'Set 1 bid' }).click();
  await expect(page.getByRole('button', { name: /^Just changed 1/ })).toBeVisible();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(bids).toContainText('+40%');

  // From the first term on: own ad group, block, leave, without a mouse.
  await page.keyboard.press('s');
  const terms = page.getByRole('grid', { name: 'Search terms' });
  await expect(terms.getByRole('row')).toHaveCount(5);
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('b');
  const block = page.getByRole('dialog', { name: 'Block “free kayak”' });
  await expect(block).toContainText('would have been kept out');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Judged 1 / })).toBeVisible();
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('o');
  await expect(page.getByRole('button', { name: /^Judged 2 / })).toBeVisible();
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('l');
  await expect(page.getByRole('button', { name: /^Judged 3 / })).toBeVisible();
  await expect(terms.getByRole('row')).toHaveCount(2);
  await expect(terms).toContainText('used kayak');
  for (const left of [2, 1, 0]) {
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('button', { name: new RegExp(`^Judged ${left} `) })).toBeVisible();
  }
});

test('ugly reports say what is wrong with them, and where', async ({ page, url }) => {
  await openPlan(page, url, { list: LIST, stage: 'learn' });
  await expect(page.getByRole('heading', { name: 'No report has come home yet' })).toBeVisible();
  await page.keyboard.press('r');
  const choose = (name: string, text: string) =>
    page
      .getByLabel('Reports to take in')
      .setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await choose('list.csv', 'Keyword,Searches\nkayak,5\n');
  await expect(page.getByRole('alert')).toContainText('list.csv is no report of results that can be read');

  await choose(
    'days.csv',
    'Date,Campaign,Clicks,Impressions\n03/04/2026,Elsewhere,5,2\n04/04/2026,Elsewhere,x,9\n',
  );
  const report = page.getByRole('region', { name: 'Report days.csv' });
  await expect(report).toContainText('Its days can be read in two ways');
  await expect(report.getByRole('button', { name: /^Take in/ })).toBeDisabled();
  await report.getByRole('button', { name: 'The day stands first' }).click();
  await expect(report).toContainText('3 Apr');
  await expect(report).toContainText('1 cell or lines not read');
  await expect(report).toContainText('1 row with more clicks than impressions');
  await expect(report).toContainText('2 rows not met in the plan');

  // A column is taken for something else, and the report is read again.
  await report.getByLabel('Column Impressions').selectOption('cost');
  await expect(report).toContainText('£11.00 cost');
  await report.getByRole('button', { name: 'Take in 2 rows' }).click();
  await expect(page.getByRole('button', { name: 'Take back days.csv' })).toBeVisible();

  // The same once more changes nothing, and is read as it was.
  await choose(
    'again.csv',
    'Date,Campaign,Clicks,Impressions\n03/04/2026,Elsewhere,5,2\n04/04/2026,Elsewhere,x,9\n',
  );
  const again = page.getByRole('region', { name: 'Report again.csv' });
  await expect(again).toContainText('nothing changes');
  await expect(again).toContainText('Read as the last report with these headings was');
  await again.getByRole('button', { name: /^Take in/ }).click();
  await expect(page.getByText('All of it was told so already')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Take back/ })).toHaveCount(1);
  await page.getByRole('button', { name: 'Take back days.csv' }).click();
  await expect(page.getByRole('button', { name: /^Take back/ })).toHaveCount(0);

  // Rows of two accounts are read once for each, and stand side by side.
  await choose(
    'two.csv',
    'Date,Account,Campaign,Clicks,Cost\n2026-04-03,North,Elsewhere,5,£2.00\n2026-04-03,South,Elsewhere,7,€3.00\n',
  );
  await expect(page.getByRole('region', { name: /^Report two.csv, rows of (North|South)$/ })).toHaveCount(2);
  await page.getByRole('button', { name: 'Take in 2 reports' }).click();
  await page.getByRole('button', { name: '2 accounts side by side' }).click();
  const accounts = page.getByRole('grid', { name: 'Accounts' });
  await expect(accounts.getByRole('row', { name: /North/ })).toContainText('£2.00');
  await expect(accounts.getByRole('row', { name: /South/ })).toContainText('€3.00');
  await page.reload();
  await expect(accounts.getByRole('row')).toHaveCount(3);
});
