import type { Page } from '@playwright/test';
import { expect, test } from './server.ts';
import { go, graveProblems, openPlan } from './steps.ts';

/** 200 keywords, each an ad group of its own: short ones, long ones and very long ones. */
const traits = [
  'sea',
  'touring',
  'inflatable',
  'sit on top',
  'two person',
  'fishing',
  'folding',
  'kids',
  'carbon',
  'lightweight',
];
const goods = ['kayak', 'canoe', 'paddle board', 'buoyancy aid'];
const wants = ['', ' hire', ' for sale', ' near me', ' price'];
const keywords = goods.flatMap((good) =>
  wants.flatMap((want) => traits.map((trait) => `${trait} ${good}${want}`)),
);
const LIST = keywords.map((text, at) => `${text}\t${1_000 - at}\t0.50`).join('\n');

const line = (page: Page, label: string) => page.getByLabel(label, { exact: true });
async function write(page: Page, label: string, text: string) {
  await line(page, label).fill(text);
  await line(page, label).press('Enter');
}
const yieldOf = (page: Page, name: string) => page.locator(`[data-yield=${name}]`);
const ribbon = (page: Page) => page.getByRole('region', { name: 'Ad patterns' });
const view = (page: Page, name: RegExp) =>
  page.getByRole('region', { name: 'Write', exact: true }).getByRole('button', { name }).click();
const built = (page: Page) => expect(page.getByText('Building …')).toHaveCount(0);

test('two patterns with fallbacks for 200 groups; misfits cured from the keyboard; a split test; a writer’s sheet', async ({
  page,
  url,
}) => {
  await openPlan(page, url, { list: LIST, stage: 'write' });
  await expect(yieldOf(page, 'groups')).toContainText('200 ad groups');

  // The first pattern: a line and a fallback; the counts follow what is typed.
  await write(page, 'Headline 1, line 1', '@keyword today in Eastmere');
  await page.getByRole('button', { name: 'Add a line to Headline 1' }).click();
  await write(page, 'Headline 1, line 2', '@keyword in Eastmere');
  await write(page, 'Headline 2, line 1', 'Saltmarsh Paddle Co.');
  await write(page, 'Description 1, line 1', 'Try @keyword(lower) on the water first, then decide.');
  const fits = (text: string) => text.length <= 32;
  const one = keywords.filter((text) => fits(`${text} today in Eastmere`)).length;
  const two = keywords.filter((text) => fits(`${text} in Eastmere`)).length - one;
  const none = keywords.length - one - two;
  const cured = keywords.filter((text) => !fits(`${text} in Eastmere`) && fits(text)).length;
  expect([one > 0, two > 0, none > 50, cured]).toEqual([true, true, true, none - 2]);
  const field = page.getByRole('group', { name: /^Headline 1/ });
  await expect(field).toContainText(String(one));
  await expect(field).toContainText(String(two));
  await expect(yieldOf(page, 'misfits')).toContainText(`${none} do`);
  await expect(page.getByText(`${none} do not fit`).first()).toBeVisible();

  // A token that is none says so in place, and nothing is lost.
  await line(page, 'Headline 3, line 1').fill('Hire @nothing');
  await line(page, 'Headline 3, line 1').press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: '@nothing (column 6) is no token' })).toBeVisible();
  await expect(line(page, 'Headline 3, line 1')).toContainText('Hire @nothing');
  await page.keyboard.press('Escape');
  await expect(line(page, 'Headline 3, line 1')).not.toContainText('@nothing');

  // What cures most is one key away; what is left is gone to, and written by hand, with single keys.
  await expect(page.getByRole('article').first()).toHaveAttribute('data-misfit', 'true');
  const cures = page.getByRole('group', { name: 'Lines that would fit' });
  await expect(cures.getByRole('button').first()).toContainText(`fits ${cured} of ${none}`);
  await page.getByRole('button', { name: 'Next ad' }).focus();
  await page.keyboard.press('1');
  await expect(yieldOf(page, 'misfits')).toContainText('2 do not fit');
  await expect(line(page, 'Headline 1, line 3')).toHaveText('@keyword');
  for (const [name, text, left] of [
    ['lightweight paddle board for sale', 'Light Paddle Boards', '1 does not fit'],
    ['lightweight buoyancy aid for sale', 'Light Buoyancy Aids', '0 do not fit'],
  ] as const) {
    const article = page.getByRole('article', { name: `Ad of ${name}` });
    await expect(article).toHaveAttribute('data-misfit', 'true');
    await page.keyboard.press('f');
    await expect(page.getByRole('textbox', { name: `Headline 1 of ${name}` })).toBeFocused();
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
    await expect(yieldOf(page, 'misfits')).toContainText(left);
    // It stays where it was, mended.
    await expect(article).toContainText(text);
    await expect(article).toHaveAttribute('data-misfit', 'false');
    await expect(page.getByRole('textbox', { name: `Headline 1 of ${name}` })).toHaveCount(0);
    await page.keyboard.press('n');
  }

  // The second pattern begins as an empty one, with a fallback of its own, and is split: line against line.
  await page.getByRole('button', { name: 'New pattern' }).click();
  await page.getByRole('menuitem', { name: /Plain ad/ }).click();
  await expect(ribbon(page).getByRole('button', { pressed: true })).toContainText('Plain ad 2');
  await write(page, 'Headline 1, line 1', '@keyword near you');
  await page.getByRole('button', { name: 'Add a line to Headline 1' }).click();
  await write(page, 'Headline 1, line 2', 'On the water in an hour');
  await write(page, 'Headline 2, line 1', 'Book by phone or online');
  await write(page, 'Description 1, line 1', 'Every boat comes with a paddle, a buoyancy aid and a dry bag.');
  await page.getByLabel('Split test').selectOption('line');
  await page.getByLabel('Field that is split').selectOption('headline2');
  await page.getByRole('button', { name: /^Lines of the second version/ }).click();
  await page.getByRole('textbox', { name: 'Lines of the second version' }).fill('No deposit');
  await page.getByRole('button', { name: 'Next ad' }).click();
  await expect(yieldOf(page, 'ads')).toContainText('600 ads');
  await page.getByRole('button', { name: 'Next ad' }).focus();
  await page.keyboard.press('v');
  await expect(page.getByRole('article').first()).toContainText('No Deposit');
  await built(page);

  // All ads: the two versions stand side by side with their labels.
  await view(page, /^All ads/);
  const table = page.getByRole('grid', { name: 'Ads' });
  await expect(table).toHaveAttribute('aria-rowcount', '601');
  await page.getByLabel('Filter ads').fill('sea kayak hire');
  await expect(table).toHaveAttribute('aria-rowcount', '4');
  await expect(table).toContainText('line one');
  await expect(table).toContainText('line two');

  // A writer's sheet goes out with empty columns and comes back filled in.
  await page.getByLabel('Filter ads').fill('');
  await page.getByRole('button', { name: /^More for/ }).click();
  await page.getByRole('menuitem', { name: /Sheet for a writer/ }).click();
  await page.getByRole('button', { name: 'Copy the empty sheet' }).click();
  await expect(page.getByText('Copied 200 ad groups with empty columns')).toBeVisible();
  const sheet = await page.evaluate(() => navigator.clipboard.readText());
  const rows = sheet.split('\n').map((row) => row.split('\t'));
  expect(rows).toHaveLength(201);
  const at = rows[0]?.indexOf('Headline 2') ?? -1;
  const filled = rows.map((row, n) => (n === 0 || n > 150 ? row : row.with(at, `Written for ${n}`)));
  filled.push(['Saltmarsh', 'no such group', '', ...filled[0]!.slice(3).map(() => 'x')]);
  await page.evaluate(
    (text) => navigator.clipboard.writeText(text),
    filled.map((row) => row.join('\t')).join('\n'),
  );
  await page.getByLabel('The filled sheet').focus();
  await page.keyboard.press('Control+v');
  await expect(page.getByText('150 texts', { exact: true })).toBeVisible();
  await expect(page.getByText('There is no ad group “no such group” in “Saltmarsh”')).toBeVisible();
  await page.getByRole('button', { name: 'Write 150 texts by hand' }).click();
  await expect(page.getByText('Wrote 150 texts by hand')).toBeVisible();
  await built(page);
  await page.getByLabel('Which ads').selectOption('held');
  await expect(table).toHaveAttribute('aria-rowcount', '153');
  // One step takes all of it back.
  await page.getByRole('grid', { name: 'Ads' }).locator('[data-table-body]').focus();
  await page.keyboard.press('Control+z');
  await expect(table).toHaveAttribute('aria-rowcount', '3');
});

test('live keywords, texts in bulk, reviews, what a searcher reads', async ({ page, url }) => {
  const list = 'kayak hire\t900\ncanoe hire\t500\ninflatable sea kayak for hire in heronsea\t10\n';
  await openPlan(page, url, { list, stage: 'write' });
  await expect(yieldOf(page, 'groups')).toContainText('3 ad groups');
  // A token is typed with @ and taken from the list.
  await line(page, 'Headline 1, line 1').fill('');
  await line(page, 'Headline 1, line 1').pressSequentially('@key');
  await expect(page.getByRole('option', { name: /^@keyword kayak hire/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.type(' today');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('article', { name: 'Ad of kayak hire' })).toContainText('Kayak Hire Today');
  await write(page, 'Headline 1, line 1', '@keyword(live, or Kayak hire)');
  await write(page, 'Headline 2, line 1', 'AMAZING boats');
  await write(page, 'Description 1, line 1', 'Hire a inflatable boat.');
  const notes = page.getByRole('complementary', { name: 'On this ad' });
  await expect(notes).toContainText('The group has one keyword');
  await expect(notes.getByRole('region', { name: 'Objections' })).toContainText('AMAZING is in capitals');
  await notes.getByRole('button', { name: /^Mend: Amazing/ }).click();
  await expect(notes).not.toContainText('AMAZING');
  await expect(notes).toContainText('“a inflatable” needs “an”');
  await built(page);

  await view(page, /^All ads/);
  const table = page.getByRole('grid', { name: 'Ads' });
  await expect(table).toHaveAttribute('aria-rowcount', '4');
  await page.getByRole('button', { name: /^Texts of 3 ads/ }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Headline 1', exact: true }).click();
  await dialog.getByLabel('Find').fill('boats');
  await dialog.getByLabel('Replace by').fill('@keyword');
  await expect(dialog.getByRole('table', { name: 'Before and after' }).getByRole('row')).toHaveCount(3);
  await dialog.getByRole('button', { name: 'Write 3 texts by hand' }).click();
  await expect(dialog).toHaveCount(0);
  await built(page);
  await expect(table.getByRole('row').nth(2)).toContainText('canoe hire');

  await page.getByRole('checkbox', { name: 'Select canoe hire' }).click();
  await page.getByRole('button', { name: /^Review/ }).click();
  await page.getByRole('radio', { name: /^Refused/ }).check();
  await page.getByLabel('Reason').fill('Not clear');
  await page.getByRole('button', { name: 'Mark 1 ad refused' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.getByLabel('Which ads').selectOption('refused');
  await expect(table).toHaveAttribute('aria-rowcount', '2');

  await view(page, /searcher/);
  await expect(page.getByRole('article', { name: 'Our ad' })).toBeVisible();
  await page.getByLabel('The search').fill('kayak hire wrenport');
  await expect(page.getByRole('article', { name: 'Our ad' })).toContainText('Kayak Hire Wrenport');
  await expect(page.getByRole('article', { name: /^Ad of / }).first()).toBeVisible();
  await expect(page.getByRole('article', { name: 'Our ad' }).locator('mark').first()).toHaveText(
    /Kayak Hire Wrenport/,
  );
  await page.getByRole('button', { name: 'At the width of a phone' }).click();
  await expect(page.locator('[data-width=phone]')).toBeVisible();
});

test('final URLs and their check, extras; nothing serious for those who use assistive technology', async ({
  page,
  url,
}) => {
  await openPlan(page, url, { list: 'kayak hire\t900\ncanoe\t500\n', stage: 'write' });
  await view(page, /^Final URLs/);
  await page.getByRole('button', { name: /^Path of final URLs/ }).click();
  await write(page, 'Path of final URLs', '/@keyword(live');
  await expect(page.getByText('The bracket behind @keyword (column 2) does not close')).toBeVisible();
  await write(page, 'Path of final URLs', '/hire');
  await expect(page.getByText('1 different addresses')).toBeVisible();
  // What is asked is what is built by now.
  await expect(page.getByRole('row', { name: /\/hire / })).toBeVisible();
  await page.getByRole('button', { name: 'Check 1 address' }).click();
  await expect(page.getByText('Kayak, canoe and paddle board hire')).toBeVisible();

  await view(page, /^Extras/);
  await page.getByRole('button', { name: 'New in Phone numbers' }).click();
  await page.getByRole('textbox', { name: 'Number' }).fill('ring us');
  await expect(page.getByRole('button', { name: 'Make it' })).toBeDisabled();
  await expect(page.getByText('“r” can’t stand in a phone number')).toBeVisible();
  await page.getByRole('textbox', { name: 'Number' }).fill('+44 (0)1632 960 123');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('textbox', { name: 'Number' })).toHaveValue('+441632960123');
  await page.getByRole('button', { name: 'New in Sitelinks' }).click();
  await page
    .getByRole('region', { name: 'Sitelinks' })
    .getByLabel('Text')
    .fill('A sitelink that is far too long');
  await expect(page.getByText('Too long for Plain sheets: left out there.')).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();

  for (const name of [/^Lines/, /searcher/, /^All ads/, /^Final URLs/, /^Extras/]) {
    await view(page, name);
    await page.waitForTimeout(600);
    expect(await graveProblems(page), String(name)).toEqual([]);
  }
});

test('ads are measured by all outlets that the plan ships to, or by one of them; Ship leads to the one that it speaks of', async ({
  page,
  url,
}) => {
  const teas = ['green tea', 'black tea', 'white tea'].map((text, at) => `${text}\t${100 - at}`).join('\n');
  await openPlan(page, url, {
    name: 'Tea',
    site: 'teahouse.example',
    list: teas,
    outlets: ['plain', 'quillmere'],
    stage: 'write',
  });
  const measured = page.getByLabel('Measured by');
  await expect(measured).toHaveValue('');
  await expect(measured.locator('option')).toHaveText(['both outlets', 'Plain sheets', 'Quillmere']);
  const field = page.getByRole('group', { name: /^Headline 1/ });
  await expect(field.getByTitle('Room: 30 (Quillmere), 32 (Plain sheets)')).toHaveText('Quillmere');

  // 31 letters: too long for one of the two.
  await write(page, 'Headline 1, line 1', 'Whole leaf @keyword by the poun');
  await write(page, 'Headline 2, line 1', 'Leaf by Leaf');
  await write(page, 'Description 1, line 1', 'Packed on the day it is sent.');
  await expect(yieldOf(page, 'misfits')).toContainText('3 do not fit');
  await measured.selectOption('Plain sheets');
  await expect(yieldOf(page, 'misfits')).toContainText('0 do not fit');
  await expect(page).toHaveURL(/outlet=plain/);
  await expect(field).not.toContainText('Quillmere');
  await measured.selectOption('Quillmere');
  await expect(yieldOf(page, 'misfits')).toContainText('3 do not fit');
  // It has two headlines; the other outlet has three.
  await expect(page.getByRole('group', { name: /^Headline 3/ })).toHaveCount(0);
  await measured.selectOption('both outlets');
  await expect(page.getByRole('group', { name: /^Headline 3/ })).toHaveCount(1);
  await built(page);
  // The trail counts what the stage counts.
  await expect(page.getByRole('navigation', { name: 'Trail' })).toContainText('3 do not fit');

  await go(page, 'Ship');
  const finding = page.getByRole('listitem').filter({ hasText: 'without headline 1: no line fits' }).first();
  await expect(finding).toContainText('Quillmere');
  await finding.getByRole('link').first().click();
  await expect(measured).toHaveValue('quillmere');
  await expect(yieldOf(page, 'misfits')).toContainText('3 do not fit');
});

test('a form of ad that no outlet of the plan takes is said to make none', async ({ page, url }) => {
  await openPlan(page, url, { list: 'green tea\t10', outlets: ['harrowlight'], stage: 'write' });
  await expect(page.getByText('measured by Harrowlight')).toBeVisible();
  await page.getByLabel('Form of the ad').selectOption('assembled ad');
  await expect(page.getByRole('status').filter({ hasText: 'takes assembled ads' })).toHaveText(
    'No outlet of this plan takes assembled ads: this pattern makes none there.',
  );
});

test('the brief asks of the site what an outlet of the plan takes, and says which', async ({ page, url }) => {
  await openPlan(page, url, { outlets: ['quillmere'], stage: 'brief' });
  await expect(page.getByText('The kind of site is written for Quillmere.')).toBeVisible();
  await expect(page.getByLabel('Goal', { exact: true })).toBeVisible();
  await expect(page.getByText('No outlet of this plan takes the goal.')).toBeVisible();
  await expect(page.getByLabel('Who the site is for')).toHaveCount(0);
  await openPlan(page, url, { outlets: ['harrowlight'], stage: 'brief' });
  await expect(page.getByLabel('Who the site is for')).toBeVisible();
  await expect(page.getByText('Sites for adults: Harrowlight takes none.')).toBeVisible();
  await expect(page.getByText('The site is about')).toHaveCount(0);
});
