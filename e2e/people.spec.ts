import type { Browser, Page } from '@playwright/test';
import * as api from '@sprig/contracts';
import { expect, test } from './server.ts';
import { asker, go, graveProblems, openPlan } from './steps.ts';

const PASSWORD = 'copper window seven fields';

/** Comes in by the link of an invitation, in a browser of one's own. */
async function comesBy(browser: Browser, link: string, name: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(link);
  await page.getByLabel('Your name').fill(name);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Come in' }).click();
  await expect(page.getByRole('heading', { name: 'Plans', exact: true })).toBeVisible();
  return page;
}

test('a builder, a writer and a reader at once: each does what is theirs, sees what the others do, and is out when removed', async ({
  page,
  url,
  browser,
}) => {
  const ask = asker(url);
  const invited = async (email: string, role: api.Role) =>
    (await ask(api.invitePerson, { body: { email, role, permissions: [] } })).link ?? '';

  // The owner invites the builder by hand, and hands the link on.
  await page.goto(`${url}/people`);
  await page.getByRole('button', { name: 'Invite somebody' }).click();
  await page.getByRole('dialog').getByLabel('E-mail').fill('bo@teeth.example');
  await page.getByRole('button', { name: 'Send the invitation' }).click();
  const link = await page.getByLabel('Link of the invitation').inputValue();
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('list', { name: 'Invitations' })).toContainText('bo@teeth.example');
  expect(await graveProblems(page)).toEqual([]);

  const builder = await comesBy(browser, link, 'Bo Tarn');
  const writer = await comesBy(browser, await invited('wil@teeth.example', 'writer'), 'Wil Ash');
  const reader = await comesBy(browser, await invited('rea@teeth.example', 'reader'), 'Rea Moss');
  await expect(reader.getByRole('button', { name: 'Make a plan' })).toHaveCount(0);

  const plan = await openPlan(page, url, {
    name: 'Bright Molar',
    site: 'brightmolar.example',
    list: 'dental crown\t900\ncrown price\t400\ntooth filling\t300\n',
  });
  for (const one of [builder, writer, reader]) {
    await one.goto(`${url}/plans/${plan}/gather`);
    await expect(one.getByRole('row').filter({ hasText: 'dental crown' })).toBeVisible();
  }
  await expect(builder.getByRole('button', { name: 'Paste a list' })).toBeVisible();
  for (const one of [writer, reader])
    await expect(one.getByRole('button', { name: 'Paste a list' })).toHaveCount(0);
  await expect(reader.getByRole('button', { name: 'reader', exact: true })).toBeVisible();

  // What the builder does, the others see.
  await builder.getByRole('navigation', { name: 'Trail' }).getByText('Brief', { exact: true }).click();
  await builder.getByRole('button', { name: 'Name of the plan: Bright Molar' }).click();
  await builder.getByLabel('Name of the plan', { exact: true }).fill('Bright Molar Clinic');
  await builder.getByLabel('Name of the plan', { exact: true }).press('Enter');
  for (const one of [writer, reader])
    await expect(one.getByRole('link', { name: 'Bright Molar Clinic' })).toBeVisible();

  // The writer writes; the reader reads the same, and can't. Each sees where the other is.
  for (const one of [writer, reader]) await go(one, 'Write');
  await expect(writer.getByRole('list', { name: 'Who else is here' })).toContainText('Rea Moss is in Write');
  await expect(builder.getByRole('list', { name: 'Who else is here' })).toContainText('Wil Ash is in Write');
  const lines = (one: Page) => one.getByRole('region', { name: 'Pattern', exact: true });
  await expect(lines(writer)).toBeVisible();
  await expect(lines(writer).getByRole('textbox').first()).toBeEditable();
  await expect(lines(reader).getByRole('textbox').first()).not.toBeEditable();
  await go(writer, 'Brief');
  await expect(writer.getByRole('button', { name: /^Name of the plan/ })).toBeDisabled();
  expect(await graveProblems(reader)).toEqual([]);

  // A role counts at once: the builder is made a reader, in a window that is open.
  const { members } = await ask(api.listPeople, {});
  const bo = members.find(({ name }) => name === 'Bo Tarn');
  await page.goto(`${url}/people`);
  await page.getByLabel('Role of Bo Tarn').selectOption('reader');
  await expect(page.getByText('Bo Tarn may do that from now on.')).toBeVisible();
  await go(builder, 'Gather');
  await expect(builder.getByRole('button', { name: 'Paste a list' })).toHaveCount(0);

  // Removed, they are out, in the window that is open too.
  await page.getByRole('button', { name: 'Take Bo Tarn out of the workspace' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Take Bo Tarn out' }).click();
  await expect(page.getByRole('list', { name: 'Members' })).not.toContainText('Bo Tarn');
  await expect(builder.getByRole('dialog', { name: 'You were signed out' })).toBeVisible();
  expect(bo?.role).toBe('builder');

  // Signed out, one comes back by the password, to where one was.
  await reader.getByRole('button', { name: 'Your settings' }).click();
  await reader.getByRole('button', { name: 'Sign out' }).click();
  await expect(reader.getByLabel('E-mail')).toBeVisible();
  await reader.goto(`${url}/plans/${plan}/build`);
  await reader.getByLabel('E-mail').fill('rea@teeth.example');
  await reader.getByLabel('Password').fill('not this one at all');
  await reader.getByRole('button', { name: 'Come in' }).click();
  await expect(reader.getByRole('alert')).toContainText('not the e-mail address and password');
  await reader.getByLabel('Password').fill(PASSWORD);
  await reader.getByLabel('Password').press('Enter');
  await expect(reader).toHaveURL(new RegExp(`/plans/${plan}/build`));

  await page.getByRole('button', { name: 'What happened' }).click();
  await expect(page.getByRole('list', { name: 'Audit trail' })).toContainText('took somebody out: Bo Tarn');
});
