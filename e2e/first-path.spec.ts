import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { parse } from 'csv-parse/sync';
import { expectedRows, mixedList } from './mixed-list.ts';
import { expect, test } from './server.ts';
import { go, openPlan, pressToShip } from './steps.ts';

async function takeIn(page: Page, list: string) {
  await page.getByRole('button', { name: 'Paste a list' }).first().click();
  await page.getByLabel('The list').fill(list);
  await page.getByRole('button', { name: /^Take in \d/ }).click();
  await expect(page.getByRole('grid', { name: 'Pool' })).toBeVisible();
}

/** Build with its table of ad groups. */
async function goToGroups(page: Page) {
  await go(page, 'Build');
  await page.getByRole('button', { name: /^Ad groups \d/ }).click();
}
const line = (page: Page, label: string) => page.getByLabel(label, { exact: true });

async function write(page: Page, label: string, text: string) {
  await line(page, label).fill(text);
  await line(page, label).press('Enter');
}

async function sheet(page: Page, name: string): Promise<Record<string, string>[]> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: `Download ${name}` }).click(),
  ]);
  return parse(await readFile(await download.path()), { columns: true });
}

test('from a pasted list to a bulk sheet, row by row', async ({ page, url }) => {
  await openPlan(page, url);

  await page.getByRole('button', { name: 'Paste a list' }).first().click();
  await page.getByLabel('The list').fill(mixedList);
  await expect(page.getByText('9 lines with errors; the others go in all the same')).toBeVisible();
  await expect(page.getByText(/bracket at column 1 has no other/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Take in 25 keywords and 3 negatives' }).click();
  const pool = page.getByRole('grid', { name: 'Pool' });
  await expect(pool).toHaveAttribute('aria-rowcount', '26');
  await expect(page.getByText('10 lines to look at')).toBeVisible();
  await expect(pool.getByRole('row').filter({ hasText: 'roof rack' })).toContainText('about 3,162');
  await expect(pool.getByRole('row').filter({ hasText: 'buoyancy aid' })).toContainText('about 5');
  await expect(pool.getByRole('row').filter({ hasText: 'canoe hire' })).toContainText('–');

  await go(page, 'Build');
  await page.getByRole('button', { name: 'Rules' }).click();
  for (const stage of ['early', 'comparing', 'ready to buy']) {
    await page.getByRole('button', { name: new RegExp(`^Step for ${stage}:`) }).click();
    await write(page, `Step for ${stage}`, '100');
    await expect(page.getByRole('button', { name: `Step for ${stage}: 100`, exact: true })).toBeVisible();
  }
  await page.getByRole('button', { name: /^Ad groups \d/ }).click();
  const groups = page.getByRole('grid', { name: 'Ad groups' });
  await expect(groups).toHaveAttribute('aria-rowcount', '26');
  const rows = expectedRows.flatMap(([, , list]) => list);
  await expect(page.locator('[data-yield=rows]')).toContainText(`${rows.length} keyword rows`);
  await expect(page.locator('[data-yield=bids]')).toContainText('£0.05 to £5.00');

  await go(page, 'Write');
  await write(page, 'Headline 2, line 1', 'Saltmarsh "Paddle" Co.');
  await write(page, 'Description 1, line 1', 'Find your @keyword, try it on the water, then decide.');
  await write(page, 'Path 1, line 1', '@keyword');
  await page.getByRole('button', { name: 'Final URLs', exact: true }).click();
  await page.getByRole('button', { name: /^Path of final URLs/ }).click();
  await write(page, 'Path of final URLs', '/find/@keyword');
  await expect(page.getByText('25 different addresses')).toBeVisible();
  await page.getByRole('button', { name: 'Lines', exact: true }).click();
  const misfits = page.locator('[data-yield=misfits]');
  await expect(misfits).toContainText('3 do not fit');
  await page.getByRole('button', { name: 'Add a line to Path 1' }).click();
  await write(page, 'Path 1, line 2', 'paddle');
  await expect(misfits).toContainText('1 does not fit');
  await expect(page.getByText('7 too long').first()).toBeVisible();

  await go(page, 'Ship');
  await expect(page.getByRole('heading', { name: '1 blocker before anything ships' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Ship \d/ })).toBeDisabled();
  await page.getByRole('link', { name: 'Add a shorter line in Write' }).click();
  await expect(page.getByRole('article', { name: /inflatable two person/ })).toHaveAttribute(
    'data-misfit',
    'true',
  );
  await page.getByRole('button', { name: 'Add a line to Headline 1' }).click();
  await write(page, 'Headline 1, line 2', 'Kayaks and canoes');
  await expect(misfits).toContainText('0 do not fit');

  await go(page, 'Ship');
  await expect(page.getByRole('heading', { name: 'Ready to ship' })).toBeVisible();
  await page.getByLabel('All in one sheet').check();
  await pressToShip(page.getByRole('button', { name: /^Ship \d/ }));
  await expect(page.getByRole('link', { name: 'Download combined.csv' })).toBeVisible();

  expect(await sheet(page, 'campaigns.csv')).toEqual([
    {
      Campaign: 'Saltmarsh',
      'Daily budget': '20.00',
      Networks: 'Search',
      Locations: '',
      'Excluded locations': '',
      'Shown to': 'People in',
      Languages: '',
      Schedule: '',
      'Device bid adjustments': '',
      Delivery: 'Even',
      'Bid strategy': 'Bids by hand',
      'Target cost per conversion': '',
      'Target return': '',
      'Counted conversions': '',
      Start: '',
      End: '',
      'Ad rotation': 'Best ads more often',
      'Excluded sites': '',
      Goal: '',
      'Kind of site': '',
      Audience: '',
      Labels: '',
      Status: 'Enabled',
    },
  ]);
  expect(await sheet(page, 'ad-groups.csv')).toEqual(
    expectedRows.map(([keyword, base]) => ({
      Campaign: 'Saltmarsh',
      'Ad group': keyword,
      'Max CPC': base,
      'Ad rotation': '',
      Labels: '',
      Status: 'Enabled',
    })),
  );
  expect(await sheet(page, 'keywords.csv')).toEqual(
    expectedRows.flatMap(([group, , list]) =>
      list.map(([type, text, bid]) => ({
        Campaign: 'Saltmarsh',
        'Ad group': group,
        Keyword: text,
        'Match type': type,
        'Max CPC': bid,
        'Final URL': '',
        Labels: '',
        Status: 'Enabled',
      })),
    ),
  );
  expect(await sheet(page, 'negative-keywords.csv')).toEqual([
    { Campaign: 'Saltmarsh', 'Ad group': '', Keyword: 'free', 'Match type': 'Broad', Status: 'Enabled' },
    {
      Campaign: 'Saltmarsh',
      'Ad group': '',
      Keyword: 'kayak jobs',
      'Match type': 'Phrase',
      Status: 'Enabled',
    },
    {
      Campaign: 'Saltmarsh',
      'Ad group': '',
      Keyword: 'sup meaning',
      'Match type': 'Exact',
      Status: 'Enabled',
    },
  ]);
  const ads = await sheet(page, 'ads.csv');
  expect(ads).toHaveLength(25);
  expect(ads[12]).toEqual({
    Campaign: 'Saltmarsh',
    'Ad group': 'sit-on-top kayak',
    'Ad form': 'Plain',
    'Headline 1': 'Sit-On-Top Kayak',
    'Headline 2': 'Saltmarsh "Paddle" Co.',
    ...Object.fromEntries(Array.from({ length: 10 }, (_, at) => [`Headline ${at + 3}`, ''])),
    'Description 1': 'Find your sit-on-top kayak, try it on the water, then decide.',
    'Description 2': '',
    'Description 3': '',
    'Description 4': '',
    'Path 1': 'sit-on-top-kayak',
    'Path 2': '',
    'Kept in place': '',
    'Final URL': 'https://saltmarshpaddle.example/find/sit-on-top-kayak',
    'Mobile URL': '',
    Labels: '',
    Status: 'Enabled',
  });
  expect(ads[16]).toMatchObject({ 'Headline 1': 'Kayaks and Canoes', 'Path 1': 'paddle' });
  expect(ads[17]).toMatchObject({
    'Headline 1': 'Café Canoe',
    'Final URL': 'https://saltmarshpaddle.example/find/caf%C3%A9-canoe',
  });
  expect(await sheet(page, 'combined.csv')).toHaveLength(1 + 3 + 25 + rows.length + 25);

  await page.getByRole('button', { name: 'Copy keywords.csv' }).click();
  await expect(page.getByText(`Copied ${rows.length} rows with headings.`)).toBeVisible();
  const [plain, html] = await page.evaluate(async () => {
    const [item] = await navigator.clipboard.read();
    const text = async (type: string) => (await item!.getType(type)).text();
    return [await text('text/plain'), await text('text/html')];
  });
  expect(plain.split('\n')[6]).toBe('Saltmarsh\tsea kayak\tsea kayak\tExact\t0.78\t\t\tEnabled');
  expect(html).toContain('mso-number-format');
});

test('what is set by hand stays through reload, new keywords and a rebuild, and undo goes back over reloads', async ({
  page,
  url,
}) => {
  await openPlan(page, url, { list: 'kayak\t100\t0.50\ncanoe\t50\t0.40\n' });
  await goToGroups(page);
  const row = (text: string) =>
    page.getByRole('grid', { name: 'Ad groups' }).getByRole('row').filter({ hasText: text });
  await row('canoe').getByRole('button', { name: 'Edit exact bid of canoe' }).click();
  await page.getByLabel('exact bid of canoe').fill('nothing');
  await page.getByLabel('exact bid of canoe').press('Enter');
  await expect(page.getByRole('alert')).toContainText('is no amount');
  await page.getByLabel('exact bid of canoe').fill('£0,95');
  await page.getByLabel('exact bid of canoe').press('Enter');
  await expect(row('canoe')).toContainText('£0.95');
  await row('kayak').getByRole('button', { name: 'Edit name of kayak' }).click();
  await page.getByLabel('name of kayak').fill('Our kayaks');
  await page.getByLabel('name of kayak').press('Enter');
  await expect(
    row('Our kayaks').getByRole('button', { name: /Held by hand; the rule says “kayak”/ }),
  ).toBeVisible();

  await go(page, 'Gather');
  await takeIn(page, 'raft\n');
  await page.reload();
  await goToGroups(page);
  await expect(page.getByRole('grid', { name: 'Ad groups' })).toHaveAttribute('aria-rowcount', '4');
  await expect(row('canoe')).toContainText('£0.95');
  await expect(row('canoe').getByRole('button', { name: /Held by hand; the rule says £0.50/ })).toBeVisible();

  await page.keyboard.press('Control+z');
  await expect(page.getByRole('grid', { name: 'Ad groups' })).toHaveAttribute('aria-rowcount', '3');
  await page.reload();
  await expect(row('Our kayaks')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(row('Our kayaks')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(row('canoe')).toContainText('£0.50');
  await page.keyboard.press('Control+Shift+z');
  await expect(row('canoe')).toContainText('£0.95');
  await row('canoe')
    .getByRole('button', { name: /Held by hand/ })
    .click();
  await expect(row('canoe')).toContainText('£0.50');
});

test('by keyboard alone: paste, cut, put back, edit, jump', async ({ page, url }) => {
  await openPlan(page, url);
  await page.evaluate(() => navigator.clipboard.writeText('kayak\t100\ncanoe\t50\nsup\t70\nfree kayak\t10'));
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('button', { name: 'Take in 4 keywords' })).toBeVisible();
  await page.getByRole('button', { name: 'Take in 4 keywords' }).press('Enter');
  const pool = page.getByRole('grid', { name: 'Pool' });
  await expect(pool).toHaveAttribute('aria-rowcount', '5');
  await page.keyboard.press('/');
  await page.keyboard.type('free');
  await expect(pool).toHaveAttribute('aria-rowcount', '2');
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('c');
  await expect(page.getByText('Cut 1 keyword. Ctrl+Z takes it back.')).toBeVisible();
  await expect(page.getByText('No keyword is left by this filter')).toBeVisible();
  await page.getByRole('button', { name: 'Show all keywords' }).press('Enter');
  await expect(pool).toHaveAttribute('aria-rowcount', '4');
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('j');
  await page.keyboard.press('F2');
  await page.keyboard.type('paddle board');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo: Change/ })).toBeVisible();
  await expect(pool.getByRole('row').filter({ hasText: 'paddle board' })).toBeVisible();
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  await expect(page.getByText('Copied 3 rows with headings.')).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('paddle board\t\t70');
  await page.keyboard.press('g');
  await page.keyboard.press('6');
  await expect(page.getByRole('region', { name: 'Build', exact: true })).toBeVisible();
  await page.keyboard.press('a');
  await expect(page.getByRole('grid', { name: 'Ad groups' })).toHaveAttribute('aria-rowcount', '4');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('Ship');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/ship$/);
});

test('a long paste is shown by its beginning, understood whole, and can be started over', async ({
  page,
  url,
}) => {
  await openPlan(page, url);
  const list = Array.from({ length: 2_000 }, (_, at) => `kayak ${at + 1}\t${at}`).join('\n');
  await page.evaluate((text) => navigator.clipboard.writeText(text), list);
  await page.keyboard.press('Control+v');
  await expect(page.getByText('2,000 lines pasted; the first 300 of them')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take in 2,000 keywords' })).toBeVisible();
  await page.getByRole('button', { name: 'Start over' }).click();
  await page.getByLabel('The list').fill('canoe');
  await expect(page.getByRole('button', { name: 'Take in 1 keyword' })).toBeVisible();
  await page.evaluate((text) => navigator.clipboard.writeText(text), list);
  await page.getByLabel('The list').press('Control+v');
  await expect(page.getByText('2,001 lines pasted; the first 300 of them')).toBeVisible();
  await page.getByRole('button', { name: 'Take in 2,001 keywords' }).click();
  await expect(page.getByRole('grid', { name: 'Pool' })).toHaveAttribute('aria-rowcount', '2002');
});

test('files: semicolons, UTF-16, and what is no list', async ({ page, url }) => {
  await openPlan(page, url);
  const bring = (name: string, buffer: Buffer) =>
    page.locator('input[type=file]').setInputFiles({ name, mimeType: 'text/csv', buffer });
  await bring('picture.csv', Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13, 0x49, 0x48]));
  await expect(page.getByRole('alert')).toContainText('This is no text');
  await page.getByRole('button', { name: 'Back to the pool' }).click();
  await bring('empty.csv', Buffer.from(''));
  await expect(page.getByRole('alert')).toContainText('This file is empty');
  await page.getByRole('button', { name: 'Back to the pool' }).click();
  const utf16 = Buffer.from('\ufeffMy report\nKeyword;Searches;CPC\nkayak;1.300;0,58\n', 'utf16le');
  await bring('report.csv', utf16);
  await expect(page.getByText('by the headings in line 2')).toBeVisible();
  await page.getByRole('button', { name: 'Take in 1 keyword' }).click();
  const row = page.getByRole('grid', { name: 'Pool' }).getByRole('row').filter({ hasText: 'kayak' });
  await expect(row).toContainText('1,300');
  await expect(row).toContainText('£0.58');
});
