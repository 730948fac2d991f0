import type { Page } from '@playwright/test';
import * as api from '@sprig/contracts';
import { expect, test } from './server.ts';
import { asker, graveProblems, openPlan } from './steps.ts';

const GOODS = ['crown', 'filling', 'bridge', 'implant', 'veneer', 'braces'];
const LIST = GOODS.flatMap((good, at) => [
  `${good}\t${900 - at * 100}\t0.50`,
  `${good} price\t${90 - at * 10}\t0.40`,
  `best ${good}\t${40 - at}\t--`,
])
  .concat('crown bridge\t20\t--')
  .join('\n');

const view = (page: Page, name: string | RegExp) =>
  page.getByRole('region', { name: 'Build', exact: true }).getByRole('button', { name }).click();
const yieldOf = (page: Page, name: string) => page.locator(`[data-yield=${name}]`);
const built = (page: Page) => expect(page.getByText('Building …')).toHaveCount(0);
const table = (page: Page, name: string) => page.getByRole('grid', { name, exact: true });
const all = (page: Page, name: string) => table(page, name).getByRole('checkbox').first().click();

/** A dentist's plan, a campaign for each treatment. */
async function openDentist(page: Page, url: string): Promise<number> {
  const plan = await openPlan(page, url, {
    name: 'Dentist',
    site: 'dentist.example',
    list: LIST,
    themes: GOODS.map((good) => [good]),
    stage: 'build?view=campaigns',
  });
  const ask = asker(url);
  const { layout } = await ask(api.readLayout, { params: { plan } });
  await ask(api.editLayout, {
    params: { plan },
    body: {
      edits: [
        { at: 'campaignBy', before: layout.campaignBy, after: 'theme' },
        { at: 'campaignName', before: layout.campaignName, after: '@theme' },
      ],
    },
  });
  return plan;
}

test('campaigns are budgeted, set and named many at once, and taken back step by step', async ({
  page,
  url,
}) => {
  await openDentist(page, url);
  const campaigns = table(page, 'Campaigns');
  await expect(campaigns.getByRole('row')).toHaveCount(7);
  const cells = (name: string) => campaigns.getByRole('row').filter({ hasText: name });

  // A total shared by searches.
  await all(page, 'Campaigns');
  await page.keyboard.press('b');
  const budgets = page.getByRole('dialog', { name: 'Budgets of 6 campaigns' });
  await budgets.getByLabel('What to do with the budgets').selectOption('share');
  await budgets.getByLabel('Amount').fill('100');
  await expect(budgets.getByRole('status')).toContainText('together from £120.00 to £100.00 a day');
  await budgets.getByLabel('Amount').press('Enter');
  await expect(page.getByText('6 campaigns selected, £100.00 a day')).toBeVisible();
  await built(page);

  // What they are set to, changed for all; one of them then gets its own.
  await page.getByRole('button', { name: 'Settings s' }).click();
  const settings = page.getByRole('dialog', { name: 'Settings of 6 campaigns' });
  await settings.getByRole('button', { name: 'search partners' }).click();
  await expect(settings.getByRole('status')).toContainText('6 campaigns have new settings, “Settings”');
  await settings.getByRole('button', { name: 'Change 6 campaigns' }).click();
  await expect(cells('braces')).toContainText('search, search partners');
  await built(page);
  await cells('crown').getByRole('button', { name: 'Edit networks of crown' }).click();
  await page.getByLabel('networks of crown', { exact: true }).fill('radio');
  await page.getByLabel('networks of crown', { exact: true }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('“radio” is no network');
  await page.getByLabel('networks of crown', { exact: true }).fill('search');
  await page.getByLabel('networks of crown', { exact: true }).press('Enter');
  await built(page);
  await expect(cells('braces')).toContainText('search, search partners');
  await expect(cells('crown')).not.toContainText('search partners');

  // Names, with one that can't be.
  await page.getByRole('button', { name: 'Replace n' }).click();
  const names = page.getByRole('dialog', { name: 'Names of 6 campaigns' });
  await names.getByLabel('Put behind').fill(' 2027');
  await names.getByRole('button', { name: 'Change 6 names' }).click();
  await built(page);
  await expect(cells('crown 2027')).toHaveCount(1);
  expect(await graveProblems(page)).toEqual([]);

  // Pasted cells: a budget and a status of two campaigns, by their names.
  await page.evaluate(
    (text) => navigator.clipboard.writeText(text),
    'Campaign\tStatus\tBudget a day\nbridge 2027\tpaused\t12.50\nveneer 2027\tpaused\t7',
  );
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('Control+v');
  const sheet = page.getByRole('dialog', { name: 'Paste into Campaigns' });
  await expect(sheet).toContainText('4 values will be put in.');
  await sheet.getByRole('button', { name: 'Put 4 values in' }).click();
  await expect(sheet).toHaveCount(0);
  await expect(cells('bridge 2027')).toContainText('£12.50');
  await expect(cells('veneer 2027')).toContainText('paused');
  await built(page);

  for (const gone of ['£12.50', '2027']) {
    await page.keyboard.press('Control+z');
    await expect(cells('bridge')).not.toContainText(gone);
    await built(page);
  }
});

test('match types of a branch and of a selection, negatives for many, a fence taken away with why', async ({
  page,
  url,
}) => {
  await openDentist(page, url);
  await view(page, 'Rules');
  await expect(yieldOf(page, 'rows')).toContainText('38 keyword rows');
  await page.getByRole('button', { name: 'Lay a theme out in its own way' }).click();
  await page.getByLabel('Theme to lay out in its own way').selectOption({ label: 'crown' });
  await page.getByRole('button', { name: 'broad in crown', exact: true }).click();
  await expect(yieldOf(page, 'rows')).toContainText('34 keyword rows');
  await page.getByRole('combobox', { name: 'Fences' }).selectOption('exact');
  await built(page);

  await view(page, /^Ad groups/);
  await expect(table(page, 'Ad groups').getByRole('row')).toHaveCount(7);
  await all(page, 'Ad groups');
  await page.keyboard.press('m');
  const types = page.getByRole('dialog', { name: /^Match types of/ });
  await types.getByLabel('What to do with the match types').selectOption('add');
  await types.getByRole('button', { name: 'broad', exact: true }).click();
  await expect(types.getByRole('status')).toContainText('15 keywords of 19 would change');
  await types.getByRole('button', { name: 'Change 15 keywords' }).click();
  await expect(yieldOf(page, 'rows')).toContainText('49 keyword rows');
  await built(page);

  await page.getByRole('button', { name: 'Negatives', exact: true }).last().click();
  const many = page.getByRole('dialog', { name: 'Negatives for 6 ad groups' });
  await many.getByLabel('Negatives to add').fill('free\n"do it yourself"');
  await many.getByRole('button', { name: 'Add 2 negatives' }).click();
  await built(page);

  await view(page, 'Negatives');
  await page.getByLabel('Which negatives').selectOption('group');
  await expect(table(page, 'Negatives').getByRole('row')).toHaveCount(13);
  await all(page, 'Negatives');
  await page.getByLabel('Where the selection is to stand').selectOption('campaign');
  await expect(page.getByText('0 negatives · Changed 12 negative keywords.')).toBeVisible();
  await page.getByLabel('Which negatives').selectOption('fence');
  const fences = table(page, 'Negatives').getByRole('row');
  await expect(fences.nth(1)).toContainText('a fence');
  await fences.nth(1).click();
  await page.keyboard.press('d');
  await page.getByLabel('Why these fences are taken away').fill('Both may show');
  await page.getByLabel('Why these fences are taken away').press('Enter');
  await page.getByLabel('Which negatives').selectOption('out');
  await expect(table(page, 'Negatives').getByRole('row').nth(1)).toContainText('Both may show');
  await built(page);
  expect(await graveProblems(page)).toEqual([]);
});
