import type { Browser, Page } from '@playwright/test';
import * as api from '@sprig/contracts';
import { patternOf } from '@sprig/core/write';
import { expect, test } from './server.ts';
import { asker, go, graveProblems, openPlan } from './steps.ts';

const PASSWORD = 'copper window seven fields';

/** Somebody invited, in a browser of their own. */
async function joins(browser: Browser, link: string | null, name: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(link ?? '');
  await page.getByLabel('Your name').fill(name);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Come in' }).click();
  await expect(page.getByRole('heading', { name: 'Plans', exact: true })).toBeVisible();
  return page;
}

test('work is given, written at the desk, handed over, sent back, accepted, and only then shipped; a client reads it by a link', async ({
  page,
  url,
  browser,
}) => {
  const ask = asker(url);
  const invite = async (email: string, role: api.Role, permissions: api.Permission[] = []) =>
    (await ask(api.invitePerson, { body: { email, role, permissions } })).link;
  const writer = await joins(browser, await invite('wil@teeth.example', 'writer'), 'Wil Ash');
  const judge = await joins(browser, await invite('jo@teeth.example', 'reader', ['approve']), 'Jo Fern');

  // The owner asks that ads be accepted.
  await page.goto(`${url}/people`);
  await page.getByLabel('Ads ship only once somebody has accepted them').check();
  await expect(page.getByText(/Jo Fern.* may accept/)).toBeVisible();
  const plan = await openPlan(page, url, {
    name: 'Bright Molar',
    site: 'brightmolar.example',
    list: 'dental crown\t900\ntooth filling\t300\n',
  });
  const { facts } = await ask(api.readFacts, { params: { plan } });
  await ask(api.editFacts, {
    params: { plan },
    body: {
      edits: [
        { at: 'locations', before: facts.locations, after: [{ name: 'Eastmere', level: 'region' }] },
        { at: 'languages', before: facts.languages, after: ['English'] },
      ],
    },
  });

  const { patterns } = await ask(api.readPatterns, { params: { plan } });
  const lines = patternOf(
    {
      headline1: ['@keyword', 'Bright Molar'],
      headline2: ['Seen This Week'],
      headline3: ['In Eastmere'],
      description1: ['A look first, then a price.'],
    },
    'title',
  );
  await ask(api.editPattern, {
    params: { plan, pattern: 1 },
    body: { edits: [{ at: 'fields', before: patterns[0]?.body.fields, after: lines.fields }] },
  });

  // A note on an ad group gives it to the writer, with a day.
  await go(page, 'Build');
  await page.getByRole('button', { name: /^Notes?\b/ }).click();
  const notes = page.getByRole('complementary', { name: 'Notes', exact: true });
  await expect(notes.getByText('None yet.')).toBeVisible();
  await page.getByRole('button', { name: /note on ad group dental crown/i }).click();
  await expect(notes.getByRole('heading')).toHaveText('Notes on ad group dental crown');
  await notes.getByLabel('New note on ad group dental crown').pressSequentially('@wi');
  await expect(notes.getByRole('option', { name: 'Wil Ash', exact: true })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.type('say what a crown costs');
  await notes.getByLabel('Given to: the new note').selectOption('for Wil Ash');
  await notes.getByLabel('Due: the new note').fill('2027-03-01');
  await page.keyboard.press('Tab');
  await notes.getByRole('button', { name: 'Note it' }).click();
  await expect(notes.getByRole('listitem')).toContainText('@Wil Ash say what a crown costs');
  expect(await graveProblems(page)).toEqual([]);

  // The writer finds it on the first page, and at the desk before all else.
  await writer.goto(url);
  const own = writer.getByRole('region', { name: 'For you' });
  await expect(own).toContainText('Bright Molar · ad group dental crown · from');
  await writer.goto(`${url}/plans/${plan}/write?view=desk`);
  const queue = writer.getByRole('navigation', { name: 'Ad groups of the desk' });
  await expect(queue.getByRole('listitem').first()).toContainText('dental crown');
  await expect(queue.getByRole('listitem').first()).toContainText('yours by 1 Mar 2027');
  const ads = writer.getByRole('region', { name: 'The ads of dental crown' });
  await expect(ads.getByRole('article')).toBeVisible();
  await writer.keyboard.press('f');
  await writer.keyboard.press('Control+a');
  await writer.keyboard.type('Crowns At A Fixed Price');
  await writer.keyboard.press('Enter');
  await expect(ads).toContainText('Crowns At A Fixed Price');
  // What was typed a moment ago is built first.
  await writer.keyboard.press('o');
  const waits = (n: number) => writer.getByRole('button', { name: `Wait for a look ${n}` });
  await expect(waits(1)).toBeVisible();
  expect(await graveProblems(writer)).toEqual([]);
  await writer.getByRole('button', { name: 'Hand over all that fit' }).click();
  await expect(waits(2)).toBeVisible();
  await expect(writer.getByText('Nothing is to be done')).toBeVisible();

  // Nothing ships before it is accepted.
  await go(page, 'Ship');
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText(
    'The ads of 2 ad groups are not accepted yet.',
  );

  // Whoever decides sends one back with a reason, by keys, and accepts the other.
  await judge.goto(`${url}/plans/${plan}/write?view=desk&desk=handed`);
  const waiting = judge.getByRole('navigation', { name: 'Ad groups of the desk' });
  await expect(waiting.getByRole('listitem')).toHaveCount(2);
  await expect(waiting.getByRole('listitem').first()).toContainText('dental crown');
  await judge.keyboard.press('x');
  await judge.keyboard.type('Name the clinic');
  await judge.keyboard.press('Enter');
  await expect(waiting.getByRole('listitem')).toHaveCount(1);
  await judge.keyboard.press('y');
  await expect(judge.getByText('Nothing waits for a look.')).toBeVisible();

  await expect(queue.getByRole('listitem').first()).toContainText('sent back');
  await expect(ads.getByText('Sent back by Jo Fern')).toContainText('Name the clinic');
  await writer.keyboard.press('f');
  await writer.keyboard.press('Control+a');
  await writer.keyboard.type('Bright Molar Crowns');
  await writer.keyboard.press('Enter');
  await writer.keyboard.press('o');
  await expect(waiting.getByRole('listitem')).toHaveCount(1);
  await judge.getByRole('button', { name: 'Accept all 1' }).click();
  await expect(page.getByRole('region', { name: 'Findings' })).not.toContainText('not accepted yet');

  // A client reads the plan by a link, without bids, until it is taken back.
  await page.goto(`${url}/plans/${plan}/client`);
  await page.getByRole('button', { name: 'bids', exact: true }).click();
  await page.getByRole('button', { name: 'Link for a client …' }).click();
  await page.getByLabel('For whom it is').fill('Dr Fell');
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = await page.getByLabel('The link', { exact: true }).inputValue();
  const client = await (await browser.newContext()).newPage();
  await client.goto(link);
  await expect(client.getByRole('heading', { name: 'Bright Molar', exact: true, level: 1 })).toBeVisible();
  await expect(client.getByText('Bright Molar Crowns')).toBeVisible();
  await expect(client.getByRole('link')).toHaveCount(0);
  expect(client.url()).toBe(`${url}/door/client`);
  expect(await graveProblems(client)).toEqual([]);
  await page.getByRole('button', { name: 'Take back the link for Dr Fell' }).click();
  await expect(page.getByRole('list', { name: 'Links that work' })).toHaveCount(0);
  await client.goto('about:blank');
  await client.goto(link);
  await expect(client.getByRole('alert')).toContainText('This link works no more');
});

test('two in one field see each other there, and whoever is second is told who was first', async ({
  page,
  url,
  browser,
}) => {
  const ask = asker(url);
  const { link } = await ask(api.invitePerson, {
    body: { email: 'bo@teeth.example', role: 'builder', permissions: [] },
  });
  const other = await joins(browser, link, 'Bo Tarn');
  const plan = await openPlan(page, url, {
    name: 'Bright Molar',
    site: 'brightmolar.example',
    list: 'dental crown\t900\ntooth filling\t300\n',
  });
  await page.goto(`${url}/plans/${plan}/gather`);
  const opened = other.waitForEvent('websocket', (socket) => socket.url().includes(api.HERE_SOCKET));
  await other.goto(`${url}/plans/${plan}/gather`);
  const field = (one: Page) => one.getByRole('button', { name: 'Edit keyword dental crown' });
  // With somebody else there it is said over a socket.
  const said = (await opened).waitForEvent('framesent');
  await field(other).click();
  expect((await said).payload).toContain('"field":"keyword dental crown');
  await other.getByLabel('keyword dental crown', { exact: true }).fill('dental crowns');
  await expect(page.getByRole('list', { name: 'Who else is here' })).toContainText(
    'Bo Tarn is in Gather, writing: keyword dental crown',
  );
  expect(await field(page).evaluate((button) => getComputedStyle(button).outlineStyle)).toBe('dashed');
  await field(page).click();
  await expect(page.getByText('Bo Tarn is writing here too.')).toBeVisible();
  await page.getByLabel('keyword dental crown', { exact: true }).fill('dental caps');
  await other.keyboard.press('Enter');
  await expect(other.getByRole('button', { name: 'Edit keyword dental crowns' })).toBeVisible();
  // The window has been told; before that it is the server that refuses.
  await expect(page.getByRole('checkbox', { name: 'Select dental crowns' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('is “dental crowns” now');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Edit keyword dental crowns' })).toBeVisible();
});
