import AxeBuilder from '@axe-core/playwright';
import { expect, type Locator, type Page } from '@playwright/test';
import * as api from '@sprig/contracts';
import type { z } from 'zod';
import { fetchSignedIn } from './signed-in.ts';

/** Opens a stage by the trail. */
export const go = (page: Page, stage: string) =>
  page.getByRole('navigation', { name: 'Trail' }).getByText(stage, { exact: true }).click();

type NewPlan = { name: string; site?: string };

/** Makes a plan from the list of plans, and opens it. */
export async function makePlan(page: Page, url: string, { name, site = 'saltmarshpaddle.example' }: NewPlan) {
  await page.goto(url);
  await page.getByRole('button', { name: 'Make a plan' }).first().click();
  const form = page.getByRole('dialog', { name: 'Make a plan' });
  await form.getByLabel('Name').fill(name);
  await form.getByLabel('Site, where the ads lead').fill(site);
  await form.getByRole('button', { name: 'Make the plan' }).click();
}

type Filled = Partial<NewPlan> & {
  list?: string;
  /** Each a theme of keywords that have all of its words, named by them. */
  themes?: readonly (readonly string[])[];
  /** The keys of the outlets that it ships to. */
  outlets?: readonly string[];
  stage?: string;
};

/** Makes a plan with what a test is not about, without the screens, and opens it at a stage. */
export async function openPlan(
  page: Page,
  url: string,
  {
    name = 'Saltmarsh',
    site = 'saltmarshpaddle.example',
    list,
    themes = [],
    outlets = [],
    stage = 'gather',
  }: Filled = {},
): Promise<number> {
  const ask = asker(url);
  const { id: plan } = await ask(api.makePlan, {
    body: { name, site, currency: 'GBP', language: 'en' },
  });
  if (list !== undefined) {
    const sent = await fetchSignedIn(`${url}/api/plans/${plan}/uploads`, { method: 'POST', body: list });
    const { upload } = (await sent.json()) as { upload: string };
    const body = { upload, kind: 'paste' as const, name: 'List', options: {} };
    const { job } = await ask(api.startImport, { params: { plan }, body });
    const ended = () => ask(api.readJob, { params: { plan, job } });
    await expect.poll(async () => (await ended()).status, { intervals: [20] }).toBe('done');
  }
  if (themes.length > 0) {
    const made = themes.map((words) =>
      api.newThemeOf(words.join(' '), { has: words.map((word) => [word]), not: [] }),
    );
    await ask(api.makeThemes, { params: { plan }, body: { parent: null, themes: made } });
  }
  for (const outlet of outlets)
    await ask(api.chooseOutlet, { params: { plan, outlet }, body: { chosen: true } });
  if (outlets.length > 0 && !outlets.includes('plain'))
    await ask(api.chooseOutlet, { params: { plan, outlet: 'plain' }, body: { chosen: false } });
  await page.goto(`${url}/plans/${plan}/${stage}`);
  // Keys pressed before the stage is there would go nowhere.
  await expect(page.locator('[data-yield]').first()).toBeVisible();
  return plan;
}

/** Asks the server as the screens do, by the same definitions. */
export const asker =
  (url: string) =>
  async <P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
    { method, path, answer }: api.Endpoint<P, Q, B, A>,
    { params, body }: { params?: z.input<P>; body?: z.input<B> },
  ): Promise<z.output<A>> => {
    const filled = path.replace(/:(\w+)/g, (_, name: string) =>
      String((params as Record<string, unknown>)[name]),
    );
    const told = await fetchSignedIn(`${url}${filled}`, {
      method,
      headers: { 'content-type': 'application/json' },
      ...(method === 'GET' ? {} : { body: JSON.stringify(body ?? {}) }),
    });
    if (!told.ok) throw new Error(`${method} ${filled}: ${await told.text()}`);
    return answer.parse(await told.json());
  };

/** What would keep people with assistive technology from using the page, once no message comes or goes on it. */
export async function graveProblems(page: Page, rules?: string[]): Promise<string[]> {
  await dismissToasts(page);
  // Without frames of other hosts nothing has to be put together in a page of its own.
  const axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`);
}

/** Wipes away what is told at the foot of the page: a message on its way out is half transparent. */
export async function dismissToasts(page: Page) {
  const toasts = page.locator('[data-sonner-toast]');
  await expect(async () => {
    const box = (await toasts.count()) > 0 ? await toasts.last().boundingBox({ timeout: 500 }) : null;
    if (box) {
      await page.mouse.move(box.x + 8, box.y + box.height / 2);
      await page.mouse.down();
      await page.mouse.move(box.x + 8, box.y + box.height / 2 + 70, { steps: 3 });
      await page.mouse.up();
      await page.mouse.move(0, 0);
    }
    await expect(toasts).toHaveCount(0, { timeout: 600 });
  }).toPass();
}

/**
 * Ships by key, once it can be: as long as another outlet is looked through its column moves, and a button that moves
 * between press and release is not clicked.
 */
export async function pressToShip(button: Locator): Promise<void> {
  await expect(button).toBeEnabled();
  await button.press('Enter');
}
