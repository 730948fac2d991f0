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
await go(page, 'Build');
await page
  .getByRole('grid', { name: 'Ad groups' })
  .getByText('paddle board', { exact: true })
  .first()
  .waitFor();
await picture('build');
await go(page, 'Write');
await yieldOf('misfits').filter({ hasText: '1,738' }).waitFor();
await picture('write');
await go(page, 'Ship');
await page.getByRole('heading', { name: '1 blocker before anything ships' }).waitFor();
await picture('ship-blocked');
await go(page, 'Write');
await page.getByRole('button', { name: 'Add a line to Headline 1' }).click();
await page.getByLabel('Headline 1, line 3').fill('Kayaks and boards to hire');
await page.getByLabel('Headline 1, line 3').press('Enter');
await go(page, 'Ship');
await page.getByRole('heading', { name: 'Ready to ship' }).waitFor({ timeout: 60_000 });
await page.getByRole('button', { name: /^Write \d/ }).click();
await page.getByRole('link', { name: 'Download combined.csv' }).waitFor({ timeout: 60_000 });
await page.getByText(/^Building/).waitFor({ state: 'detached' });
await picture('ship');
await page.emulateMedia({ colorScheme: 'dark' });
await go(page, 'Write');
await yieldOf('misfits').filter({ hasText: '0 do not fit' }).waitFor();
await picture('write-night');
await browser.close();
