import type { Page } from '@playwright/test';
import { expect, test } from './server.ts';
import { fetchSignedIn } from './signed-in.ts';
import { go, openPlan } from './steps.ts';

const LIST = `kayak\t9000\t0.50
kayaks\t4000\t0.50
kayak hire\t2400\t0.70
kayak hire wrenport\t140\t0.80
cheap kayak hire\t260\t0.60
kayak rental\t900\t0.65
inflatable kayak\t3000\t0.45
inflatable kayak for sale\t700\t0.60
canoe\t5000\t0.40
canoe hire\t1900\t0.50
canoe hire heronsea\t90\t0.55
paddle song\t10\t--
`;

const view = (page: Page, name: string | RegExp) =>
  page.getByRole('region', { name: 'Build', exact: true }).getByRole('button', { name }).click();
const yieldOf = (page: Page, name: string) => page.locator(`[data-yield=${name}]`);
const block = (page: Page, name: RegExp) =>
  page.getByRole('group', { name: 'Campaigns and ad groups by size' }).getByRole('button', { name });
const built = (page: Page) => expect(page.getByText('Building …')).toHaveCount(0);

/** Themes by sifting: each sentence saved as a theme, named by its words. */
async function makeThemes(page: Page, ...themes: string[][]) {
  await go(page, 'Sort');
  await expect(yieldOf(page, 'placed')).toContainText('0 placed');
  for (const terms of themes) {
    await page.keyboard.press('/');
    for (const [at, term] of terms.entries()) {
      if (at > 0) await page.keyboard.press('Tab');
      await page.keyboard.type(term);
      await page.keyboard.press('Enter');
    }
    await expect(page.locator('[data-sift-count]')).toContainText('keyword');
    await page.keyboard.press('Enter');
    await expect(page.getByText(`Made the theme ${terms.join(' ')}.`)).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.locator('[data-sift-count]')).toHaveCount(0);
  }
}

test('from themes to a fenced build in three lanes, with what is held by hand surviving', async ({
  page,
  url,
}) => {
  await openPlan(page, url, { list: LIST });
  await makeThemes(page, ['hire', 'kayak'], ['inflatable'], ['kayak'], ['canoe']);
  await go(page, 'Build');
  await expect(yieldOf(page, 'groups')).toContainText('5 ad groups');
  await built(page);

  // A bid and a name set by hand on the page of an ad group.
  await block(page, /^Ad group kayak, /).click();
  const keywords = page.getByRole('group', { name: 'Keywords of the ad group' });
  await keywords.getByRole('button', { name: 'Edit bid of kayak exact', exact: true }).click();
  await page.getByLabel('bid of kayak exact', { exact: true }).fill('0,40x');
  await page.getByLabel('bid of kayak exact', { exact: true }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('is no amount');
  await page.getByLabel('bid of kayak exact', { exact: true }).fill('0,91');
  await page.getByLabel('bid of kayak exact', { exact: true }).press('Enter');
  await expect(keywords.getByRole('row').filter({ hasText: 'lead' })).toContainText('£0.91');

  // Three lanes, each with an ad group of its own.
  await view(page, 'Rules');
  await page.getByLabel('How match types are laid out').selectOption('by-group');
  await expect(yieldOf(page, 'groups')).toContainText('10 ad groups');
  await page.getByRole('button', { name: 'Copy the lane Exact' }).click();
  const copied = page.getByRole('group', { name: 'Lane Exact 2' });
  await copied.getByRole('button', { name: 'broad', exact: true }).click();
  await copied.getByRole('button', { name: 'exact', exact: true }).click();
  await copied.getByRole('button', { name: 'Name of the lane: Exact 2' }).click();
  await page.getByLabel('Name of the lane', { exact: true }).fill('Broad');
  await page.getByLabel('Name of the lane', { exact: true }).press('Enter');
  await expect(yieldOf(page, 'groups')).toContainText('15 ad groups');
  await expect(yieldOf(page, 'rows')).toContainText('36 keyword rows');

  // Without fences other ad groups could answer; with them none can.
  await view(page, /^Fences/);
  const audit = page.getByRole('region', { name: 'Fence audit' });
  await expect(audit).toContainText('may go elsewhere');
  await audit.getByRole('button', { name: 'Make exact fences' }).click();
  await expect(audit).toContainText('100%');
  await expect(audit).toContainText('Every one of them stays at home.');
  await expect(page.getByRole('region', { name: 'Who would have stolen from whom' })).toContainText(
    'kayak · Exact',
  );

  // Each search lands where it belongs, and one sees why.
  await page.keyboard.press('t');
  const tried = page.getByRole('dialog', { name: 'Try a search' });
  await tried.getByLabel('Search to try').fill('kayak hire wrenport');
  await expect(tried).toContainText('kayak hire wrenport (exact) of hire kayak · Exact answers');
  await expect(tried).toContainText('blocked by -[kayak hire wrenport], a fence');
  await page.keyboard.press('Escape');

  // What was set by hand has come along, and says so.
  await view(page, /^Keywords/);
  await page.getByLabel('Which rows').selectOption('held');
  const rows = page.getByRole('grid', { name: 'Keyword rows' });
  await expect(rows).toHaveAttribute('aria-rowcount', '2');
  await expect(rows.getByRole('row').nth(1)).toContainText('£0.91');
  await expect(rows.getByRole('row').nth(1)).toContainText('kayak · Exact');

  // One step of undo gives back what stood before, row by row.
  await page.keyboard.press('Control+z');
  await view(page, /^Fences/);
  await expect(audit).toContainText('may go elsewhere');
  await page.keyboard.press('Control+Shift+z');
  await expect(audit).toContainText('100%');
  await page.reload();
  await expect(audit).toContainText('100%');

  // The sheets hold the fences.
  await go(page, 'Ship');
  await expect(page.getByText('own keyword', { exact: false })).toHaveCount(0);
});

test('the ladder is dragged and stepped by keys, bids are aimed along the curve, and all of it undone', async ({
  page,
  url,
}) => {
  const plan = await openPlan(page, url, { list: LIST, themes: [['kayak'], ['canoe']], stage: 'build' });
  await view(page, 'Rules');
  const exact = page.getByRole('slider', { name: 'Step by match type: exact' });
  await expect(exact).toHaveAttribute('aria-valuenow', '125');
  await expect(page.getByRole('region', { name: 'Forecast' })).toContainText(/About .* clicks? for £/);
  const before = await page.getByRole('region', { name: 'Forecast' }).textContent();
  const box = await exact.boundingBox();
  if (!box) throw new Error('the step is not drawn');
  await page.mouse.move(box.x + box.width / 2, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + 30, { steps: 5 });
  await expect(page.getByRole('region', { name: 'Forecast' })).not.toHaveText(before ?? '');
  await page.mouse.up();
  const dragged = Number(await exact.getAttribute('aria-valuenow'));
  expect(dragged).toBeGreaterThan(130);
  await exact.focus();
  await page.keyboard.press('ArrowDown');
  await expect(exact).toHaveAttribute('aria-valuenow', String(dragged - 1));
  await page.keyboard.press('Control+z');
  await expect(exact).toHaveAttribute('aria-valuenow', String(dragged));
  await page.keyboard.press('Control+z');
  await expect(exact).toHaveAttribute('aria-valuenow', '125');

  // The curve is drawn anew when a build ends, and what is being aimed begins again.
  const isBuilt = async () => {
    const { revision, builtRevision } = await (await fetchSignedIn(`${url}/api/plans/${plan}`)).json();
    return revision === builtRevision;
  };
  await expect.poll(isBuilt).toBe(true);
  await built(page);
  await view(page, 'Picture');
  await block(page, /^Campaign Saltmarsh/).click();
  const curve = page.getByRole('slider', { name: 'Aim all bids at a position' });
  await curve.focus();
  for (let times = 0; times < 8; times++) await page.keyboard.press('ArrowRight');
  await expect(curve).toHaveAttribute('aria-valuenow', '1');
  const aim = page.getByRole('button', { name: /^Aim \d+ bids$/ });
  await expect(aim).toBeVisible();
  await aim.click();
  await expect(page.getByText(/^Changed \d+ bids. They are held from now on.$/)).toBeVisible();
  await expect(yieldOf(page, 'held')).toContainText(/[1-9]\d* values held/);
  await page.keyboard.press('Control+z');
  await expect(yieldOf(page, 'held')).toContainText('0 values held');
});

test('in bulk: select, pause, label, change bids with before and after, copy an ad group', async ({
  page,
  url,
}) => {
  await openPlan(page, url, { list: LIST, themes: [['kayak'], ['canoe']], stage: 'build' });
  await built(page);
  await view(page, /^Ad groups/);
  const groups = page.getByRole('grid', { name: 'Ad groups' });
  await expect(groups).toHaveAttribute('aria-rowcount', '4');
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('x');
  await page.keyboard.press('j');
  await page.keyboard.press('x');
  await page.keyboard.press('b');
  const panel = page.getByRole('dialog', { name: 'Bids of 2 ad groups' });
  await panel.getByLabel('Percent').fill('2000');
  await expect(panel.getByRole('alert')).toContainText('A step goes up to 1000%');
  await panel.getByLabel('Percent').fill('20');
  await expect(panel.getByRole('status')).toContainText(/\d+ bids of \d+ would change/);
  await panel.getByRole('button', { name: /^Change \d+ bids$/ }).click();
  await expect(panel).toHaveCount(0);
  await expect(yieldOf(page, 'held')).toContainText(/[1-9]\d* values held/);
  await page.keyboard.press('p');
  await expect(page.getByText('Paused 2 ad groups.')).toBeVisible();
  await page.getByLabel('Which ad groups').selectOption('paused');
  await expect(groups).toHaveAttribute('aria-rowcount', '3');
  await page.getByRole('button', { name: 'Label', exact: true }).click();
  await page.keyboard.type('spring');
  await page.keyboard.press('Enter');
  await page.getByLabel('Label', { exact: true }).selectOption('spring');
  await expect(groups).toHaveAttribute('aria-rowcount', '3');

  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('o');
  await expect(page.getByRole('group', { name: 'Keywords of the ad group' })).toBeVisible();
  await page.getByRole('button', { name: 'Copy kayak', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Copy without its ads' }).click();
  await expect(block(page, /^Ad group kayak copy/)).toBeVisible();
  await go(page, 'Ship');
  await expect(page.getByText(/in two ad groups that show to the same people/)).toHaveCount(0);
  await go(page, 'Build');
  await block(page, /^Ad group kayak, /).click();
  await page.getByRole('button', { name: /^kayak is paused/ }).click();
  // The copy follows: it is enabled with the first.
  await built(page);
  await go(page, 'Ship');
  await expect(page.getByText(/in two ad groups that show to the same people/)).toBeVisible();
});

test('negatives, settings of a campaign, a pasted list of searches', async ({ page, url }) => {
  await openPlan(page, url, { list: LIST, themes: [['kayak'], ['canoe']], stage: 'build' });
  await built(page);
  await block(page, /^Campaign Saltmarsh/).click();
  // The ad group that was open before has negatives of its own.
  const negatives = page
    .getByRole('complementary', { name: 'Around the campaign' })
    .getByRole('region', { name: 'Negatives' });
  await negatives.getByLabel('Add negatives').fill('[jobs');
  await page.keyboard.press('Enter');
  await expect(negatives.getByRole('alert')).toContainText('“[jobs” can’t be read as a keyword');
  await negatives.getByLabel('Add negatives').fill('jobs, "free plans"');
  await page.keyboard.press('Enter');
  await expect(negatives).toContainText('-jobs');
  await expect(negatives).toContainText('-"free plans"');
  await page.getByLabel('Settings of the campaign').selectOption('new');
  await page.getByRole('button', { name: 'Change “Saltmarsh”' }).click();
  const panel = page.getByRole('dialog', { name: 'The settings “Saltmarsh”' });
  await panel.getByRole('button', { name: 'search partners' }).click();
  await panel.getByRole('button', { name: /^Excluded sites/ }).click();
  await panel.getByLabel('Excluded sites', { exact: true }).fill('not a site');
  await expect(panel.getByRole('alert')).toContainText('is no site');
  await panel.getByLabel('Excluded sites', { exact: true }).fill('https://games.example/chess');
  await panel.getByRole('button', { name: 'Keep' }).click();
  await expect(panel.getByRole('button', { name: 'Excluded sites: games.example' })).toBeVisible();
  await panel.getByRole('button', { name: 'Close' }).click();
  await built(page);

  await page.keyboard.press('Control+k');
  await page.keyboard.type('canoe jobs');
  await page.getByText('Try “canoe jobs” as a search').click();
  const tried = page.getByRole('dialog', { name: 'Try a search' });
  await expect(tried).toContainText('all of them are blocked');
  await tried.getByRole('button', { name: 'a list of searches' }).click();
  await tried.getByLabel('Searches to try').fill('canoe hire heronsea\nkayak jobs\nraft');
  await tried.getByRole('button', { name: 'Try them' }).click();
  await expect(tried).toContainText('Of 3 searches 1 land in 1 ad group, 1 are blocked, 1 nothing answers.');
});

test('a table goes through a spreadsheet and comes back: pasted by name, filled down, undone', async ({
  page,
  url,
}) => {
  await openPlan(page, url, { list: LIST, themes: [['canoe'], ['kayak']], stage: 'build' });
  await built(page);
  await page.keyboard.press('a');
  const grid = page.getByRole('grid', { name: 'Ad groups' });
  const bids = (name: string) => grid.getByRole('row').filter({ hasText: name }).locator('[data-column=bid]');
  await expect(bids('canoe')).toContainText('£0.50');
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  await expect(page.getByText(/Copied \d+ rows with headings/)).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  const [headings = '', ...lines] = copied.split('\n').map((line) => line.split('\t'));
  const [nameAt, bidAt] = ['Ad group', 'Base'].map((heading) => headings.indexOf(heading)) as [
    number,
    number,
  ];
  // As one does there: only some columns, other bids, another order, and a slip.
  const changed = lines
    .filter(([name]) => /^(canoe|kayak)$/.test(name ?? ''))
    .reverse()
    .map((line) => `${line[nameAt]}\t${line[nameAt] === 'canoe' ? '1.23' : '2.34'}`);
  await page.evaluate(
    (text) => navigator.clipboard.writeText(text),
    ['Ad group\tBase', ...changed, 'canoes\t9'].join('\n'),
  );
  expect([nameAt, bidAt, changed.length]).toEqual([0, expect.any(Number), 2]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+v');
  const sheet = page.getByRole('dialog', { name: 'Paste into Ad groups' });
  await expect(sheet).toContainText('2 values will be put in.');
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
  await page.keyboard.press('Control+v');
  await expect(sheet).toContainText('No row in this table is called that.');
  await sheet.getByRole('button', { name: 'Put 2 values in' }).click();
  await expect(sheet).toHaveCount(0);
  await expect(bids('canoe')).toContainText('£1.23');
  await expect(bids('kayak')).toContainText('£2.34');

  // Filled down from the first selected row, in one step back.
  await page.locator('[data-table-body]').focus();
  await page.keyboard.press('Home');
  for (const key of ['ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowRight'])
    await page.keyboard.press(key);
  await expect(grid.locator('[data-marked]')).toHaveAttribute('data-column', 'bid');
  const first = await grid.locator('[data-index="0"] [data-column=bid]').textContent();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+d');
  await expect(page.getByText(/Put \d+ values? in/).last()).toBeVisible();
  for (const name of ['canoe', 'kayak']) await expect(bids(name)).toContainText(first?.trim() ?? 'nothing');
  await page.keyboard.press('Control+z');
  await expect(bids('canoe')).toContainText('£1.23');
  await expect(bids('kayak')).toContainText('£2.34');
  await page.keyboard.press('Control+z');
  await expect(bids('canoe')).toContainText('£0.50');

  // A width that was dragged is there after a reload.
  const edge = grid.locator('[data-heading=keyword]');
  const box = await edge.boundingBox();
  if (!box) throw new Error('no heading');
  await page.mouse.move(box.x + box.width - 3, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 103, box.y + 10, { steps: 5 });
  const kept = page.waitForResponse((answer) => answer.url().endsWith('/preferences'));
  await page.mouse.up();
  await kept;
  await page.reload();
  await expect.poll(async () => Math.round((await edge.boundingBox())?.width ?? 0)).toBe(120);
});
