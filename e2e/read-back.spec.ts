import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import { expect, test } from './server.ts';
import { go, graveProblems, makePlan, pressToShip } from './steps.ts';

const outlet = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
const receipt = (page: Page) => page.getByRole('region', { name: 'Receipt', exact: true });
const differences = (page: Page) => page.getByRole('region', { name: 'Differences' });
const picker = (page: Page) => page.getByLabel('Sheets to read back');
const yieldOf = (page: Page, name: string) => page.locator(`[data-yield=${name}]`);
const asFile = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

/** An account as somebody else's tool exports it: semicolons, decimal commas, headings of its own, one sheet. */
const EXPORT = [
  'Campaign name;AdGroup;Keyword text;Match;Max. CPC;Budget;Locations;Language;Title 1;Title 2;Description;Landing page;State;Notes',
  'Boats;;;;;25,00;Eastmere (region);English;;;;;active;',
  'Boats;Kayaks;;;0,60;;;;;;;;active;',
  'Boats;Kayaks;sea kayak;Exact;0,91;;;;;;;;active;best one',
  'Boats;Kayaks;kayak hire;Phrase;0,60;;;;;;;;paused;',
  'Boats;Kayaks;kayak hire;Sideways;0,60;;;;;;;;active;',
  'Boats;Kayaks;used;Negative broad;;;;;;;;;active;',
  'Boats;Kayaks;;;;;;;Sea Kayaks Today;Saltmarsh Paddle Co.;By the hour or the day.;https://saltmarshpaddle.example/kayaks;active;',
  'Boats;Canoes;;;0,50;;;;;;;;active;',
  'Boats;Canoes;canoe;Phrase;0,50;;;;;;;;active;',
  'Boats;Canoes;;;;;;;Canoes for Two;Saltmarsh Paddle Co.;By the hour or the day.;https://saltmarshpaddle.example/canoes;active;',
].join('\n');

async function openReadBack(page: Page) {
  await go(page, 'Ship');
  await expect(page.getByRole('region', { name: 'Outlets', exact: true })).toBeVisible();
  await page.keyboard.press('r');
  await expect(page.getByRole('region', { name: 'Read back' })).toBeVisible();
}

async function takeIn(page: Page, words: RegExp) {
  await page.getByRole('button', { name: /^Take in \d+ difference/ }).click();
  await expect(page.getByRole('status').filter({ hasText: words })).toBeVisible();
}

/** Ships all rows to an outlet, has its simulated engine take them, and answers its only sheet. */
async function shipAndTake(page: Page, name: string): Promise<string> {
  await page.keyboard.press('s');
  await page.getByRole('button', { name: 'Ship to another outlet' }).click();
  await page.getByRole('menuitem', { name }).click();
  await pressToShip(outlet(page, name).getByRole('button', { name: /^Ship \d/ }));
  await expect(receipt(page).getByRole('heading', { name: `${name} 1` })).toBeVisible();
  await receipt(page)
    .getByRole('button', { name: `Hand in to the simulated ${name}` })
    .click();
  await expect(receipt(page)).toHaveAttribute('data-state', 'accepted');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    receipt(page).getByRole('link', { name: /\.csv/ }).first().click(),
  ]);
  return readFile(await file.path(), 'utf8');
}

test('an account is read in by its columns, edited outside, merged, and moved to another outlet', async ({
  page,
  url,
}) => {
  await makePlan(page, url, { name: 'Moved' });
  await openReadBack(page);
  await picker(page).setInputFiles(asFile('account.csv', EXPORT));

  // What each column was taken for, and the row that can't be read.
  await expect(page.getByLabel('Column AdGroup')).toHaveValue('group');
  await expect(page.getByLabel('Column Notes')).toHaveValue('');
  await expect(page.getByRole('list', { name: 'Rows that were not read' })).toContainText(
    'account.csv, line 6: “Sideways” under “Match” is no match type',
  );
  // A column may be something else.
  await page.getByLabel('Column Notes').selectOption('labels');
  await expect(page.getByLabel('Column Notes')).toHaveValue('labels');
  await expect(differences(page)).toContainText('Labels best one');
  expect(await graveProblems(page)).toEqual([]);
  await takeIn(page, /Took in 3 keyword rows, 2 ads, 1 negative/);
  await expect(yieldOf(page, 'groups')).toContainText('2 ad groups');
  await expect(yieldOf(page, 'campaigns')).toContainText('1 campaign');
  await page.getByRole('link', { name: 'Look at it in Build' }).click();
  await expect(yieldOf(page, 'rows')).toContainText('3 keyword rows');

  // It ships; the sheet comes back edited: one row is left as it is, the others are taken.
  await go(page, 'Ship');
  const sheet = await shipAndTake(page, 'Fennelwick');
  expect(sheet).toContain('Sea Kayaks Today');
  const edited = sheet
    .replace(/(sea kayak,Exact,)0\.91/, '$11.25')
    .replace(/(canoe,Phrase,)0\.50/, '$10.75')
    .replace('Canoes for Two', 'Canoes for Three');
  await page.keyboard.press('r');
  await picker(page).setInputFiles(asFile('fennelwick.csv', edited));
  await expect(page.getByLabel('Read as sheets of')).toHaveValue('fennelwick');
  const rows = differences(page).getByRole('listitem');
  await expect(rows).toHaveCount(3);
  await expect(rows.filter({ hasText: 'sea kayak (exact)' })).toContainText('Bid 0.91 → 1.25');
  await expect(rows.filter({ hasText: 'Canoes for Two' })).toContainText('Headline 1');
  await differences(page).getByLabel('Take keyword canoe (phrase)').uncheck();
  await expect(differences(page).getByRole('status')).toContainText('1 left out');
  await takeIn(page, /Took in 2 values/);

  // Compared again, only what was left differs; one step takes the rest back.
  await picker(page).setInputFiles(asFile('fennelwick.csv', edited));
  await expect(rows).toHaveCount(1);
  await expect(rows).toContainText('canoe (phrase)');
  await page.keyboard.press('Control+z');
  await expect(page.getByText('The plan has changed since.')).toBeVisible();
  await page.getByRole('button', { name: 'Compare again' }).click();
  await expect(rows).toHaveCount(3);
  await page.getByRole('button', { name: 'Leave them' }).click();
  await expect(page.getByRole('heading', { name: 'Read sheets back into this plan' })).toBeVisible();

  // Another plan takes the sheet of the one outlet, and ships to the other one.
  await makePlan(page, url, { name: 'At another outlet' });
  await openReadBack(page);
  await picker(page).setInputFiles(asFile('fennelwick.csv', edited));
  await expect(page.getByLabel('Read as sheets of')).toHaveValue('fennelwick');
  await takeIn(page, /Took in 3 keyword rows, 2 ads/);
  await expect(yieldOf(page, 'groups')).toContainText('2 ad groups');
  const moved = await shipAndTake(page, 'Harrowlight');
  expect(moved).toContain('Boats');
  await page.keyboard.press('a');
  await page.getByLabel('Outlet whose account is shown').selectOption('harrowlight');
  await expect(page.getByRole('table', { name: 'Campaigns of the account' })).toContainText('Boats');
});

test('bad sheets are told: nothing changes', async ({ page, url }) => {
  await makePlan(page, url, { name: 'Untouched' });
  await openReadBack(page);
  const alert = page.getByRole('region', { name: 'Read back' }).getByRole('alert');
  await picker(page).setInputFiles(asFile('empty.csv', ''));
  await expect(alert).toContainText('empty');
  await picker(page).setInputFiles(asFile('list.csv', 'Keyword,Max CPC\nkayak,0.40\n'));
  await expect(alert).toContainText('has no column “Campaign”');
  await picker(page).setInputFiles({
    name: 'a.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('PK\u0003\u0004 no archive'),
  });
  await expect(alert).toContainText('no archive that can be read');
  await go(page, 'Gather');
  await expect(page.getByRole('heading', { name: 'The pool is empty' })).toBeVisible();
});

test('an archive with a long sheet is read in the browser', async ({ page, url }) => {
  await makePlan(page, url, { name: 'Long' });
  await openReadBack(page);
  const rows = Array.from({ length: 20_000 }, (_, at) => `Teeth,Crowns,crown ${at} of ${at * 7919},Exact`);
  const csv = `Campaign,Ad group,Keyword,Match type\n${rows.join('\n')}\n`;
  expect(csv.length).toBeGreaterThan(600_000);
  const buffer = Buffer.from(zipSync({ 'account/keywords.csv': strToU8(csv) }));
  await picker(page).setInputFiles({ name: 'account.zip', mimeType: 'application/zip', buffer });
  await expect(page.getByRole('button', { name: 'Take in 20,000 differences' })).toBeVisible({
    timeout: 60_000,
  });
});
