import { fileURLToPath } from 'node:url';
import { chromium, type Page } from '@playwright/test';
import { mixedList } from '../e2e/mixed-list.ts';
import config from '../playwright.config.ts';

/** The main views, each as one picture at the design's size. */
const url = process.argv[2] ?? '';
const folder = fileURLToPath(new URL('../docs/screenshots', import.meta.url));
const browser = await chromium.launch(config.use?.launchOptions);
const context = await browser.newContext({
  viewport: { width: 1280, height: 800 },
  colorScheme: 'light',
  permissions: ['clipboard-read', 'clipboard-write'],
});
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
await yieldOf('groups').filter({ hasText: '6,001' }).waitFor({ timeout: 60_000 });
await picture('gather');
await page.getByRole('button', { name: 'Paste a list' }).click();
await page.getByLabel('The list').fill(mixedList);
await page.getByRole('heading', { name: '9 lines with errors' }).waitFor();
await picture('take-in');
await page.getByRole('button', { name: 'Back to the pool' }).click();
await page.getByRole('button', { name: 'Ideas' }).click();
await page.getByLabel('Seed words or address').fill('kayak hire, canoe lessons');
await page.getByRole('grid', { name: 'Ideas' }).getByRole('row').nth(3).waitFor();
await picture('ideas');
await go(page, 'Mix');
const toldAll = yieldOf('searches').filter({ hasNotText: 'asked' }).filter({ hasText: 'searches a month' });
await page.getByRole('gridcell', { name: /^inflatable, kayak: [1-9]/ }).waitFor();
await toldAll.waitFor();
await page.getByRole('gridcell', { name: /^folding, dry bag/ }).click();
await page.getByRole('button', { name: /^Cut \d+ combinations with roof rack/ }).click();
await page.getByRole('gridcell', { name: /^carbon, roof rack: 0 searches, cut/ }).waitFor();
await quiet();
await picture('mix');
await page.getByRole('button', { name: /^List/ }).click();
await page.getByRole('grid', { name: 'Combinations' }).getByRole('row').nth(3).waitFor();
await page.getByRole('button', { name: /^Searches a month/ }).click();
await yieldOf('dropped').click();
await picture('mix-list');
await page.goto(`${url}/variants?types=broad,modified,phrase,exact&marks=content&form=columns&bid=400000`);
await page.evaluate(() =>
  navigator.clipboard.writeText(
    'kayak hire in wrenport\n"canoe hire"\n[sea kayak]\n-jobs\nkayak! hire\npaddle board lessons',
  ),
);
await page.getByLabel('Keywords, one to a line').click();
await page.keyboard.press('Control+v');
await page.getByRole('button', { name: /^Copy \d+ rows/ }).waitFor();
await picture('variants');
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
await picture('sort-stages');
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
await page.emulateMedia({ colorScheme: 'dark' });
await picture('prune-night');
await page.emulateMedia({ colorScheme: 'light' });
await page.getByRole('button', { name: /^Look-alikes/ }).click();
await page.getByRole('listitem').first().waitFor();
await picture('prune-look-alikes');
await page.getByRole('button', { name: /^Negatives/ }).click();
await page.getByRole('grid', { name: 'Negative keywords' }).getByText('sup meaning').first().waitFor();
await picture('prune-negatives');

await go(page, 'Build');
await page
  .getByRole('grid', { name: 'Ad groups' })
  .getByText('paddle board', { exact: true })
  .first()
  .waitFor();
await picture('build');
await go(page, 'Write');
await yieldOf('misfits').filter({ hasText: 'do not fit' }).waitFor();
await picture('write');
await go(page, 'Ship');
await page.getByRole('heading', { name: /before anything ships/ }).waitFor();
await picture('ship-blocked');

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
await page.getByRole('button', { name: 'Add a line to Headline 1' }).click();
await page.getByLabel('Headline 1, line 3').fill('Kayaks and boards to hire');
await page.getByLabel('Headline 1, line 3').press('Enter');
await go(page, 'Ship');
await page.getByRole('heading', { name: 'Ready to ship' }).waitFor({ timeout: 60_000 });
await page.getByRole('button', { name: /^Write \d/ }).click();
await page.getByRole('link', { name: 'Download combined.csv' }).waitFor({ timeout: 60_000 });
await page.getByText(/^Building/).waitFor({ state: 'detached' });
await quiet();
await picture('ship');
await browser.close();

/** Waits until what was done is built and no message stands over the screen. */
async function quiet() {
  await page.locator('[data-sonner-toast]').first().waitFor({ state: 'detached', timeout: 20_000 });
  await page.waitForTimeout(1_500);
}
