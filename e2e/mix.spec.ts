import type { Locator, Page } from '@playwright/test';
import { expect, test } from './server.ts';
import { go, graveProblems, openPlan } from './steps.ts';

const pool = (page: Page) => page.getByRole('grid', { name: 'Pool' });
const yieldOf = (page: Page, name: string) => page.locator(`[data-yield=${name}]`);
const pattern = (page: Page, number: number) => page.getByRole('group', { name: `Pattern ${number}` });
const list = (page: Page, name: string) => page.getByRole('article', { name: `List ${name}` });

async function fill(page: Page, name: string, ...words: string[]) {
  await page.getByRole('button', { name: `Edit ${name} as text` }).click();
  const field = page.getByLabel(`${name}, one to a line`);
  await expect(field).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.evaluate((text) => navigator.clipboard.writeText(text), words.join('\n'));
  await page.keyboard.press('Control+v');
  await page.keyboard.press('Control+Enter');
  await expect(field).toBeHidden();
}

async function drag(page: Page, from: Locator, to: Locator, where = { x: 0.5, y: 0.5 }) {
  const start = await from.boundingBox();
  const end = await to.boundingBox();
  if (!start || !end) throw new Error('nothing to drag');
  await page.mouse.move(start.x + start.width / 2, start.y + start.height / 2);
  await page.mouse.down();
  await page.mouse.move(start.x + start.width / 2 + 12, start.y + start.height / 2 + 6, { steps: 3 });
  await page.mouse.move(end.x + end.width * where.x, end.y + end.height * where.y, { steps: 12 });
  await page.mouse.up();
}

const slots = (page: Page, number: number) =>
  pattern(page, number)
    .locator('[data-slot]')
    .evaluateAll((all) =>
      all.map(
        (slot) => slot.getAttribute('aria-label') ?? slot.querySelector('button')?.getAttribute('aria-label'),
      ),
    );

test('a recipe by drag: lists from the spreadsheet, slots moved, cuts in the matrix, and a pool that follows', async ({
  page,
  url,
}) => {
  await openPlan(page, url);
  await go(page, 'Mix');
  await expect(page.getByRole('heading', { name: 'No recipe yet' })).toBeVisible();
  await page.getByRole('button', { name: 'New recipe' }).click();
  await page.getByRole('menuitem', { name: 'empty' }).click();
  await page.getByRole('button', { name: 'Add a list' }).click();
  await page.getByRole('menuitem', { name: 'Paste columns of a spreadsheet' }).click();
  await page
    .getByRole('textbox', { name: 'Columns of a spreadsheet' })
    .fill(
      'Goods\tTowns\tTraits\nkayak | kayaks\tWrenport\tinflatable\ncanoe\tHeronsea\tcarbon\n\tPellanby\t',
    );
  await page.getByRole('button', { name: 'Make 3 lists' }).click();
  await expect(list(page, 'Towns')).toContainText('Pellanby');

  await page.getByRole('button', { name: 'Add a pattern' }).click();
  await page.getByRole('menuitem', { name: 'An empty row' }).click();
  await page.keyboard.press('Escape');
  const row = pattern(page, 1);
  await drag(page, page.locator('[data-grip=Towns]'), row);
  await expect.poll(() => slots(page, 1)).toEqual(['Towns, required, slot 1 of 1']);
  // Let go of on the first slot, it comes before it.
  await drag(page, page.locator('[data-grip=Traits]'), row.getByRole('button', { name: /^Towns/ }));
  await expect
    .poll(() => slots(page, 1))
    .toEqual(['Traits, required, slot 1 of 2', 'Towns, required, slot 2 of 2']);
  await drag(page, page.locator('[data-grip=Goods]'), row.getByRole('button', { name: /^Towns/ }));
  await expect(page.locator('[data-sample="1"]')).toHaveText('inflatable kayak wrenport');
  // A slot is moved within its row.
  await drag(page, row.getByRole('button', { name: /^Towns/ }), row.getByRole('button', { name: /^Traits/ }));
  await expect(page.locator('[data-sample="1"]')).toHaveText('wrenport inflatable kayak');
  await drag(page, row.getByRole('button', { name: /^Towns/ }), row.getByRole('button', { name: /^Goods/ }));
  await expect(page.locator('[data-sample="1"]')).toHaveText('inflatable kayak wrenport');
  await row.getByRole('button', { name: /^Traits/ }).dblclick();
  // (2 traits or none) × 3 forms of goods × 3 towns.
  await expect(page.locator('[data-count="1"]')).toHaveText('27');
  await expect(yieldOf(page, 'made')).toContainText('27');
  await expect(yieldOf(page, 'new')).toContainText('27');

  const matrix = page.getByRole('grid', { name: 'Traits against Goods' });
  await expect(
    matrix.getByRole('gridcell', { name: 'inflatable, kayak: no figure, 6 combinations' }),
  ).toBeVisible();
  await page.getByLabel('Columns of the matrix').selectOption({ label: 'Towns' });
  const towns = page.getByRole('grid', { name: 'Traits against Towns' });
  // A cell, a row, a column: 1 trait × 3 goods, then what is left of 9, then of 9.
  await towns.getByRole('gridcell', { name: /^carbon, pellanby/ }).click();
  await expect(yieldOf(page, 'cut')).toContainText('3');
  await expect(towns.getByRole('gridcell', { name: /^carbon, pellanby: cut/ })).toBeVisible();
  await towns.getByRole('button', { name: 'Cut 6 combinations with carbon' }).click();
  await expect(yieldOf(page, 'cut')).toContainText('9');
  await towns.getByRole('button', { name: 'Cut 6 combinations with pellanby' }).click();
  await expect(yieldOf(page, 'cut')).toContainText('15');
  await towns.getByRole('button', { name: 'Put back 9 combinations with carbon' }).click();
  await expect(yieldOf(page, 'cut')).toContainText('6');
  await page.getByRole('button', { name: 'Put 21 keywords into the pool' }).click();
  await expect(page.getByRole('button', { name: 'Take out of the pool' })).toBeVisible();
  await expect(yieldOf(page, 'made')).toContainText('27');

  await go(page, 'Gather');
  await expect(pool(page)).toHaveAttribute('aria-rowcount', '22');
  await go(page, 'Mix');
  // The list changes, and the pool follows; what was cut stays cut.
  await fill(page, 'Towns', 'Wrenport', 'Pellanby', 'Marrowquay');
  await expect(yieldOf(page, 'cut')).toContainText('6');
  await go(page, 'Gather');
  await page.getByLabel('Filter keywords').fill('heronsea');
  await expect(page.getByRole('heading', { name: /No keyword/ })).toBeVisible();
  await page.getByLabel('Filter keywords').fill('marrowquay');
  await expect(pool(page)).toHaveAttribute('aria-rowcount', '10');
  await page.getByLabel('Filter keywords').fill('');
  await page.getByRole('button', { name: /^Undo: Change the lists/ }).click();
  await page.getByLabel('Filter keywords').fill('heronsea');
  await expect(pool(page)).toHaveAttribute('aria-rowcount', '10');
});

test('the same from the keyboard alone', async ({ page, url }) => {
  await openPlan(page, url);
  const press = (key: string) => page.keyboard.press(key);
  const tabTo = async (target: Locator) => {
    // Behind the last place there is the browser's own frame, which is not there here: then the other way round.
    for (const key of ['Tab', 'Shift+Tab'])
      for (let times = 0; times < 80; times++) {
        if (await target.evaluate((element) => element === document.activeElement)) return;
        await press(key);
      }
    throw new Error('not reached by Tab');
  };
  await press('g');
  await press('3');
  await expect(page.getByRole('heading', { name: 'No recipe yet' })).toBeVisible();
  await tabTo(page.getByRole('button', { name: 'New recipe' }));
  await press('Enter');
  await expect(page.getByRole('menuitem').first()).toBeFocused();
  await press('ArrowUp');
  await press('Enter');
  await expect(page.getByRole('button', { name: 'Add a list' })).toBeVisible();
  for (const [name, words] of [
    ['Goods', ['kayak|kayaks', 'canoe']],
    ['Towns', ['wrenport', 'heronsea']],
  ] as const) {
    await tabTo(page.getByRole('button', { name: 'Add a list' }));
    await press('Enter');
    await expect(page.getByRole('menuitem').first()).toBeFocused();
    await press('Enter');
    const field = page.getByLabel('List, one to a line');
    await expect(field).toBeFocused();
    await page.keyboard.type(words.join('\n'));
    await press('Control+Enter');
    await expect(field).toBeHidden();
    await tabTo(
      page.getByRole('button', { name: 'Edit Name of List' }).or(list(page, 'List').locator('[data-edit]')),
    );
    await press('Enter');
    await page.keyboard.type(name);
    await press('Enter');
    await expect(list(page, name)).toBeVisible();
  }
  await tabTo(page.getByRole('button', { name: 'Add a pattern' }));
  await press('Enter');
  await expect(page.getByRole('menuitem').first()).toBeFocused();
  await press('Enter');
  const add = page.getByLabel('Add to pattern 1');
  await expect(add).toBeFocused();
  for (const typed of ['tow', 'hire', 'goo']) {
    await page.keyboard.type(typed);
    await press('Enter');
  }
  await expect
    .poll(() => slots(page, 1))
    .toEqual([
      'Towns, required, slot 1 of 3',
      'Joining word, slot 2 of 3: hire',
      'Goods, required, slot 3 of 3',
    ]);
  await press('Shift+Tab');
  await expect(page.getByRole('button', { name: /^Goods, required/ })).toBeFocused();
  await press('Alt+ArrowLeft');
  await press('Alt+ArrowLeft');
  await expect(page.locator('[data-sample="1"]')).toHaveText('kayak wrenport hire');
  await press('ArrowRight');
  await expect(page.getByRole('button', { name: /^Towns, required, slot 2/ })).toBeFocused();
  await press('Alt+ArrowRight');
  await press('o');
  await expect(page.locator('[data-sample="1"]')).toHaveText('kayak hire wrenport');
  await expect(page.locator('[data-count="1"]')).toHaveText('9');
  await press('f');
  await expect(page.locator('[data-count="1"]')).toHaveText('18');
  await press('f');
  await expect(yieldOf(page, 'made')).toContainText('9');

  // The matrix: the second column of the first row, then the whole row, and back.
  const matrix = page.getByRole('grid', { name: 'Goods against Towns' });
  await expect(matrix.getByRole('gridcell', { name: /^kayak, wrenport: no figure/ })).toBeVisible();
  await tabTo(matrix);
  await press('ArrowRight');
  await press('c');
  await expect(yieldOf(page, 'cut')).toContainText('2');
  await press('r');
  await expect(yieldOf(page, 'cut')).toContainText('6');
  // What a key does is what the row says.
  await expect(matrix.getByRole('button', { name: /^Put back 6 combinations with / })).toBeVisible();
  await press('r');
  await expect(yieldOf(page, 'cut')).toContainText('0');
  await expect(matrix.getByRole('button', { name: /^Put back/ })).toHaveCount(0);
  await press('v');
  await expect(yieldOf(page, 'cut')).toContainText('3');
  // The flat list: cut one, put another back.
  await press('l');
  const table = page.getByRole('grid', { name: 'Combinations' });
  await expect(table).toHaveAttribute('aria-rowcount', '10');
  await tabTo(page.locator('[data-table-body]'));
  await press('c');
  await expect(yieldOf(page, 'cut')).toContainText('4');
  await press('j');
  await press('b');
  await expect(yieldOf(page, 'cut')).toContainText('3');
  await tabTo(page.getByRole('button', { name: 'Put 6 keywords into the pool' }));
  await press('Enter');
  await expect(page.getByRole('button', { name: 'Take out of the pool' })).toBeVisible();
  await press('g');
  await press('2');
  await expect(pool(page)).toHaveAttribute('aria-rowcount', '7');
  await press('Control+z');
  await expect(page.getByRole('heading', { name: 'The pool is empty' })).toBeVisible();
});

test('bad input: what is empty, twice, circular or too much says so', async ({ page, url }) => {
  await openPlan(page, url);
  await go(page, 'Mix');
  await page.getByRole('button', { name: 'trait thing', exact: true }).click();
  await expect(pattern(page, 1)).toContainText('Traits has no words, so this makes nothing');
  await fill(page, 'Traits', 'sea', 'carbon');
  await fill(page, 'Things', 'kayak', 'sea!', '[canoe]', '-jobs', 'sea kayak');
  await expect(list(page, 'Things')).toContainText('2 lines to mend');
  // sea + sea kayak says a word twice.
  await expect(yieldOf(page, 'dropped')).toContainText('1');
  await yieldOf(page, 'dropped').click();
  await expect(page.getByText('sea sea kayak', { exact: true })).toBeVisible();
  await yieldOf(page, 'dropped').click();

  // Nothing but optional slots, and a list twice.
  for (const name of ['Traits', 'Things'])
    await pattern(page, 1)
      .getByRole('button', { name: new RegExp(`^${name}`) })
      .dblclick();
  await expect(page.locator('[data-count="1"]')).toHaveText('12');
  await yieldOf(page, 'dropped').click();
  await expect(page.getByText('1 are empty').or(page.getByText('1 is empty'))).toBeVisible();
  await yieldOf(page, 'dropped').click();

  // Far too much: the list to shorten is named, and the screen stays live.
  await fill(page, 'Things', ...Array.from({ length: 50_000 }, (_, at) => `thing ${at}`));
  await expect(page.locator('[data-count="1"]')).toHaveText('150,003');
  await page.getByLabel('Add to pattern 1').fill('thi');
  await page.getByLabel('Add to pattern 1').press('Enter');
  await expect(page.getByRole('alert')).toContainText(
    '7,500,150,000 combinations are more than the 2,000,000',
  );
  await expect(page.getByRole('alert')).toContainText('Shorten Things from 50,000 to');
  await page.getByLabel('Add to pattern 1').press('Backspace');
  await expect(yieldOf(page, 'made')).toContainText('150,002');

  // A circle of shared lists is refused by its names.
  await page.getByRole('button', { name: 'Shared lists' }).click();
  const panel = page.getByRole('dialog', { name: 'Shared lists' });
  await panel.getByRole('button', { name: 'Make a shared list' }).click();
  await expect(panel.getByRole('listitem', { name: 'Shared list', exact: true })).toBeVisible();
  await panel.getByRole('button', { name: 'Make a shared list' }).click();
  await panel
    .getByRole('listitem', { name: 'Shared list', exact: true })
    .getByRole('button', { name: 'Shared list 2' })
    .click();
  await panel
    .getByRole('listitem', { name: 'Shared list 2' })
    .getByRole('button', { name: 'Shared list', exact: true })
    .click();
  await expect(panel.getByRole('alert')).toContainText('a list can’t take itself in');
});

test('variants of a paste, without a plan, to the clipboard', async ({ page, url }) => {
  await page.goto(url);
  await page.getByRole('link', { name: 'Match variants of any list' }).click();
  const field = page.getByLabel('Keywords, one to a line');
  await expect(field).toBeFocused();
  await page.evaluate(() =>
    navigator.clipboard.writeText('hire a kayak\n"canoe hire"\n-jobs\nsea! kayak\nhire a kayak'),
  );
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('status')).toContainText('2 keywords, 1 negative, 1 line said before');
  await expect(page.getByText('1 line with errors; the others are used all the same')).toBeVisible();
  const copied = async (button: string) => {
    await page.evaluate(() => navigator.clipboard.writeText(''));
    await page.getByRole('button', { name: button }).click();
    const clipboard = () => page.evaluate(() => navigator.clipboard.readText());
    // The message may still be the one of the copy before.
    await expect.poll(clipboard).not.toBe('');
    return clipboard();
  };
  expect(await copied('Copy 6 rows')).toBe(
    '"hire a kayak"\n[hire a kayak]\n"canoe hire"\n[canoe hire]\n-"jobs"\n-[jobs]',
  );
  await page.getByRole('checkbox', { name: /Modified broad/ }).check();
  await page.getByLabel('Which words are marked').selectOption('content');
  await page.getByRole('checkbox', { name: /Phrase/ }).uncheck();
  expect((await copied('Copy 5 rows')).split('\n')[0]).toBe('+hire a +kayak');
  await page.getByLabel('Form').selectOption('columns');
  await page.getByRole('button', { name: /^Base of the bids/ }).click();
  await page.keyboard.type('0.40');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('columnheader', { name: 'Max CPC' })).toBeVisible();
  expect(await copied('Copy 5 rows')).toBe(
    'Keyword\tMatch type\tMax CPC\n+hire a +kayak\tModified broad\t0.34\nhire a kayak\tExact\t0.50\n+canoe +hire\tModified broad\t0.34\ncanoe hire\tExact\t0.50\njobs\tNegative exact\t',
  );
  // Cells are marked as text, so that a + never becomes a formula.
  const html = await page.evaluate(async () => {
    const [item] = await navigator.clipboard.read();
    return (await item?.getType('text/html'))?.text();
  });
  expect(html).toContain('+hire a +kayak');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download' }).click();
  expect((await download).suggestedFilename()).toBe('variants.tsv');
  // The settings are in the address: a link brings them back.
  await page.reload();
  await expect(page.getByRole('checkbox', { name: /Phrase/ })).not.toBeChecked();
  await expect(page.getByLabel('Form')).toHaveValue('columns');
});

test('recipes: made from a shape, copied, renamed, ordered, switched off, removed; nothing serious for axe', async ({
  page,
  url,
}) => {
  await openPlan(page, url);
  await go(page, 'Mix');
  await page.getByRole('button', { name: 'want thing place', exact: true }).click();
  await fill(page, 'Things', 'kayak');
  const ribbon = page.getByRole('region', { name: 'Recipes' });
  const names = () =>
    ribbon
      .locator('button[aria-pressed]')
      .evaluateAll((all) => all.map((one) => one.querySelector('span')?.textContent));
  const more = async (name: string, action: string) => {
    await ribbon.getByRole('button', { name: `More for ${name}` }).click();
    await page.getByRole('menuitem', { name: action, exact: true }).click();
  };
  await more('Want thing place', 'Copy');
  await expect.poll(names).toEqual(['Want thing place', 'Want thing place copy']);
  await more('Want thing place copy', 'Rename');
  await page.getByLabel('Name of the recipe').fill('By want');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await expect.poll(names).toEqual(['Want thing place', 'By want']);
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await ribbon.getByRole('button', { name: /^By want/ }).focus();
  await expect(ribbon.getByRole('button', { name: /^By want/ })).toBeFocused();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect.poll(names).toEqual(['By want', 'Want thing place']);
  await page.getByRole('button', { name: 'Put 5 keywords into the pool' }).click();
  await expect(ribbon.getByText('in the pool', { exact: true })).toBeVisible();
  expect(await graveProblems(page)).toEqual([]);
  await more('By want', 'Switch off');
  await expect(ribbon.getByText('off', { exact: true })).toBeVisible();
  await go(page, 'Gather');
  await expect(
    page.getByRole('region', { name: 'Sources' }).getByRole('button', { name: /By want/ }),
  ).toContainText('By want0');
  await go(page, 'Mix');
  await ribbon
    .getByRole('button', { name: /^By want|^switched off/ })
    .first()
    .click();
  await more('By want', 'Remove');
  await page.getByRole('button', { name: 'Remove the recipe' }).click();
  await expect.poll(names).toEqual(['Want thing place']);
  await page.keyboard.press('Control+z');
  await expect.poll(names).toEqual(['By want', 'Want thing place']);
});

test('a list’s words get their plurals or singulars from its menu', async ({ page, url }) => {
  await openPlan(page, url, { name: 'Dentist', site: 'dentist.example' });
  await go(page, 'Mix');
  await page.getByRole('button', { name: 'New recipe' }).click();
  await page.getByRole('menuitem', { name: 'empty' }).click();
  await page.getByRole('button', { name: 'Add a list' }).click();
  await page.getByRole('menuitem', { name: 'Paste columns of a spreadsheet' }).click();
  await page
    .getByRole('textbox', { name: 'Columns of a spreadsheet' })
    .fill('Goods\tTowns\ncrown\tMilltown\nbridges\t\nchess\t');
  await page.getByRole('button', { name: 'Make 2 lists' }).click();
  await page.getByRole('button', { name: 'More for Goods' }).click();
  await page.getByRole('menuitem', { name: 'Give each word its plural or singular' }).click();
  await expect(list(page, 'Goods')).toContainText('crown | crowns');
  await expect(list(page, 'Goods')).toContainText('bridges | bridge');
  await expect(
    page.getByText('2 words of Goods got their plural or singular; 1 word has none that is known.'),
  ).toBeVisible();
});
