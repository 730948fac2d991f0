import type { Page } from '@playwright/test';
import { expect, test } from './server.ts';
import { openPlan } from './steps.ts';

async function make(page: Page, url: string, name: string) {
  await page.goto(url);
  await page.getByRole('button', { name: 'Make a plan' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Make the plan' }).click();
  await expect(page.getByRole('heading', { name: 'The pool is empty' })).toBeVisible();
}

test('plans: made, renamed, duplicated, archived, and refused with what was typed still there', async ({
  page,
  url,
}) => {
  await page.goto(url);
  await expect(page.getByRole('heading', { name: 'No plans yet' })).toBeVisible();
  await page.getByRole('button', { name: 'Make a plan' }).click();
  await page.getByLabel('Name').fill('Kayaks');
  await page.getByLabel('Site, where the ads lead').fill('no such site');
  await page.getByRole('button', { name: 'Make the plan' }).click();
  await expect(page.getByRole('alert')).toContainText('Not a web address');
  await expect(page.getByLabel('Site, where the ads lead')).toHaveValue('no such site');
  await page.getByLabel('Site, where the ads lead').fill('shop.example');
  await page.getByRole('button', { name: 'Make the plan' }).click();
  await expect(page).toHaveURL(/\/plans\/\d+\/gather$/);

  await page.goto(url);
  await page.getByRole('button', { name: 'Edit Name of Kayaks' }).click();
  await page.getByLabel('Name of Kayaks').fill('Canoes');
  await page.getByLabel('Name of Kayaks').press('Enter');
  await expect(page.getByRole('link', { name: 'Canoes', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Duplicate Canoes' }).click();
  await expect(page.getByRole('link', { name: 'Canoes (copy)', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Archive: Canoes (copy)' }).click();
  await expect(page.getByText('archived')).toBeVisible();

  // A plan begins with another one's rules, with sheets of an account, or with what a site speaks of.
  const begin = async (name: string, from: string, field = 'Begin with') => {
    await page.goto(url);
    await page.getByRole('button', { name: 'Make a plan' }).click();
    // The name is typed at once: the field has the focus.
    await page.keyboard.type(name);
    await page.getByLabel('Site, where the ads lead').fill('boilers.example');
    await page.getByLabel(field).selectOption({ label: from });
    await page.getByRole('button', { name: 'Make the plan' }).click();
  };
  await begin('Boilers', 'Canoes', 'By the rules of');
  await expect(page.getByRole('heading', { name: 'The pool is empty' })).toBeVisible();
  await begin('An account', 'sheets of an account that is there');
  await expect(page.getByRole('region', { name: 'Read back' })).toBeVisible();
  await begin('A site', 'what its site speaks of');
  await expect(page.getByPlaceholder('shop.example or https://shop.example/page')).toHaveValue(
    /boilers\.example/,
  );
});

test('a plan is saved as a file, and opened as a new plan; another file is refused with words', async ({
  page,
  url,
}) => {
  await make(page, url, 'Root canals');
  await page.getByRole('button', { name: 'Paste a list' }).first().click();
  await page.getByLabel('The list').fill('root canal cost\t500\ndentist near me\t60\n');
  await page.getByRole('button', { name: 'Take in 2 keywords' }).click();
  await expect(page.getByRole('grid', { name: 'Pool' })).toHaveAttribute('aria-rowcount', '3');
  await page.goto(url);
  const saving = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save Root canals as a plan file' }).click();
  const saved = await saving;
  expect(saved.suggestedFilename()).toBe('Root-canals.plan.zip');
  const file = await saved.path();
  const input = page.getByLabel('Plan file to open');
  await input.setInputFiles({
    name: 'list.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('no archive'),
  });
  await expect(page.getByText('it has no plan.json')).toBeVisible();
  await input.setInputFiles(file);
  await expect(page.getByText('is open as a new plan')).toBeVisible();
  const plans = page.getByRole('link', { name: 'Root canals', exact: true });
  await expect(plans).toHaveCount(2);
  await plans.first().click();
  await expect(page.getByRole('grid', { name: 'Pool' })).toHaveAttribute('aria-rowcount', '3');
});

test('the histogram is brushed, the filter stays in the address, columns and theme are remembered', async ({
  page,
  url,
}) => {
  await make(page, url, 'Kayaks');
  await page.getByRole('button', { name: 'Paste a list' }).first().click();
  await page.getByLabel('The list').fill('kayak\t5000\ncanoe\t60\nraft\t3\n');
  await page.getByRole('button', { name: 'Take in 3 keywords' }).click();
  const pool = page.getByRole('grid', { name: 'Pool' });
  await expect(pool).toHaveAttribute('aria-rowcount', '4');
  const chart = page.getByRole('figure', { name: 'Keywords by monthly searches' });
  const box = (await chart.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.66, box.y + 25);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.97, box.y + 25, { steps: 5 });
  await page.mouse.up();
  await expect(pool).toHaveAttribute('aria-rowcount', '2');
  await expect(page).toHaveURL(/from=\d+/);
  await page.reload();
  await expect(pool).toHaveAttribute('aria-rowcount', '2');
  await page.goBack();
  await expect(pool).toHaveAttribute('aria-rowcount', '4');

  await page.getByText('Columns', { exact: true }).click();
  await page.getByLabel('Asked as').uncheck();
  await expect(pool.getByRole('columnheader', { name: 'Asked as' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Your settings' }).click();
  await page.getByLabel('Dark').check();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'sprig-night');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'sprig-night');
  await expect(pool).toHaveAttribute('aria-rowcount', '4');
  await expect(pool.getByRole('columnheader', { name: 'Asked as' })).toHaveCount(0);
});

test('lines with errors are mended in place; another window follows', async ({ page, url, context }) => {
  await make(page, url, 'Kayaks');
  await page.getByRole('button', { name: 'Paste a list' }).first().click();
  await page.getByLabel('The list').fill('kayak\n[canoe\nred, raft\n');
  await page.getByRole('button', { name: 'Take in 1 keyword' }).click();
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByRole('grid', { name: 'Pool' })).toHaveAttribute('aria-rowcount', '2');
  await page.getByRole('button', { name: '2 lines to look at' }).click();
  await page.getByLabel('Line 2').fill('[canoe] x');
  await page.getByLabel('Line 2').press('Enter');
  await expect(page.getByText(/stands inside the text/)).toBeVisible();
  await page.getByLabel('Line 2').fill('[canoe]');
  await page.getByLabel('Line 2').press('Enter');
  await expect(page.getByLabel('Line 2')).toHaveCount(0);
  await page.getByRole('button', { name: 'Let go' }).click();
  await expect(page.getByText('Nothing is left to look at.')).toBeVisible();
  await expect(other.getByRole('grid', { name: 'Pool' })).toHaveAttribute('aria-rowcount', '3');
  await expect(other.getByRole('row').filter({ hasText: 'canoe' })).toBeVisible();
});

test('in a window of the least width the trail leaves the plan its name', async ({ page, url }) => {
  await page.setViewportSize({ width: 1024, height: 700 });
  await openPlan(page, url, { name: 'Saltmarsh Paddle Company', list: 'kayak\t900\n' });
  const name = await page.getByRole('link', { name: 'Saltmarsh Paddle Company' }).boundingBox();
  const trail = await page.getByRole('navigation', { name: 'Trail' }).boundingBox();
  const find = await page.getByRole('button', { name: 'Find or do' }).boundingBox();
  if (!name || !trail || !find) throw new Error('the head of the page is not drawn');
  expect(name.width).toBeGreaterThan(70);
  expect(name.x + name.width).toBeLessThanOrEqual(trail.x);
  expect(trail.x + trail.width).toBeLessThanOrEqual(find.x);
  expect(find.x + find.width).toBeLessThanOrEqual(1024);
});
