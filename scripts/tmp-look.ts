import { chromium } from '@playwright/test';
import config from '../playwright.config.ts';

const use = config.use ?? {};
const browser = await chromium.launch(use.launchOptions ?? {});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const [, , base = '', ...steps] = process.argv;
for (const step of steps) {
  const [path = '', file = '', ...clicks] = step.split('@@');
  await page.goto(base + path);
  await page.waitForTimeout(3000);
  for (const click of clicks) {
    if (click.startsWith('key:')) await page.keyboard.press(click.slice(4));
    else await page.locator(click).first().click();
    await page.waitForTimeout(1200);
  }
  await page.screenshot({ path: file });
}
await browser.close();
