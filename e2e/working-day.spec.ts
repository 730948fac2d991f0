import type { Page } from '@playwright/test';
import * as api from '@sprig/contracts';
import { patternOf } from '@sprig/core/write';
import { expect, test } from './server.ts';
import { asker, go, graveProblems, openPlan, pressToShip } from './steps.ts';

const TREATMENTS = [
  'crown',
  'filling',
  'bridge',
  'implant',
  'veneer',
  'braces',
  'whitening',
  'denture',
  'scaling',
  'sealant',
  'aligner',
  'retainer',
];

/** The account of a dentist: a campaign for each treatment. */
const ACCOUNT = [
  'Campaign,Ad group,Keyword,Match type,Max CPC,Daily budget,Locations,Languages',
  ...TREATMENTS.flatMap((name) => [
    `${name},,,,,20,Eastmere (region),English`,
    `${name},${name},,,0.60,,,`,
    `${name},${name},${name},Exact,0.60,,,`,
    `${name},${name},${name} price,Phrase,0.50,,,`,
  ]),
].join('\n');

const view = (page: Page, name: string | RegExp) =>
  page.getByRole('region', { name: 'Build', exact: true }).getByRole('button', { name }).click();
const built = (page: Page) => expect(page.getByText('Building …')).toHaveCount(0);
const yieldOf = (page: Page, name: string) => page.locator(`[data-yield=${name}]`);
const outlet = (page: Page, name: string) => page.getByRole('region', { name, exact: true });

/** A plan of another client, by whose rules the agency works. */
async function houseRules(page: Page, url: string) {
  const plan = await openPlan(page, url, {
    name: 'Optician',
    site: 'optician.example',
    list: 'glasses\t300\nlenses\t200\n',
    stage: 'brief',
  });
  const ask = asker(url);
  const params = { plan };
  const { facts } = await ask(api.readFacts, { params });
  const edits = [
    { at: 'languages', before: facts.languages, after: ['English'] },
    { at: 'locations', before: facts.locations, after: [{ name: 'Eastmere', level: 'region' }] },
    { at: 'client', before: facts.client, after: 'Clear View' },
  ];
  await ask(api.editFacts, { params, body: { edits } });
  const { patterns } = await ask(api.readPatterns, { params });
  const lines = {
    headline1: ['@keyword'],
    headline2: ['Seen today'],
    headline3: ['Ask us'],
    description1: ['Come by, or call.'],
  };
  const { fields } = patternOf(lines, 'title');
  await ask(api.editPattern, {
    params: { plan, pattern: patterns[0]?.id ?? 0 },
    body: { edits: [{ at: 'fields', before: patterns[0]?.body.fields, after: fields }] },
  });
}

test('a working day: a new client from an outset, its account read in, budgets, match types, two outlets, a part shipped', async ({
  page,
  url,
}) => {
  await houseRules(page, url);
  await page.keyboard.press('k');
  const keep = page.getByRole('dialog', { name: /^Keep the rules of Optician/ });
  await keep.getByRole('textbox', { name: 'Name' }).fill('House rules');
  await keep.getByLabel(/^New plans begin with it/).check();
  await keep.getByRole('textbox', { name: 'Name' }).press('Enter');
  await expect(keep).toHaveCount(0);

  // The new client begins with it without a choice.
  await page.goto(url);
  await expect(page.getByRole('region', { name: 'Outsets' })).toContainText('House rules');
  await page.getByRole('button', { name: 'Make a plan' }).click();
  await page.keyboard.type('Dentist');
  await page.getByLabel('Site, where the ads lead').fill('dentist.example');
  await expect(page.getByLabel('By the rules of')).toHaveText(/House rules/);
  const make = page.getByRole('dialog', { name: 'Make a plan' });
  await make.getByLabel('Begin with').selectOption({ label: 'sheets of an account that is there' });
  await make.getByRole('button', { name: 'Make the plan' }).click();

  // The account that is there is read in.
  await page
    .getByLabel('Sheets to read back')
    .setInputFiles({ name: 'account.csv', mimeType: 'text/csv', buffer: Buffer.from(ACCOUNT) });
  await page.getByRole('button', { name: /^Take in \d+ difference/ }).click();
  await expect(page.getByRole('status').filter({ hasText: /Took in 24 keyword rows/ })).toBeVisible();
  await expect(yieldOf(page, 'campaigns')).toContainText('12 campaigns');

  // 12 campaigns budgeted at once.
  await page.getByRole('link', { name: 'Look at it in Build' }).click();
  await built(page);
  await view(page, /^Campaigns/);
  const campaigns = page.getByRole('grid', { name: 'Campaigns', exact: true });
  await expect(campaigns.getByRole('row')).toHaveCount(13);
  await campaigns.getByRole('checkbox').first().click();
  await page.keyboard.press('b');
  const budgets = page.getByRole('dialog', { name: 'Budgets of 12 campaigns' });
  await budgets.getByLabel('What to do with the budgets').selectOption('share');
  await budgets.getByLabel('Amount').fill('120');
  await expect(budgets.getByRole('status')).toContainText('to £120.00 a day');
  await budgets.getByLabel('Amount').press('Enter');
  await expect(page.getByText('12 campaigns selected, £120.00 a day')).toBeVisible();
  await built(page);

  // Match types of a branch.
  await view(page, 'Rules');
  await page.getByRole('button', { name: 'Lay a theme out in its own way' }).click();
  const branch = page.getByLabel('Theme to lay out in its own way');
  await branch.selectOption(await branch.locator('option', { hasText: 'crown' }).first().textContent());
  await page
    .getByRole('button', { name: /^broad in .*crown$/ })
    .first()
    .click();
  await built(page);

  // Two outlets, each with ads of its own.
  await go(page, 'Ship');
  await page.getByRole('button', { name: 'Ship to another outlet' }).click();
  await page.getByRole('menuitem', { name: 'Fennelwick' }).click();
  await expect(outlet(page, 'Fennelwick')).toBeVisible();
  await go(page, 'Write');
  await page.getByLabel('For which outlet').selectOption({ label: 'only Fennelwick' });
  await expect(page.getByRole('button', { name: 'Fennelwick ×' })).toBeVisible();
  await page.getByRole('button', { name: 'New pattern' }).click();
  await page.getByRole('menuitem', { name: 'Plain ad' }).click();
  await expect(page.getByLabel('For which outlet')).toHaveText(/all outlets/);
  await page.getByLabel('For which outlet').selectOption({ label: 'only Plain sheets' });
  await expect(page.getByRole('button', { name: 'Plain sheets ×' })).toBeVisible();
  await built(page);

  // Every row is looked at, and one campaign ships by itself.
  await go(page, 'Ship');
  await page.getByRole('button', { name: 'Every row' }).click();
  await page.getByLabel('Outlet', { exact: true }).selectOption({ label: 'Fennelwick' });
  const rows = page.getByRole('grid', { name: 'Rows for Fennelwick' });
  await expect(rows).toBeVisible();
  await page.getByLabel('Filter rows').fill('crown price');
  await expect(rows).toContainText('crown price');
  await expect(rows).not.toContainText('braces');
  expect(await graveProblems(page)).toEqual([]);
  await page.getByRole('button', { name: 'Ship', exact: true }).click();
  await outlet(page, 'Fennelwick').getByRole('checkbox').first().check();
  await outlet(page, 'Fennelwick').getByRole('button', { name: 'A part …' }).click();
  const part = page.getByRole('dialog', { name: 'Ship a part to Fennelwick' });
  // Ad groups that are called so may be there first.
  await part
    .getByRole('group', { name: /^Campaigns/ })
    .getByLabel(/^crown/)
    .check();
  await part.getByRole('button', { name: 'See what it tells' }).click();
  await expect(part.getByRole('group', { name: 'Difference' })).toContainText('new');
  expect(await graveProblems(page)).toEqual([]);
  await pressToShip(part.getByRole('button', { name: /^Ship \d+ rows/ }));
  await expect(page.getByRole('region', { name: 'Receipt', exact: true })).toContainText(
    'of a part (1 campaign: crown; 1 ad group)',
  );
  // The rest is still to be told.
  await expect(outlet(page, 'Fennelwick').getByRole('button', { name: /^Ship \d+ changes/ })).toBeEnabled();
});
