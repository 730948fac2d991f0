import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { chromium, type Page } from '@playwright/test';
import config from '../playwright.config.ts';
import { forBrowser, signInDemo } from './setup/sign-in.mjs';

/** The main views, each as one picture at the design's size. */
const url = process.argv[2] ?? '';
const folder = fileURLToPath(new URL('../docs/screenshots', import.meta.url));
const browser = await chromium.launch(config.use?.launchOptions);
const context = await browser.newContext({
  viewport: { width: 1280, height: 800 },
  colorScheme: 'light',
  permissions: ['clipboard-read', 'clipboard-write'],
});
await context.addCookies([forBrowser(await signInDemo(url), url)]);
const page = await context.newPage();

async function picture(name: string) {
  await page.waitForLoadState('networkidle');
  await page.waitForTimeout(600);
  await page.screenshot({ path: `${folder}/${name}.png` });
  console.log(`docs/screenshots/${name}.png`);
}

const go = (to: Page, stage: string) =>
  to.getByRole('navigation', { name: 'Trail' }).getByText(stage, { exact: true }).click();
const yieldOf = (name: string) => page.locator(`[data-yield=${name}]`);

await page.goto(`${url}/plans/1/gather`);
await yieldOf('groups').filter({ hasText: /[1-9]/ }).waitFor({ timeout: 60_000 });
await picture('gather');
await page.getByRole('button', { name: 'Ideas' }).click();
await page.getByRole('grid', { name: 'Ideas' }).getByRole('row').nth(3).waitFor();
await page.getByRole('toolbar', { name: 'Classes of gaps' }).getByRole('button').nth(2).click();
await picture('ideas');
await go(page, 'Mix');
const toldAll = yieldOf('searches')
  .filter({ hasNotText: 'looked at' })
  .filter({ hasText: 'searches a month' });
await page.getByRole('gridcell', { name: /^inflatable, kayak: [≈1-9]/ }).waitFor();
await toldAll.waitFor();
await page.getByRole('gridcell', { name: /^folding, dry bag/ }).click();
await page.getByRole('button', { name: /^Cut \d+ combinations with roof rack/ }).click();
await page.getByRole('gridcell', { name: /^carbon, roof rack: cut/ }).waitFor();
await quiet();
await picture('mix');
await page.goto(`${url}/plans/1/brief`);
await page.getByRole('button', { name: /^Places/ }).waitFor();
await picture('brief');

await go(page, 'Sort');
await page.getByRole('listbox', { name: 'Suggested themes' }).waitFor();
await page.getByRole('button', { name: 'Kayaks', exact: false }).first().waitFor();
await quiet();
await picture('sort');
await page.getByRole('button', { name: 'Stages', exact: true }).click();
await page.getByRole('table', { name: 'Themes by funnel stage' }).waitFor();
await page.getByRole('button', { name: 'Map', exact: true }).click();

await go(page, 'Prune');
await page.getByText(/with paddle, most searched first/).waitFor();
for (const text of ['paddle', 'kayak', 'board', 'kayaks', 'canoe']) {
  await page.getByText(`with ${text}, most searched first`).waitFor();
  await page.keyboard.press('ArrowLeft');
}
await page.getByRole('button', { name: 'Two-word runs' }).click();
await page.getByRole('button', { name: 'Single words' }).click();
const middle = page.getByRole('region', { name: 'Undecided' }).locator('p.font-semibold').first();
for (const text of ['meaning', 'jobs', 'film']) {
  while ((await middle.textContent()) !== text) await page.keyboard.press('ArrowDown');
  await page.getByText(`with ${text}, most searched first`).waitFor();
  await page.keyboard.press('ArrowRight');
  await page.getByRole('region', { name: 'Blocked' }).getByText(text, { exact: true }).waitFor();
}
for (let steps = 0; steps < 120; steps++) await page.keyboard.press('ArrowUp');
await quiet();
await picture('prune-words');
await page.getByRole('button', { name: /^Look-alikes/ }).click();
await page.getByRole('listitem').first().waitFor();

await go(page, 'Build');
await page.getByRole('slider', { name: 'Aim all bids at a position' }).waitFor();
await page.getByText('Building …').waitFor({ state: 'detached' });
await picture('build');
const build = page.getByRole('region', { name: 'Build', exact: true });
await build.getByRole('button', { name: 'Rules' }).click();
await page
  .getByRole('region', { name: 'Forecast' })
  .getByText(/^About/)
  .waitFor();
await build.getByRole('button', { name: /^Fences/ }).click();
await page.getByText(/can be answered by their own ad group only/).waitFor();
await page.getByText('searches that stay with').waitFor();
await picture('build-fences');
await go(page, 'Write');
await yieldOf('misfits').filter({ hasText: 'do not fit' }).waitFor();
await picture('write');
await page.getByRole('button', { name: 'Lines', exact: true }).click();
await page.getByRole('button', { name: /^Try it first/ }).click();

// What stands in the way is settled: the two keywords that are too long, and the negatives against own keywords.
await go(page, 'Prune');
await page.getByRole('button', { name: /^Too long/ }).click();
await page.getByRole('button', { name: /^Cut \d/ }).click();
await page
  .getByText(/^Cut \d+ keyword/)
  .first()
  .waitFor();
await page.getByRole('button', { name: /^Negatives/ }).click();
const settle = page.getByRole('button', { name: 'Block them' });
for (let left = await settle.count(); left > 0; left = await settle.count()) {
  await settle.first().click();
  await page.waitForTimeout(1_500);
}
await go(page, 'Write');
await page.getByRole('button', { name: 'Add a line to Headline 3' }).click();
await page.getByLabel('Headline 3, line 3').fill('Free delivery in Eastmere');
await page.getByLabel('Headline 3, line 3').press('Enter');
await go(page, 'Ship');
for (const name of ['Fennelwick', 'Harrowlight']) {
  await page.getByRole('button', { name: 'Ship to another outlet' }).click();
  await page.getByRole('menuitem', { name }).click();
  await page.getByRole('region', { name, exact: true }).waitFor();
}
await page.getByRole('button', { name: 'Ship to Plain sheets no more' }).click();
await looked();
for (const label of [/^The terms are agreed/, /^A phone number is confirmed/]) {
  await page.getByLabel(label).check();
  await looked();
}
// Too many words for one of them, too long an ad for the other: what does not fit there is mended.
for (let left = 1; left > 0; ) {
  const mend = page.locator('li[data-rule^=keyword-too]').getByRole('button', { name: 'Mend …' });
  left = await mend.count();
  if (left === 0) break;
  await mend.first().click();
  await page.getByRole('button', { name: /^Cut \d/ }).click();
  await looked();
}
const fennelwick = page.getByRole('region', { name: 'Fennelwick', exact: true });
const receipt = page.getByRole('region', { name: 'Receipt', exact: true });
await fennelwick.getByRole('button', { name: /^Ship \d/ }).click();
await receipt.getByRole('heading', { name: 'Fennelwick 1' }).waitFor({ timeout: 60_000 });
await receipt.getByRole('button', { name: /^Hand in/ }).click();
await receipt.and(page.locator('[data-state=accepted], [data-state=answered]')).waitFor({ timeout: 60_000 });
await looked();
await go(page, 'Write');
await page.getByLabel('Headline 2, line 1', { exact: true }).fill('Saltmarsh Paddle, Eastmere');
await page.getByLabel('Headline 2, line 1', { exact: true }).press('Enter');
await page.waitForTimeout(2_000);
await go(page, 'Ship');
await fennelwick.getByText('since the last receipt').waitFor({ timeout: 60_000 });
await looked();
await quiet();
await picture('ship');
await page.getByRole('button', { name: 'Every row' }).click();
await page.getByLabel('Outlet', { exact: true }).selectOption({ label: 'Fennelwick' });
await page.getByRole('button', { name: /^ads / }).click();
await page.getByLabel('How they stand').selectOption('added');
await page.getByRole('grid', { name: 'Rows for Fennelwick' }).getByRole('row').nth(3).waitFor();
await picture('ship-rows');
await page.getByRole('button', { name: 'Ship', exact: true }).click();
await fennelwick.waitFor();
await page.getByRole('link', { name: 'Client’s page' }).click();
await page.getByRole('heading', { name: 'What is excluded' }).waitFor();
await picture('client');
await page.goBack();
await looked();
// The sheet comes back as somebody has edited it: bids raised, keywords paused, an ad with other words, some new keywords.
await page.keyboard.press('s');
const [download] = await Promise.all([
  page.waitForEvent('download'),
  receipt.getByRole('link', { name: 'Download fennelwick.csv' }).click(),
]);
await page.keyboard.press('r');
await page.getByLabel('Sheets to read back').setInputFiles({
  name: 'fennelwick edited.csv',
  mimeType: 'text/csv',
  buffer: Buffer.from(edited(await readFile(await download.path(), 'utf8'))),
});
await page.getByRole('region', { name: 'Differences' }).getByRole('listitem').first().waitFor();
await quiet();
await page.emulateMedia({ colorScheme: 'dark' });
await picture('ship-read-back');
await page.emulateMedia({ colorScheme: 'light' });
// Six weeks pass, and their reports come home.
await page.keyboard.press('a');
await page.getByRole('button', { name: 'Run, and read its reports' }).click();
await page.getByRole('link', { name: 'Take its reports in' }).click({ timeout: 300_000 });
await page.getByRole('button', { name: 'Take in 4 reports' }).click();
await page
  .getByRole('button', { name: /^Take back/ })
  .nth(3)
  .waitFor({ timeout: 60_000 });
await page.keyboard.press('h');
await page.getByLabel('Tell apart by').selectOption('group');
await page.getByRole('button', { name: 'Cost against conversions' }).click();
await page
  .getByRole('figure', { name: /^conversions against cost/ })
  .locator('circle')
  .nth(20)
  .waitFor();
await quiet();
await picture('learn');
await page.keyboard.press('v');
await page.getByLabel('What is judged').selectOption('group');
const verdicts = page.getByRole('group', { name: 'Verdicts' });
await verdicts.getByRole('button', { name: /^Too low/ }).click();
await page
  .getByText(/of impressions lost to rank/)
  .first()
  .waitFor();
await picture('learn-verdicts');
await page.keyboard.press('s');
await page
  .getByRole('button', { name: /^Block / })
  .first()
  .waitFor();
await picture('learn-terms');
// The desk, with a note beside it by which an ad group was given to whoever looks.
await page.goto(`${url}/plans/1/build`);
await page
  .getByRole('button', { name: /^A note on ad group/ })
  .first()
  .click();
const notes = page.getByRole('complementary', { name: 'Notes', exact: true });
await notes.getByLabel(/^New note on/).fill('@Maren Oakhill say what hiring costs by the hour');
await notes.getByLabel('Given to: the new note').selectOption({ label: 'for Maren Oakhill' });
await notes
  .getByLabel('Due: the new note')
  .fill(new Date(Date.now() + 259_200_000).toISOString().slice(0, 10));
await notes.getByRole('button', { name: 'Note it' }).click();
await notes.getByRole('listitem').first().waitFor();
await page.goto(`${url}/plans/1/write?view=desk`);
await page.locator('[data-desk-ads] article').first().waitFor();
await page
  .getByRole('button', { name: /note on ad group/ })
  .first()
  .click();
await notes.getByRole('listitem').first().waitFor();
await picture('desk');
await notes.getByRole('button', { name: 'Close the notes' }).click();
await page.goto(`${url}/people`);
await page.getByRole('list', { name: 'Members' }).getByRole('listitem').nth(2).waitFor();
await picture('people');
await page.goto(`${url}/plans/1/brief`);
await page.getByRole('button', { name: /^Target cost per conversion/ }).click();
await page.keyboard.type('15');
await page.keyboard.press('Enter');
await page.goto(`${url}/plans/1/learn?view=bids`);
await page.getByRole('grid', { name: 'Bids: To change' }).getByRole('row').nth(8).waitFor();
await picture('learn-bids');
await browser.close();

/** Waits until the plan is built and looked through for every outlet. */
async function looked() {
  await page.waitForTimeout(500);
  await page.waitForFunction(
    () => !/Building|ooking through|Not looked/.test(document.body.textContent),
    undefined,
    { timeout: 60_000 },
  );
}

/** Waits until what was done is built and no message stands over the screen. */
async function quiet() {
  await page.locator('[data-sonner-toast]').first().waitFor({ state: 'detached', timeout: 20_000 });
  await page.waitForTimeout(1_500);
}

function edited(sheet: string): string {
  let keywords = 0;
  let ads = 0;
  return sheet
    .split('\r\n')
    .flatMap((line) => {
      if (line.startsWith('Ad,') && ads++ % 400 === 0)
        return [line.replace('Saltmarsh Paddle Co.', 'Saltmarsh Paddle')];
      if (!line.startsWith('Keyword,')) return [line];
      const at = keywords++;
      if (at % 300 === 7)
        return [line.replace(/,(\d+)\.(\d\d),/, (_, pounds, pence) => `,${Number(pounds) + 1}.${pence},`)];
      if (at % 900 === 11) return [line.replace(',Running,', ',Resting,')];
      if (at % 1_100 === 15) return [line, line.replace(/(,Running,,)([^,]+)/, '$1$2 this weekend')];
      return at % 1_500 === 20 ? [] : [line];
    })
    .join('\r\n');
}
