import type { Page } from '@playwright/test';
import { expect, test } from './server.ts';
import { go, graveProblems, openPlan } from './steps.ts';
import { mixedPaste, semicolons, utf16Report, workbook } from './ugly-files.ts';

const pool = (page: Page) => page.getByRole('grid', { name: 'Pool' });

/** The whole pool as it is copied: keyword, asked as, searches, CPC, competition, by keyword. Asked again while rows change. */
async function copied(page: Page, state: string): Promise<Record<string, string>> {
  await page
    .getByRole('group', { name: 'Which keywords' })
    .getByRole('button', { name: state, exact: true })
    .click();
  await page.evaluate(() => navigator.clipboard.writeText(''));
  await page.locator('[data-table-body]').focus();
  const clipboard = () => page.evaluate(() => navigator.clipboard.readText());
  // What was selected before the rows of this state had come is not among them: selected anew.
  await expect(async () => {
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Control+c');
    await expect.poll(clipboard, { timeout: 2_000 }).not.toBe('');
  }).toPass();
  await expect(page.getByText(/^Copied \d+ rows? with headings/).last()).toBeVisible();
  await page.keyboard.press('Escape');
  const text = await clipboard();
  const [, ...rows] = text.split('\n').map((line) => line.split('\t'));
  return Object.fromEntries(
    rows.map(([keyword = '', asked, searches, cpc, competition]) => [
      keyword,
      [asked, searches, cpc, competition].join(' / '),
    ]),
  );
}

test('four ugly files, look-alikes, words from the keyboard, undo, a source less: every figure worked out by hand', async ({
  page,
  url,
}) => {
  await openPlan(page, url);

  // Two files at once: each is shown before it goes in, one after the other.
  await page.locator('input[type=file]').setInputFiles([
    { name: 'report.tsv', mimeType: 'text/plain', buffer: utf16Report },
    { name: 'liste.csv', mimeType: 'text/csv', buffer: semicolons },
  ]);
  await expect(page.getByText('by the headings in line 4')).toBeVisible();
  await expect(page.getByText('3 lines set aside, and kept with the source')).toBeVisible();
  await page.getByRole('button', { name: 'Take in 5 keywords, then 1 more file', exact: true }).click();
  await expect(page.getByText('liste.csv').first()).toBeVisible();
  // The heading of its first column says nothing to us: it is told by its words.
  await expect(page.getByLabel('Column 1')).toHaveValue('keyword');
  await expect(page.getByText('Its amounts are in EUR')).toBeVisible();
  await page.getByRole('button', { name: /^GBP for one EUR/ }).click();
  await page.getByLabel('GBP for one EUR').fill('0.86');
  await page.getByLabel('GBP for one EUR').press('Enter');
  await page.getByRole('button', { name: 'Take in 5 keywords', exact: true }).click();
  await expect(pool(page)).toHaveAttribute('aria-rowcount', '10');

  // A workbook: its second sheet.
  await page
    .locator('input[type=file]')
    .setInputFiles([{ name: 'list.xlsx', mimeType: 'application/octet-stream', buffer: await workbook() }]);
  await page.getByLabel('Sheet of the workbook').selectOption({ label: 'Keywords' });
  await expect(page.getByText('2 lines with errors; the others go in all the same')).toBeVisible();
  await page.getByRole('button', { name: 'Take in 3 keywords', exact: true }).click();
  await expect(pool(page)).toHaveAttribute('aria-rowcount', '13');

  // A paste without a header.
  await page.evaluate((text) => navigator.clipboard.writeText(text), mixedPaste);
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: 'Take in 7 keywords and 1 negative', exact: true }).click();
  await expect(pool(page)).toHaveAttribute('aria-rowcount', '18');
  await expect
    .poll(() => copied(page, 'In'))
    .toEqual({
      'kayak hire': 'exact / 1500 / 0.86 / 66',
      'hire kayak': ' / 110 / 0.74 / 66',
      'kyak hire': ' / 20 / 0.70 / 40',
      'kayak jobs': ' / 90 / 0.10 / 5',
      'paddle board': ' / 2400 / 0.62 / 50',
      'café canoe': ' / 1300 / 0.344 / ',
      paddleboard: ' / 880 / 0.86 / ',
      'paddle boards': ' / 720 /  / ',
      'canoe free plans': ' / 40 / 0.086 / ',
      'canoe hire': 'exact / 150 /  / ',
      'sea kayak': 'modified broad, phrase / 70 /  / ',
      'dry bag': ' /  /  / ',
      'sit-on-top kayak': ' / 320 /  / ',
      'sit on top kayak': 'phrase / 210 /  / ',
      'fathom & reed kayak': ' / 60 /  / ',
      'how to store a kayak': ' / 30 /  / ',
      'rare kayak thing': ' / 3 /  / ',
    });

  // Look-alikes: three groups, each with the most searched kept.
  await go(page, 'Prune');
  await page.getByRole('button', { name: /^Look-alikes/ }).click();
  await expect(page.getByRole('button', { name: 'Fold 5 keywords into 3', exact: true })).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'kyak hire' }).last()).toContainText(
    'likely misspelling',
  );
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('f');
  await expect(page.getByText('Folded 2 keywords into paddle board.')).toBeVisible();
  await page.getByRole('button', { name: 'Fold 3 keywords into 2', exact: true }).click();
  await expect(page.getByText('No look-alikes are left')).toBeVisible();
  await expect(page.locator('[data-yield=folded]')).toContainText('5');
  await page.locator('body').press('Control+z');
  await expect(page.getByRole('button', { name: 'Fold 3 keywords into 2', exact: true })).toBeVisible();
  await page.locator('body').press('Control+Shift+z');
  await expect(page.locator('[data-yield=folded]')).toContainText('5');

  // Words from the keyboard alone: hire is kept, jobs and plans are blocked, one is taken back and blocked as a phrase.
  await page.getByRole('button', { name: /^Words/ }).click();
  const word = page.getByRole('region', { name: 'Undecided' }).locator('p.font-semibold').first();
  await page.locator('body').click({ position: { x: 5, y: 300 } });
  const judge = async (text: string, key: string) => {
    for (let steps = 0; (await word.textContent()) !== text; steps++) {
      expect(steps, `looking for ${text}`).toBeLessThan(40);
      const before = await word.textContent();
      await page.keyboard.press('ArrowDown');
      await expect(word).not.toHaveText(before ?? '');
    }
    await expect(page.getByText(`with ${text}, most searched first`)).toBeVisible();
    await page.keyboard.press(key);
    await expect(word).not.toHaveText(text);
    for (let steps = 0; steps < 40; steps++) await page.keyboard.press('ArrowUp');
  };
  await judge('hire', 'ArrowLeft');
  await expect(page.getByRole('region', { name: 'Kept' })).toContainText('hire');
  await judge('jobs', 'ArrowRight');
  await expect(page.locator('[data-yield=blocked]')).toContainText('1');
  await judge('plans', 'ArrowRight');
  await expect(page.locator('[data-yield=blocked]')).toContainText('2');
  await page.keyboard.press('Control+z');
  await expect(page.locator('[data-yield=blocked]')).toContainText('1');
  await expect(page.getByRole('region', { name: 'Blocked' })).not.toContainText('plans');

  // Ready filters: the rare one goes; a rival of the brief is found.
  await page.getByRole('button', { name: /^Low volume/ }).click();
  await page.getByRole('button', { name: 'Cut 1 keyword', exact: true }).click();
  await expect(page.locator('[data-yield=cut]')).toContainText('1');
  await go(page, 'Brief');
  await page.getByRole('button', { name: /^Rivals that may not be named/ }).click();
  await page.getByLabel('Rivals that may not be named', { exact: true }).fill('Fathom & Reed');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await go(page, 'Prune');
  await page.getByRole('button', { name: 'Rivals 1' }).click();
  await page.getByRole('button', { name: 'Cut 1 keyword', exact: true }).click();
  await expect(page.locator('[data-yield=cut]')).toContainText('2');

  // A source less: what only it brought goes, the others give their figures again, and its keepers let go.
  await go(page, 'Gather');
  await page.getByRole('button', { name: /^liste\.csv/ }).click();
  await page.getByRole('button', { name: 'Rename the source liste.csv' }).click();
  await page.getByLabel('Name of the source').fill('Autumn list');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Remove the source Autumn list' }).click();
  await expect(page.getByText(/4 keywords that no other source brings will leave/)).toBeVisible();
  await page.getByRole('button', { name: 'Remove the source and 4 keywords' }).click();
  await expect(page.getByRole('button', { name: /^Autumn list/ })).toHaveCount(0);
  await expect
    .poll(() => copied(page, 'In'))
    .toEqual({
      'kayak hire': 'exact / 1300 / 0.80 / 66',
      'paddle board': ' / 2400 / 0.62 / 50',
      'canoe hire': 'exact / 150 /  / ',
      'sea kayak': 'modified broad, phrase / 70 /  / ',
      'dry bag': ' /  /  / ',
      'sit-on-top kayak': ' / 320 /  / ',
      'how to store a kayak': ' / 30 /  / ',
    });
  const texts = async (state: string) =>
    Object.keys(await copied(page, state))
      .map((text) => text.replace(/ folded into.*/, ''))
      .sort();
  await expect.poll(() => texts('Folded')).toEqual(['hire kayak', 'kyak hire', 'sit on top kayak']);
  await expect.poll(() => texts('Blocked')).toEqual(['kayak jobs']);
  await expect.poll(() => texts('Cut')).toEqual(['fathom & reed kayak', 'rare kayak thing']);
  await page.locator('body').press('Control+z');
  await expect(page.getByRole('button', { name: /^Autumn list/ })).toBeVisible();
  await page.reload();
  await page
    .getByRole('group', { name: 'Which keywords' })
    .getByRole('button', { name: 'In', exact: true })
    .click();
  await expect(pool(page).getByRole('row').filter({ hasText: 'kayak hire' })).toContainText('1,500');
});

test('a picked column is remembered for the next file of its kind', async ({ page, url }) => {
  await openPlan(page, url);
  const buffer = Buffer.from('Group;Words;Volume\nboats;kayak;10\nboats;canoe;20\n');
  const bring = (name: string) =>
    page.locator('input[type=file]').setInputFiles([{ name, mimeType: 'text/csv', buffer }]);
  await bring('one.csv');
  await expect(page.getByLabel('Column 1')).toHaveValue('keyword');
  await page.getByLabel('Column 2').selectOption('keyword');
  await page.getByRole('button', { name: 'Take in 2 keywords', exact: true }).click();
  await expect(pool(page)).toHaveAttribute('aria-rowcount', '3');
  await page.reload();
  await bring('two.csv');
  await expect(page.getByLabel('Column 2')).toHaveValue('keyword');
  await expect(page.getByRole('button', { name: 'Take in 2 keywords', exact: true })).toBeVisible();
});

test('ideas from the pool’s own words: gaps, taken and dismissed, a class made a recipe', async ({
  page,
  url,
}) => {
  await openPlan(page, url);
  const traits = ['red', 'blue', 'green', 'small', 'large', 'glass'];
  const goods = ['mug', 'jug', 'bowl', 'plate', 'teapot', 'saucer'];
  const lines = traits.flatMap((trait, one) =>
    goods.map((good, other) => `${trait} ${good}\t${(one + 1) * (other + 2) * 40}\t0.${30 + other * 5}`),
  );
  const kept = lines.filter((line) => !/^(red jug|large plate)\t/.test(line));
  await page.evaluate((text) => navigator.clipboard.writeText(text), kept.join('\n'));
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: 'Take in 34 keywords', exact: true }).click();
  await expect(page.locator('[data-yield=groups]')).toContainText('34');
  await page.getByRole('button', { name: 'Ideas' }).click();
  const ideas = page.getByRole('grid', { name: 'Ideas' });
  const gap = (text: string) => ideas.getByRole('row').filter({ hasText: text });
  await expect(gap('red jug')).toContainText('like it');
  // 34 told keywords are enough to estimate from.
  await expect(gap('red jug')).toContainText('≈');
  await expect(gap('large plate')).toBeVisible();
  await expect(page.locator('[data-yield=found]')).toContainText('2');
  await expect(page.getByRole('button', { name: 'Take in 0 ideas' })).toBeDisabled();
  await gap('red jug').getByRole('checkbox').click();
  await page.getByRole('button', { name: 'Take in 1 idea', exact: true }).click();
  await expect(page.getByText('1 keyword went in. Ctrl+Z takes it back.')).toBeVisible();
  await expect(gap('red jug')).toHaveCount(0);
  await page.getByRole('toolbar', { name: 'Classes of gaps' }).getByRole('button').nth(1).click();
  const matrix = page.getByRole('region', { name: 'The class as a matrix' });
  await expect(matrix.getByTitle('large plate: missing')).toBeVisible();
  expect(await graveProblems(page)).toEqual([]);
  await matrix.getByRole('button', { name: 'Make a recipe of it' }).click();
  await expect(page.getByRole('article', { name: 'List Members' })).toBeVisible();
  await expect(page.locator('[data-yield=new]')).toContainText('1');
  await go(page, 'Gather');
  await page.getByRole('button', { name: 'Ideas' }).click();
  await gap('large plate').getByRole('checkbox').click();
  await page.getByRole('button', { name: /^Dismiss 1 idea/ }).click();
  await expect(page.getByRole('heading', { name: 'No gap is found' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'No gap is found' })).toBeVisible();
  await page.getByLabel('Where ideas come from').selectOption('around');
  await page.getByLabel('Words to start from').fill('small glass mug');
  await expect(gap('small glass jug')).toContainText('stands where');
  await page.getByLabel('Where ideas come from').selectOption('typed');
  await page.getByLabel('Words to start from').fill('gr');
  await expect(gap('green bowl')).toContainText('in the pool');
});

test('figures are told, estimated, taken and set by hand, each seen and sifted by its origin', async ({
  page,
  url,
}) => {
  await openPlan(page, url);
  const traits = ['red', 'blue', 'green', 'small', 'large', 'glass', 'white'];
  const goods = ['mug', 'jug', 'bowl', 'plate', 'teapot'];
  const lines = traits.flatMap((trait, one) =>
    goods.map((good, other) => `${trait} ${good}\t${(one + 1) * (other + 2) * 40}\t0.${30 + other * 5}`),
  );
  const text = [...lines.filter((line) => !line.startsWith('red jug')), 'red jug\t\t', 'odd thing\t\t'].join(
    '\n',
  );
  await page.evaluate((all) => navigator.clipboard.writeText(all), text);
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: 'Take in 36 keywords', exact: true }).click();
  const row = (words: string) => pool(page).getByRole('row').filter({ hasText: words });
  await page.getByLabel('Filter keywords').fill('red');
  await expect(row('red jug')).toContainText('≈');
  await expect(row('red mug')).not.toContainText('≈');
  await row('red jug').getByText(/^≈ \d/).first().hover();
  await expect(page.getByTitle(/^Estimated: jug .*, less 5 ≈ .*nine in ten lie between/)).toBeVisible();
  await page.getByLabel('Where searches are from').selectOption('estimated');
  await expect(page.locator('[data-yield=shown]')).toContainText('1');
  await page.getByLabel('Filter keywords').fill('');
  await page.getByLabel('Where searches are from').selectOption('none');
  await expect(row('odd thing')).toContainText('–');
  await page.getByLabel('Where searches are from').selectOption('all');
  await page.getByLabel('Filter keywords').fill('red');
  // Its bid is the plan’s default until the estimate is taken.
  await row('red jug').getByRole('checkbox').click();
  await page.getByRole('button', { name: 'Take estimated CPCs' }).click();
  await expect(page.getByText('Took 1 estimated CPC. Ctrl+Z takes it back.')).toBeVisible();
  await row('red jug').getByRole('checkbox').click();
  await page.getByRole('button', { name: 'Edit searches of red jug' }).click();
  await page.keyboard.type('1300');
  await page.keyboard.press('Enter');
  await expect(row('red jug')).toContainText('1,300');
  await page.getByLabel('Where searches are from').selectOption('estimated');
  await expect(page.getByRole('heading', { name: 'No keyword is left by this filter' })).toBeVisible();
});

test('made-up figures are asked for only where the brief says so', async ({ page, url }) => {
  await openPlan(page, url);
  await page.evaluate(() => navigator.clipboard.writeText('kayak hire'));
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: 'Take in 1 keyword', exact: true }).click();
  await expect(pool(page).getByRole('row').filter({ hasText: 'kayak hire' })).toContainText('–');
  await expect(page.getByRole('button', { name: /^Have figures made up/ })).toHaveCount(0);
  await go(page, 'Brief');
  await page.getByLabel('Who is asked for figures').selectOption('stand-in');
  await go(page, 'Gather');
  // By key: what stands before it in its row comes a moment later, and a click would come beside it.
  await page.getByRole('button', { name: 'Have figures made up for 1 keyword without any' }).press('Enter');
  await expect(page.getByText(/made up figures for 1 keyword/)).toBeVisible();
  await expect(pool(page).getByRole('row').filter({ hasText: 'kayak hire' })).toContainText('≈');
  await page.getByRole('button', { name: 'Ideas' }).click();
  await page.getByLabel('Where ideas come from').selectOption('market');
  await page.getByLabel('Words to start from').fill('kayak hire');
  const ideas = page.getByRole('grid', { name: 'Ideas' });
  await expect(ideas.getByRole('row').filter({ hasText: 'inflatable kayak' }).first()).toBeVisible();
  await page.getByLabel('Contains').fill('wrenport');
  await expect(ideas.getByRole('row').filter({ hasText: 'kayak hire wrenport' }).first()).toBeVisible();
  // A site is read by a job: the stand-in ones lie within the application.
  await page.getByLabel('Where ideas come from').selectOption('site');
  await page.getByLabel('Contains').fill('');
  await page.getByLabel('Address of the site').fill('http://10.0.0.1/');
  await page.getByRole('button', { name: 'Read the site' }).click();
  await expect(page.getByRole('alert')).toContainText('private network');
  await page.getByLabel('Address of the site').fill('saltmarshpaddle.example');
  await page.getByRole('button', { name: 'Read the site' }).click();
  await expect(page.getByText(/pages of https:\/\/saltmarshpaddle\.example/)).toBeVisible();
  await expect(ideas.getByRole('row').filter({ hasText: 'inflatable kayaks' }).first()).toContainText('page');
  await page.getByLabel('Where ideas come from').selectOption('gaps');
});

test('words judged as fast as the keys go: none comes back while it is stored, and a block is taken off where it lies', async ({
  page,
  url,
}) => {
  await openPlan(page, url);
  const words = ['amber', 'birch', 'cedar', 'dogwood', 'elder', 'furze', 'gorse', 'hazel'];
  const lines = words.flatMap((word, at) =>
    Array.from({ length: 1_000 }, (_, nth) => `${word} number${at}x${nth}\t${(9 - at) * 100}`),
  );
  await page.evaluate((text) => navigator.clipboard.writeText(text), lines.join('\n'));
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: 'Take in 8,000 keywords', exact: true }).click();
  await go(page, 'Prune');
  const word = page.getByRole('region', { name: 'Undecided' }).locator('p.font-semibold').first();
  await expect(word).toHaveText('amber');
  await page.evaluate(() => {
    const seen: string[] = [];
    Object.assign(window, { seen });
    const look = () => {
      const text = document.querySelector('[aria-label=Undecided] p.font-semibold')?.textContent ?? '';
      if (text !== seen.at(-1)) seen.push(text);
      requestAnimationFrame(look);
    };
    look();
  });
  for (const key of ['ArrowRight', 'ArrowLeft', 'ArrowRight', 'ArrowLeft', 'ArrowRight'])
    await page.keyboard.press(key);
  const blocked = page.getByRole('region', { name: 'Blocked' });
  await expect(page.locator('[data-yield=blocked]')).toContainText('3,000');
  await expect(blocked.getByRole('button')).toHaveCount(3);
  await expect(page.getByRole('region', { name: 'Kept' }).getByRole('button')).toHaveCount(2);
  expect(await page.evaluate(() => (window as unknown as { seen: string[] }).seen)).toEqual(
    words.slice(0, 6),
  );
  await blocked.getByRole('button', { name: 'Unblock: cedar' }).click();
  await expect(page.locator('[data-yield=blocked]')).toContainText('2,000');
  await expect(word).toHaveText('cedar');
});

test('negatives: typed in any notation, their conflicts told and settled, a shared list attached', async ({
  page,
  url,
}) => {
  await openPlan(page, url);
  await page.evaluate(() => navigator.clipboard.writeText('kayak hire\nkayak\nkayak jobs\nfree kayak'));
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: 'Take in 4 keywords', exact: true }).click();
  await go(page, 'Prune');
  await page.getByRole('button', { name: /^Negatives/ }).click();
  const field = page.getByLabel('Negative keywords to add');
  await field.fill('-[open');
  await expect(page.getByRole('alert')).toContainText('Line 1: The bracket at column 2');
  await page.getByLabel('What it does').selectOption('hand');
  await field.fill('-hire\n"sup meaning"');
  await page.getByRole('button', { name: 'Add 2 negative keywords' }).click();
  await expect(page.getByText('One stands against keywords of the plan’s own')).toBeVisible();
  await go(page, 'Ship');
  await expect(page.getByText('1 keyword blocked by negatives of the plan’s own.')).toBeVisible();
  await page.getByRole('link', { name: 'Judge them in Prune' }).click();
  await page.getByRole('button', { name: 'Block them' }).click();
  await expect(page.locator('[data-yield=blocked]')).toContainText('1');
  await page.getByRole('button', { name: /^Shared lists/ }).click();
  const list = page.getByRole('listitem').filter({ hasText: 'Work and training' });
  await expect(list).toContainText('Would take out 1 keyword');
  await list.getByRole('button', { name: 'Attach' }).click();
  await expect(page.locator('[data-yield=blocked]')).toContainText('2');
  await page.locator('body').press('Control+z');
  await expect(page.locator('[data-yield=blocked]')).toContainText('1');
  await list.getByRole('button', { name: /^Work and training/ }).click();
  const renamed = async (typed: string) => {
    await page.getByRole('button', { name: 'Edit name of the list' }).click();
    await page.getByLabel('name of the list', { exact: true }).fill(typed);
    await page.keyboard.press('Enter');
  };
  await renamed('for nothing');
  await expect(page.getByRole('alert')).toContainText('Another shared list is called “for nothing”.');
  await page.keyboard.press('Escape');
  await renamed('Work and pay');
  await expect(page.getByRole('listitem').filter({ hasText: 'Work and pay' })).toBeVisible();
});

test('many texts are changed at once, shown before and after; one that can’t be is told and the others go through', async ({
  page,
  url,
}) => {
  await openPlan(page, url);
  const asked = ['canoe rental', 'kayak rental', 'kayak hire', 'paddle map'];
  await page.evaluate((lines) => navigator.clipboard.writeText(lines.join('\n')), asked);
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: 'Take in 4 keywords', exact: true }).click();
  await expect(pool(page).getByRole('row').filter({ hasText: 'paddle map' })).toBeVisible();
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('r');
  const panel = page.getByRole('dialog', { name: 'Change the text of 4 keywords' });
  await panel.getByLabel('a regular expression').check();
  await panel.getByLabel('Find').fill('rental(');
  await expect(panel.getByRole('alert')).toContainText('This pattern can’t be used');
  await panel.getByLabel('Find').fill('^(\\w+) rental$');
  await panel.getByLabel('Replace by').fill('$1 hire');
  await expect(panel.getByRole('table', { name: 'Before and after' }).getByRole('row')).toHaveText([
    /canoe rental→canoe hire/,
    /kayak rental→kayak hire/,
  ]);
  await panel.getByRole('button', { name: 'Change 2 keywords' }).click();
  await expect(panel.getByRole('alert')).toContainText('“kayak hire” is in the pool already.');
  await panel.getByRole('button', { name: 'Close' }).click();
  await expect(pool(page).getByRole('row').filter({ hasText: 'canoe hire' })).toBeVisible();
  await expect(pool(page).getByRole('row').filter({ hasText: 'kayak rental' })).toBeVisible();
  await page.locator('body').press('Control+z');
  await expect(pool(page).getByRole('row').filter({ hasText: 'canoe rental' })).toBeVisible();
});

test('the brief: facts are kept as they are left, refused in place, and asked twice where it matters', async ({
  page,
  url,
}) => {
  await openPlan(page, url);
  await go(page, 'Brief');
  await page.getByRole('button', { name: /^Places:/ }).click();
  await page.getByLabel('Places', { exact: true }).fill('Wrenport | wren port\nHeronsea');
  await page.getByLabel('Places', { exact: true }).press('Control+Enter');
  await expect(page.getByRole('button', { name: 'Places: Wrenport, Heronsea' })).toBeVisible();
  await page.getByRole('button', { name: /^Schedule:/ }).click();
  await page.getByLabel('Schedule', { exact: true }).fill('Mon 17-9');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('the time ends before it begins');
  await page.getByLabel('Schedule', { exact: true }).fill('Mon-Fri 9-17');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Schedule: Mon-Fri 9:00-17:00' })).toBeVisible();
  await page.getByLabel('Who the site is for').selectOption('adults');
  await page.getByRole('button', { name: 'It is for everyone' }).click();
  await expect(page.getByLabel('Who the site is for')).toHaveValue('all');
  await page.getByLabel('Who the site is for').selectOption('adults');
  await page.getByRole('button', { name: 'The site is for adults only' }).click();
  await expect(page.getByLabel('Who the site is for')).toHaveValue('adults');
  await page.reload();
  await expect(page.getByRole('button', { name: 'Places: Wrenport, Heronsea' })).toBeVisible();
  await expect(page.getByLabel('Who the site is for')).toHaveValue('adults');
  await expect(page.locator('[data-yield=facts]')).toContainText('3 facts set');
  await page.locator('body').press('Control+z');
  await expect(page.getByLabel('Who the site is for')).toHaveValue('all');
});

test('figures pasted into marked cells of the pool; without a marked cell a paste is a list', async ({
  page,
  url,
}) => {
  await openPlan(page, url, { list: 'kayak\ncanoe\nraft\n' });
  const grid = page.getByRole('grid', { name: 'Pool' });
  const searches = (text: string) =>
    grid.getByRole('row').filter({ hasText: text }).locator('[data-column=searches]');
  await expect(searches('raft')).toBeVisible();
  await page.evaluate(() => navigator.clipboard.writeText('300\t0.50\n1,200\t\nmany\t0.70'));
  await page.locator('[data-table-body]').focus();
  for (let step = 0; step < 3; step++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Control+v');
  const sheet = page.getByRole('dialog', { name: 'Paste into Pool' });
  await expect(sheet).toContainText('“many” is no number of searches');
  await sheet.getByRole('button', { name: 'Put 4 values in' }).click();
  await expect(sheet).toHaveCount(0);
  const texts = ['kayak', 'canoe', 'raft'];
  const shown = async () => {
    const figures = await Promise.all(texts.map((text) => searches(text).textContent()));
    return figures.map((figure) => figure?.trim()).sort();
  };
  await expect.poll(shown).toContain('1,200');
  expect(await shown()).toContain('300');
  await page.keyboard.press('Control+z');
  await expect.poll(shown).not.toContain('1,200');

  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('button', { name: /^Take in/ })).toBeVisible();
});
