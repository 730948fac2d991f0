import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { parse } from 'csv-parse/sync';
import { expect, test } from './server.ts';
import { go, graveProblems, openPlan, pressToShip } from './steps.ts';

const LIST = 'sea kayak\t900\t0.60\nkayak hire\t400\t0.50\ncanoe\t300\t0.40\npaddle board\t200\t0.30\n';

const outlet = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
const findings = (page: Page) => page.getByRole('region', { name: 'Findings' });
const receipt = (page: Page) => page.getByRole('region', { name: 'Receipt', exact: true });
const difference = (page: Page, name: string) =>
  outlet(page, name).getByRole('group', { name: 'Difference' });

async function write(page: Page, label: string, text: string) {
  await page.getByLabel(label, { exact: true }).fill(text);
  await page.getByLabel(label, { exact: true }).press('Enter');
}

async function openWritten(page: Page, url: string) {
  await openPlan(page, url, { list: LIST, stage: 'write' });
  await write(page, 'Headline 1, line 1', '@keyword');
  await write(page, 'Headline 2, line 1', 'Saltmarsh Paddle Co.');
  await write(page, 'Description 1, line 1', 'By the hour, the day or the week.');
}

async function shipTo(page: Page, name: string) {
  await page.getByRole('button', { name: 'Ship to another outlet' }).click();
  await page.getByRole('menuitem', { name }).click();
  await expect(outlet(page, name)).toBeVisible();
}

/** Everything is looked through for every outlet. */
const ready = (page: Page) => expect(page.getByText('Not looked through yet.')).toHaveCount(0);

async function handIn(page: Page, name: string) {
  await receipt(page)
    .getByRole('button', { name: `Hand in to the simulated ${name}` })
    .click();
}

test('three outlets: shipped, refused, mended, and only what changed shipped again', async ({
  page,
  url,
}) => {
  await openWritten(page, url);
  await go(page, 'Ship');
  for (const name of ['Fennelwick', 'Harrowlight', 'Quillmere']) await shipTo(page, name);
  await page.getByRole('button', { name: 'Ship to Plain sheets no more' }).click();
  await ready(page);

  // Quillmere takes no sheet before it is funded; what has to be in place is ticked in its column.
  await expect(findings(page).getByText(/has to be in place before the outlet takes sheets/)).toBeVisible();
  await expect(outlet(page, 'Quillmere').getByRole('button', { name: /^Ship \d/ })).toBeDisabled();
  await page.getByLabel(/The account is funded/).check();
  await ready(page);
  await expect(findings(page).getByText(/has to be in place before the outlet takes sheets/)).toHaveCount(0);
  await expect(findings(page).getByText(/without a location: it would be shown worldwide/)).toBeVisible();

  // What is lost on the way is said before.
  await outlet(page, 'Harrowlight').getByText('What it can’t carry of the plan').click();
  await expect(outlet(page, 'Harrowlight')).toContainText('whose own bid is lost: the ad group bids');

  // Each takes its sheets, and refuses a campaign that would be shown everywhere, with all that is in it.
  for (const name of ['Fennelwick', 'Harrowlight', 'Quillmere']) {
    await pressToShip(outlet(page, name).getByRole('button', { name: /^Ship \d/ }));
    await expect(receipt(page).getByRole('heading', { name: `${name} 1` })).toBeVisible();
    await handIn(page, name);
    await expect(receipt(page).getByRole('table', { name: 'Refused rows' })).toContainText('no place');
  }
  await ready(page);
  // An ad that was refused says so in Write.
  await expect(difference(page, 'Fennelwick')).toContainText(/[1-9]\d* new/);

  // It is mended in the brief and by a sure fix, shown before and after.
  await go(page, 'Brief');
  await page.getByRole('button', { name: /^Locations:/ }).click();
  await page.getByLabel('Locations', { exact: true }).fill('Eastmere, region');
  await page.getByLabel('Locations', { exact: true }).press('Control+Enter');
  await expect(page.getByRole('button', { name: /^Locations: Eastmere/ })).toBeVisible();
  await go(page, 'Ship');
  await ready(page);
  const language = findings(page).getByRole('listitem').filter({ hasText: 'without a language' });
  // By key: the line may move once more when the last outlet has been looked through.
  await language.getByRole('button', { name: 'Mend …' }).press('Enter');
  await expect(language.getByRole('table', { name: 'Before and after' })).toContainText('English');
  await language.getByRole('button', { name: 'Set the language to English' }).click();
  await expect(language).toHaveCount(0);
  await ready(page);
  for (const name of ['Fennelwick', 'Harrowlight', 'Quillmere']) {
    await ready(page);
    await pressToShip(outlet(page, name).getByRole('button', { name: /^Ship \d+ change/ }));
    await expect(receipt(page).getByRole('heading', { name: `${name} 2` })).toBeVisible();
    await handIn(page, name);
    await expect(receipt(page)).toHaveAttribute('data-state', 'accepted');
    await expect(receipt(page).getByRole('table', { name: 'Refused rows' })).toHaveCount(0);
  }
  await ready(page);
  for (const name of ['Fennelwick', 'Harrowlight', 'Quillmere'])
    await expect(difference(page, name)).toContainText('0 new');

  // A keyword is cut: what it had is paused there, and nothing else ships.
  await go(page, 'Build');
  await expect(page.getByText('Building …')).toHaveCount(0);
  await go(page, 'Gather');
  await expect(page.getByRole('grid', { name: 'Pool' })).toHaveAttribute('aria-rowcount', '5');
  await page.keyboard.press('/');
  await page.keyboard.type('canoe');
  await expect(page.getByRole('grid', { name: 'Pool' })).toHaveAttribute('aria-rowcount', '2');
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('c');
  await go(page, 'Ship');
  await expect(difference(page, 'Fennelwick')).toContainText(/[1-9]\d* gone/);
  await expect(outlet(page, 'Fennelwick').getByRole('list', { name: 'What differs' })).toContainText(
    'canoe (exact) keyword',
  );
  await ready(page);
  await pressToShip(outlet(page, 'Fennelwick').getByRole('button', { name: /^Ship \d+ change/ }));
  await expect(receipt(page).getByRole('heading', { name: 'Fennelwick 3' })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    receipt(page).getByRole('link', { name: 'Download fennelwick.csv' }).click(),
  ]);
  const rows = parse(await readFile(await download.path()), { columns: true, bom: true }) as Record<
    string,
    string
  >[];
  expect(rows.length).toBe(4);
  expect(rows.every((row) => row.Group === 'canoe' && row.State === 'Resting')).toBe(true);
  await handIn(page, 'Fennelwick');
  await expect(receipt(page)).toHaveAttribute('data-state', 'accepted');
  await receipt(page).getByRole('button', { name: 'Look at its account' }).click();
  await page.getByRole('button', { name: 'Saltmarsh', exact: true }).click();
  await expect(page.getByRole('table', { name: 'Rows of Saltmarsh' })).toContainText('sea kayak');
});

test('a warning is accepted with a reason; a receipt is noted and withdrawn; an answer sheet is read', async ({
  page,
  url,
}) => {
  await openWritten(page, url);
  await go(page, 'Ship');
  await ready(page);
  const few = findings(page).getByRole('listitem').filter({ hasText: 'fewer ads than are advised' });
  // By key: the list above may still grow, and the button move.
  await few.getByRole('button', { name: 'Accept …' }).press('Enter');
  await few.getByLabel('Why it is accepted').fill('One ad is enough to begin with');
  await page.keyboard.press('Enter');
  await expect(few).toHaveCount(0);
  // By key: the list above may still grow, and the button move.
  await page.getByRole('button', { name: '1 finding accepted' }).press('Enter');
  await expect(findings(page)).toContainText('One ad is enough to begin with');

  await page.getByLabel('Note on the receipt for Plain sheets').fill('For the client to look at');
  await pressToShip(outlet(page, 'Plain sheets').getByRole('button', { name: /^Ship \d/ }));
  await expect(receipt(page).getByLabel('Note on this receipt')).toHaveValue('For the client to look at');
  await receipt(page)
    .getByLabel('Answer sheet')
    .setInputFiles({
      name: 'answer.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        'Campaign,Ad group,Keyword,Match type,Max CPC,Status,Refused\nSaltmarsh,canoe,canoe,Exact,0.50,Enabled,Bid too low\n',
      ),
    });
  await expect(receipt(page).getByRole('table', { name: 'Refused rows' })).toContainText('Bid too low');
  await expect(difference(page, 'Plain sheets')).toContainText('1 new');
  await receipt(page)
    .getByLabel('Answer sheet')
    .setInputFiles({ name: 'x.csv', mimeType: 'text/csv', buffer: Buffer.from('Day,Clicks\n1,2\n') });
  await expect(page.getByText(/This is no sheet of Plain sheets/)).toBeVisible();
  await receipt(page).getByRole('button', { name: 'Never handed in' }).click();
  await expect(receipt(page)).toHaveAttribute('data-state', 'withdrawn');
  await expect(outlet(page, 'Plain sheets')).toContainText('nothing shipped yet');
});

test('an outlet is described by picking columns, tried at once, kept, shipped to, shared as JSON', async ({
  page,
  url,
}) => {
  await openWritten(page, url);
  await go(page, 'Ship');
  await expect(findings(page)).toBeVisible();
  await page.keyboard.press('o');
  await page.getByRole('button', { name: 'New outlet' }).click();
  const form = page.getByRole('region', { name: /^Outlet / });
  await form.getByLabel('Name of the outlet').fill('Tideway');
  await form.getByRole('button', { name: 'Keywords', exact: true }).click();
  await form.getByLabel('Heading for Campaign').fill('Keyword');
  await expect(form.getByRole('alert').first()).toContainText('Two columns have the heading “Keyword”');
  await expect(form.getByRole('button', { name: 'Keep Tideway' })).toBeDisabled();
  await form.getByLabel('Heading for Campaign').fill('Where');
  await form.getByLabel('Word for exact').fill('=');
  await form.getByRole('button', { name: 'Take out Labels' }).click();
  const tried = page.getByRole('region', { name: 'Tried on the plan' });
  await expect(tried.getByRole('columnheader').first()).toHaveText('Where');
  await expect(tried.getByRole('cell', { name: '=', exact: true }).first()).toBeVisible();
  await expect(tried.getByRole('columnheader', { name: 'Labels' })).toHaveCount(0);
  await form.getByRole('button', { name: 'Keep Tideway' }).click();
  await expect(
    page
      .getByRole('navigation', { name: 'All outlets' })
      .getByRole('button', { name: /^Tideway/, pressed: true }),
  ).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    form.getByRole('link', { name: 'JSON' }).click(),
  ]);
  const json = await readFile(await download.path(), 'utf8');
  expect(JSON.parse(json)).toMatchObject({
    key: 'tideway',
    name: 'Tideway',
    words: { matchTypes: { exact: '=' } },
  });

  await page.getByRole('button', { name: 'From JSON' }).click();
  await page.getByLabel('An outlet as JSON').fill(json.replace('"keywordLength": 80', '"keywordLength": 0'));
  await expect(page.getByRole('alert').first()).toContainText('limits.keywordLength');
  await page.getByLabel('An outlet as JSON').fill(json.replace('"Tideway"', '"Tideway two"'));
  await page.getByRole('button', { name: 'Look at Tideway two' }).click();
  await form.getByRole('button', { name: 'Keep Tideway two' }).click();
  await expect(page.getByRole('navigation', { name: 'All outlets' })).toContainText('Tideway two');

  await page.keyboard.press('s');
  await shipTo(page, 'Tideway two');
  await ready(page);
  await pressToShip(outlet(page, 'Tideway two').getByRole('button', { name: /^Ship \d/ }));
  await expect(receipt(page).getByRole('heading', { name: 'Tideway two 1' })).toBeVisible();
  await expect(receipt(page).getByRole('region', { name: 'The sheet as it will be read' })).toContainText(
    'Where',
  );
});

test('nothing serious for those who use assistive technology in any view of Ship', async ({ page, url }) => {
  await openWritten(page, url);
  await go(page, 'Ship');
  await shipTo(page, 'Quillmere');
  await ready(page);
  await pressToShip(outlet(page, 'Plain sheets').getByRole('button', { name: /^Ship \d/ }));
  await expect(receipt(page)).toBeVisible();
  for (const key of ['s', 'o', 'a']) {
    await page.keyboard.press(key);
    await page.waitForTimeout(300);
    expect(await graveProblems(page)).toEqual([]);
  }
});
