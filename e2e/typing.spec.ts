import type { Page } from '@playwright/test';
import { expect, test } from './server.ts';
import { fetchSignedIn } from './signed-in.ts';
import { go, makePlan, openPlan } from './steps.ts';

/** Every answer to a change takes its time. */
async function slowServer(page: Page, ms: number) {
  await page.route('**/api/**', async (route) => {
    if (route.request().method() !== 'GET') await new Promise((done) => setTimeout(done, ms));
    await route.continue();
  });
}

/** As fast as hands go, and faster. */
const fast = { delay: 30 };

test('no key is lost or joined while a slow server is still at the last word: a list of Mix', async ({
  page,
  url,
}) => {
  const plan = await openPlan(page, url);
  await go(page, 'Mix');
  await page.getByRole('button', { name: 'New recipe' }).click();
  await page.getByRole('menuitem', { name: 'empty' }).click();
  await page.getByRole('button', { name: 'Add a list' }).click();
  await page.getByRole('menuitem', { name: 'An empty list' }).click();
  await expect(page.getByLabel(/, one to a line$/)).toBeFocused();
  await page.keyboard.press('Escape');
  const list = page.getByRole('article', { name: /^List / });
  const field = list.getByLabel(/^Add to /);
  await expect(field).toBeVisible();
  await slowServer(page, 2_000);
  await field.focus();
  await page.keyboard.type('cast iron\ntravel\nsmall\nto go on', fast);
  await expect(field).toHaveValue('to go on');
  for (const word of ['cast iron', 'travel', 'small'])
    await expect(list.getByText(word, { exact: true })).toBeVisible();
  // What the server has is what was typed.
  const kept = async () => (await fetchSignedIn(`${url}/api/plans/${plan}/mix`)).text();
  await expect.poll(kept).toContain('cast iron\\ntravel\\nsmall');
  await expect(field).toHaveValue('to go on');
  await page.unrouteAll({ behavior: 'wait' });
  await page.reload();
  for (const word of ['cast iron', 'travel', 'small'])
    await expect(list.getByText(word, { exact: true })).toBeVisible();
  await expect(list.getByText('cast irontravel', { exact: true })).toHaveCount(0);
});

test('nor in fields that keep a value, add negatives or save a theme', async ({ page, url }) => {
  await openPlan(page, url, { list: 'kayak\t900\ncanoe\t300\n', stage: 'sort' });
  await slowServer(page, 2_000);
  await page.keyboard.press('/');
  await page.keyboard.type('kayak\n', fast);
  await expect(page.locator('[data-sift-count]')).toContainText('1 keyword');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-sift-count]')).toHaveCount(0);
  // The field is still the place to type.
  await page.keyboard.type('canoe\n', fast);
  await expect(page.getByText('Made the theme kayak.')).toBeVisible();
  await expect(page.locator('[data-sift-count]')).toContainText('1 keyword');
  await expect(page.getByRole('group', { name: 'Sift' })).toContainText('canoe');
  await page.keyboard.press('Escape');

  await go(page, 'Prune');
  await page.getByRole('button', { name: /^Negatives/ }).click();
  const negatives = page.getByLabel('Negative keywords to add');
  await negatives.focus();
  await page.keyboard.type('jobs\nfree plans\nused', fast);
  await expect(negatives).toHaveValue('used');
  await page.waitForLoadState('networkidle');
  await expect(negatives).toHaveValue('used');
  for (const word of ['jobs', 'free plans'])
    await expect(page.getByText(word, { exact: true })).toBeVisible();

  // A value that is on its way stands there meanwhile.
  await go(page, 'Brief');
  await page.getByRole('button', { name: /^Client:/ }).click();
  await page.keyboard.type('Boats\n', fast);
  await expect(page.getByRole('button', { name: /^Client:/ })).toContainText('Boats');
});

test('a window with words that the server does not have yet asks before it closes', async ({ page, url }) => {
  await openPlan(page, url, { stage: 'brief' });
  const asked: string[] = [];
  page.on('dialog', (dialog) => {
    asked.push(dialog.type());
    void dialog.accept();
  });
  await slowServer(page, 2_000);
  await page.getByRole('button', { name: /^Client:/ }).click();
  await page.keyboard.type('Boats\n', fast);
  await page.close({ runBeforeUnload: true });
  await expect.poll(() => asked).toEqual(['beforeunload']);
});

test('nine windows on one plan: none waits for another, and each hears of what one does', async ({
  page,
  context,
  url,
}) => {
  await makePlan(page, url, { name: 'Nine' });
  await expect(page.getByRole('heading', { name: 'The pool is empty' })).toBeVisible();
  const address = page.url();
  const windows = [page];
  for (let n = 1; n < 9; n++) {
    const next = await context.newPage();
    await next.goto(address);
    await expect(next.getByRole('heading', { name: 'The pool is empty' })).toBeVisible();
    windows.push(next);
  }
  const pool = (one: Page) => one.getByRole('grid', { name: 'Pool' });
  const takeIn = async (one: Page, text: string) => {
    await one.getByRole('button', { name: 'Paste a list' }).first().click();
    await one.getByLabel('The list').fill(text);
    await one.getByRole('button', { name: /^Take in/ }).click();
  };
  await takeIn(windows[8] as Page, 'crown\nbridge\n');
  for (const one of windows) await expect(pool(one)).toHaveAttribute('aria-rowcount', '3');
  // The one that held the stream closes: another takes it, and all go on hearing.
  await page.close();
  await takeIn(windows[3] as Page, 'implant\n');
  for (const one of windows.slice(1)) await expect(pool(one)).toHaveAttribute('aria-rowcount', '4');
});
