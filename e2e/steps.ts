import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

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

/** What would keep people with assistive technology from using the page, once no message comes or goes on it. */
export async function graveProblems(page: Page): Promise<string[]> {
  await expect(page.locator('[data-sonner-toast]')).toHaveCount(0);
  const { violations } = await new AxeBuilder({ page }).analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`);
}
