import type { Page } from '@playwright/test';
import { expect, test } from './server.ts';
import { graveProblems, openPlan } from './steps.ts';

const yieldOf = (page: Page, name: string) => page.locator(`[data-yield=${name}]`);
const table = (page: Page) => page.getByRole('grid', { name: 'Keywords' });
const suggested = (page: Page) => page.getByRole('listbox', { name: 'Suggested themes' });

const goods = ['desk', 'chair', 'lamp', 'shelf', 'cabinet', 'sofa', 'rug', 'mirror', 'stool', 'bench'];
const traits = [
  'oak',
  'white',
  'folding',
  'small',
  'antique',
  'garden',
  'kids',
  'steel',
  'round',
  'tall',
  'grey',
  'corner',
];
const around = [
  ...[
    'X',
    'Xs',
    'buy X',
    'X for sale',
    'cheap X',
    'best X',
    'X review',
    'X price',
    'X cost',
    'X near me',
    'X offers',
  ],
  ...[
    'how much is a X',
    'best price X',
    'Xs for sale',
    'X delivery',
    'order X',
    'X hire',
    'X rental',
    'X sale',
  ],
  ...['what is a X', 'compare X', 'X deals', 'buy Xs', 'X quote', 'X online'],
];
/** 10 goods in 12 traits in 25 ways to ask: 3,000 keywords with figures. */
const keywords = goods.flatMap((good, a) =>
  traits.flatMap((trait, b) =>
    around.map((words, c) => `${words.replace('X', `${trait} ${good}`)}\t${(30 - c) * (14 - b) * (12 - a)}`),
  ),
);

async function paste(page: Page, lines: readonly string[], button: string) {
  await page.evaluate((text) => navigator.clipboard.writeText(text), lines.join('\n'));
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: button, exact: true }).click();
}

async function goTo(page: Page, stage: number) {
  await page.keyboard.press('Escape');
  await page.keyboard.press('g');
  await page.keyboard.press(String(stage));
}

test('3,000 unplaced keywords become a full tree from the keyboard; the pool changes, and what is held stays', async ({
  page,
  url,
}) => {
  await openPlan(page, url, { name: 'Furniture', site: 'shop.example' });
  expect(new Set(keywords).size).toBe(3_000);
  await paste(page, ['Keyword\tSearches', ...keywords], 'Take in 3,000 keywords');
  await expect(page.getByRole('grid', { name: 'Pool' })).toHaveAttribute('aria-rowcount', '3001');
  const press = (key: string) => page.keyboard.press(key);
  await goTo(page, 5);
  await expect(page.getByRole('region', { name: 'Sift the keywords' })).toBeVisible();
  await expect(yieldOf(page, 'keywords')).toContainText('3,000');
  await expect(yieldOf(page, 'placed')).toContainText('0 placed, 0% of searches');

  // Sift: each letter counts at once; the term's other forms and the next words are offered.
  await press('/');
  await page.keyboard.type('lamp');
  await expect(page.locator('[data-sift-count]')).toContainText('300 keywords');
  await press('Enter');
  await press('Tab');
  await page.keyboard.type('oak');
  await expect(page.locator('[data-sift-count]')).toContainText('25 keywords');
  await press('Backspace');
  await press('Backspace');
  await press('Backspace');
  await page.keyboard.type('a*');
  await expect(page.getByRole('alert')).toContainText('Type at least two letters before the *.');
  await press('Backspace');
  await press('Backspace');
  await expect(page.locator('[data-sift-count]')).toContainText('300 keywords');
  await press('Enter');
  await expect(page.getByText('Made the theme lamp.')).toBeVisible();
  await expect(yieldOf(page, 'placed')).toContainText('300 placed');

  // Suggestions: one is taken under another name, one dismissed, one taken as it is.
  await press('Escape');
  const first = suggested(page).getByRole('option').first();
  await expect(first).toContainText('desk');
  await press('q');
  await expect(suggested(page)).toBeFocused();
  await press('r');
  await page.keyboard.type('Desks');
  await press('Enter');
  await expect(yieldOf(page, 'placed')).toContainText('600 placed');
  await expect(first).toContainText('chair');
  await press('d');
  await expect(first).toContainText('shelf');
  await press('t');
  await expect(yieldOf(page, 'placed')).toContainText('900 placed');
  await press('Control+z');
  await expect(yieldOf(page, 'placed')).toContainText('600 placed');

  // The whole plan for all of them, in the place of what is there: taken, looked at, and one step.
  await press('p');
  const dialog = page.getByRole('dialog', { name: 'Whole plan at once' });
  await expect(dialog.locator('[data-proposal]')).toContainText('100% of the searches');
  await press('Tab');
  await press('ArrowDown');
  await expect(dialog.getByRole('radio').nth(1)).toBeChecked();
  await expect(dialog.locator('[data-proposal]')).toContainText('place 3,000 of 3,000 keywords');
  const take = dialog.getByRole('button', { name: /^Take \d+ themes/ });
  for (let times = 0; times < 60; times++) {
    if (await take.evaluate((element) => element === document.activeElement)) break;
    await press('Tab');
  }
  await press('Enter');
  await expect(yieldOf(page, 'placed')).toContainText('3,000 placed, 100% of searches');
  await expect(yieldOf(page, 'over')).toBeHidden();
  await expect(yieldOf(page, 'under')).toBeHidden();

  // One keyword is held in another theme.
  await press('/');
  await page.keyboard.type('="how much is a oak lamp"');
  await press('Enter');
  await expect(table(page)).toHaveAttribute('aria-rowcount', '2');
  await press('Escape');
  await page.locator('[data-table-body]').focus();
  await press('m');
  await page.keyboard.type('white desk');
  await press('Enter');
  await expect(page.getByText(/^Moved 1 keyword to white desk/)).toBeVisible();
  const row = table(page).getByRole('row').nth(1);
  await expect(row).toContainText('desk › white desk');
  await expect(row.getByRole('button', { name: /^Held by hand/ })).toBeVisible();

  // The pool changes: new keywords fall into themes by rule, what is held stays.
  await goTo(page, 2);
  await expect(page.getByRole('region', { name: 'Sources' })).toBeVisible();
  await paste(page, ['blue oak lamp', 'oak lamp with shade', 'zeppelin'], 'Take in 3 keywords');
  await expect(page.getByRole('grid', { name: 'Pool' })).toHaveAttribute('aria-rowcount', '3004');
  await goTo(page, 5);
  await expect(page.getByRole('region', { name: 'Sift the keywords' })).toBeVisible();
  await expect(yieldOf(page, 'fresh')).toContainText('new, 2 placed, 1 to judge');
  await press('/');
  await page.keyboard.type('="how much is a oak lamp"');
  await press('Enter');
  await expect(table(page).getByRole('row').nth(1)).toContainText('desk › white desk');
  await press('Escape');
  await page.locator('[data-table-body]').focus();
  await press('l');
  await expect(table(page).getByRole('row').nth(1)).toContainText('lamp');
  await press('Control+z');
  await expect(table(page).getByRole('row').nth(1)).toContainText('desk › white desk');
});

test('themes in the outline and the stages; names pasted; bad names and rules say so; nothing serious for axe', async ({
  page,
  url,
}) => {
  await openPlan(page, url, { name: 'Furniture', site: 'shop.example' });
  const few = [
    'oak desk',
    'white desk',
    'buy oak desk',
    'oak lamp',
    'best lamp',
    'how to fix a lamp',
    'rug',
    'rugs',
  ];
  await paste(
    page,
    few.map((text, at) => `${text}\t${100 - at}`),
    'Take in 8 keywords',
  );
  await expect(page.getByRole('grid', { name: 'Pool' })).toHaveAttribute('aria-rowcount', '9');
  await goTo(page, 5);
  await expect(page.getByRole('region', { name: 'Sift the keywords' })).toBeVisible();
  await expect(yieldOf(page, 'keywords')).toContainText('8');
  const press = (key: string) => page.keyboard.press(key);
  await press('n');
  await page.keyboard.type('Desks');
  await page.getByLabel('Names, one to a line').fill('desk\nlamp | lantern\n|\nrug');
  await expect(page.getByText('1 line can’t be a theme')).toBeVisible();
  await page.getByRole('button', { name: 'Make 3 themes' }).click();
  await expect(yieldOf(page, 'placed')).toContainText('8 placed, 100% of searches');

  await page.getByRole('button', { name: 'Outline', exact: true }).click();
  const outline = page.getByRole('grid', { name: 'Outline of themes' });
  await expect(outline).toHaveAttribute('aria-rowcount', '4');
  await expect(outline.getByRole('row').nth(2)).toContainText('has lamp / lantern');
  await outline.getByRole('button', { name: 'Edit name of lamp' }).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Desk');
  await press('Enter');
  await expect(page.getByRole('alert')).toContainText('There is a theme “Desk” in the same place');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Lamps');
  await press('Enter');
  await expect(outline.getByRole('row').nth(2)).toContainText('Lamps');
  await outline.getByRole('button', { name: 'Edit rule of Lamps' }).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('lamp and so on');
  await press('Enter');
  await expect(page.getByRole('alert')).toContainText('must come after “has” or “but not”');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('has lamp but not oak');
  await press('Enter');
  await expect(yieldOf(page, 'placed')).toContainText('7 placed');

  // Into the one above, back out, and merged with the other.
  await page.locator('[data-table-body]').focus();
  await press('Home');
  await press('j');
  await press('>');
  await expect(outline.getByRole('row').nth(2)).toContainText('Lamps');
  await expect(yieldOf(page, 'placed')).toContainText('5 placed');
  await page.locator('[data-table-body]').focus();
  await press('<');
  await expect(yieldOf(page, 'placed')).toContainText('7 placed');
  await press('Home');
  await press('x');
  await press('j');
  await press('j');
  await press('x');
  await press('m');
  await expect(page.getByText('Merged 2 themes into desk.')).toBeVisible();
  await expect(outline).toHaveAttribute('aria-rowcount', '3');
  await expect(outline.getByRole('row').nth(1)).toContainText('has desk / rug');

  await page.getByRole('button', { name: 'Stages', exact: true }).click();
  const stages = page.getByRole('table', { name: 'Themes by funnel stage' });
  await expect(stages.getByRole('row', { name: /^desk/ })).toContainText('98');
  await expect(stages.getByRole('row', { name: /^Lamps/ })).toContainText('95');
  expect(await graveProblems(page)).toEqual([]);

  await page.getByRole('button', { name: 'Map', exact: true }).click();
  await page.getByRole('button', { name: /^desk/ }).click();
  await expect(page.getByRole('region', { name: 'The open theme' })).toContainText('has desk / rug');
  await page.getByRole('radio', { name: 'Colour 3', exact: true }).click();
  await expect(page.getByRole('radio', { name: 'Colour 3', exact: true })).toHaveAttribute(
    'aria-checked',
    'true',
  );
  expect(await graveProblems(page)).toEqual([]);
  // Dragged: a keyword onto another theme, and that theme into this one.
  await page.getByRole('button', { name: 'All themes' }).click();
  await page
    .getByRole('button', { name: /^Unplaced/ })
    .first()
    .click();
  const lamps = page.locator('[data-theme-id]').filter({ hasText: 'Lamps' });
  await table(page).getByText('oak lamp', { exact: true }).dragTo(lamps);
  await expect(page.getByText('Moved 1 keyword to Lamps.')).toBeVisible();
  await expect(yieldOf(page, 'placed')).toContainText('8 placed');
  const desks = page.locator('[data-theme-id]').filter({ hasText: /^desk/ });
  await lamps.dragTo(desks, { targetPosition: { x: 12, y: 8 } });
  await expect(page.getByRole('group', { name: 'Theme map' }).locator('[data-theme-id]')).toHaveCount(2);
  await desks.click({ position: { x: 12, y: 8 } });
  await expect(page.getByRole('group', { name: 'Themes in desk' }).getByText('Lamps')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('group', { name: 'Themes in desk' }).getByText('Lamps')).toBeHidden();
  await page.getByRole('button', { name: 'Remove desk' }).click();
  await expect(yieldOf(page, 'themes')).toContainText('1');
  await page.keyboard.press('Control+z');
  await expect(yieldOf(page, 'themes')).toContainText('2');
});
