import { type BrowserContext, chromium, type Page } from '@playwright/test';
import { figuresOf, manyKeywords } from '@sprig/market';
import config from '../../playwright.config.ts';
import { ensureChromium } from '../setup/chromium.mjs';
import { forBrowser } from '../setup/sign-in.mjs';
import { ensureWeb } from '../setup/web.mjs';
import {
  type Api,
  cookieHere,
  type Figure,
  jobsDone,
  PORT,
  planOf,
  startServer,
  takeIn,
  URL_HERE,
} from './server.ts';

/** What only a browser can tell: how long a large copy takes, and whether the screen stays live under a large recipe. */
export async function browserFigures(): Promise<Figure[]> {
  return inBrowser(async (page, api) => [await copied(page), ...(await live(page, api))]);
}

/** How long a key takes to show while gaps of 100,000 keywords with figures are sought and estimated. */
export const seekingGaps = (): Promise<Figure> => inBrowser(whileSeeking);

/** A browser that has nothing of the application yet, in which somebody is signed in. */
export type Open = () => Promise<BrowserContext>;

/** A browser, and a server with the built app to look at. */
export async function withBrowser<T>(work: (open: Open, api: Api) => Promise<T>): Promise<T> {
  await ensureWeb();
  ensureChromium();
  const server = await startServer();
  const browser = await chromium.launch(config.use?.launchOptions);
  try {
    const open = async () => {
      const context = await browser.newContext({
        viewport: { width: 1280, height: 800 },
        permissions: ['clipboard-read', 'clipboard-write'],
      });
      await context.addCookies([forBrowser(cookieHere(), URL_HERE)]);
      return context;
    };
    return await work(open, server.api);
  } finally {
    await browser.close();
    await server.stop();
  }
}

const inBrowser = <T>(work: (page: Page, api: Api) => Promise<T>): Promise<T> =>
  withBrowser(async (open, api) => work(await (await open()).newPage(), api));

/** As text, for the page: how long each key takes until the next frame is drawn. */
const WATCH_KEYS = `
  window.keys = [];
  addEventListener('keydown', () => {
    const start = performance.now();
    requestAnimationFrame(() => setTimeout(() => window.keys.push(performance.now() - start)));
  }, true);
`;

async function whileSeeking(page: Page, api: Api): Promise<Figure> {
  const keywords = manyKeywords(100_000).map((keyword) => ({ ...keyword, ...figuresOf(keyword.text, 9) }));
  const list = keywords.map(({ text, searches, cpc }) => `${text}\t${searches}\t${(cpc / 1e6).toFixed(2)}`);
  // Only then, since the server hangs up on those who think for long.
  const plan = await planOf(api);
  await takeIn(api, plan, ['Keyword\tSearches\tCPC', ...list].join('\n'));
  await jobsDone(api, plan, 'rebuild');
  await page.goto(`http://127.0.0.1:${PORT}/plans/${plan}/gather`);
  await page.getByRole('row').nth(5).waitFor({ timeout: 60_000 });
  await page.evaluate(WATCH_KEYS);
  await page.getByRole('button', { name: 'Ideas' }).click();
  const field = page.getByLabel('Contains');
  const found = page.locator('[data-yield=found]');
  for (let key = 0; ((await found.textContent()) ?? '').startsWith('0'); key++) {
    await field.press(key % 2 === 0 ? 'a' : 'Backspace');
    await page.waitForTimeout(30);
  }
  const keys = (JSON.parse(await page.evaluate('JSON.stringify(window.keys)')) as number[]).sort(
    (a, b) => a - b,
  );
  if (keys.length < 10) throw new Error(`Only ${keys.length} keys were pressed before gaps were found.`);
  const at = (share: number) => keys[Math.floor(keys.length * share)]?.toFixed(0);
  return {
    name: 'a key until it shows, while gaps of 100,000 keywords are sought in the same window, median and 95 in 100',
    value: `${at(0.5)} ms, ${at(0.95)} ms`,
    target: '16 ms',
  };
}

/** From the click to the word that everything is on the clipboard. */
async function copied(page: Page): Promise<Figure> {
  await page.goto(`http://127.0.0.1:${PORT}/variants?types=broad,modified,phrase,exact`);
  const list = manyKeywords(100_000)
    .map(({ text }) => text)
    .join('\n');
  await page.evaluate((text) => navigator.clipboard.writeText(text), list);
  await page.getByLabel('Keywords, one to a line').click();
  await page.keyboard.press('Control+v');
  const button = page.getByRole('button', { name: 'Copy 400,000 rows' });
  await button.waitFor({ timeout: 120_000 });
  const start = performance.now();
  await button.click();
  await page.getByText('Copied 400,000 rows').waitFor({ timeout: 60_000 });
  const took = performance.now() - start;
  const lines = await page.evaluate(async () => (await navigator.clipboard.readText()).split('\n').length);
  if (lines !== 400_000) throw new Error(`${lines} lines were copied`);
  return {
    name: '100,000 keywords × 4 match types copied in the browser, from the click to the clipboard',
    value: `${(took / 1_000).toFixed(2)} s`,
    target: '1 s',
  };
}

/** As text, since what is compiled for Node does not run in a page. */
const WATCH_FRAMES = `
  window.watch = { longest: 0, last: performance.now() };
  const look = (now) => {
    window.watch.longest = Math.max(window.watch.longest, now - window.watch.last);
    window.watch.last = now;
    requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
`;

/** A word more in a recipe of a million: when it is counted, when it is made, and the longest the screen stood still. */
async function live(page: Page, api: Api): Promise<Figure[]> {
  const { id: plan } = await api('POST', '/plans', {
    name: 'Large',
    currency: 'GBP',
    language: 'en',
    site: 'shop.example',
  });
  const words = (name: string) => Array.from({ length: 100 }, (_, at) => `${name}${at}`).join('\n');
  const lists = ['trait', 'good', 'place'].map((name, at) => ({
    id: at + 1,
    kind: 'own',
    name,
    text: words(name),
    takes: [],
  }));
  const slots = lists.map(({ id }) => ({ kind: 'list', list: id, optional: false }));
  await api('POST', `/plans/${plan}/recipes`, {
    recipe: {
      name: 'A million',
      on: true,
      lists,
      patterns: [{ id: 1, slots, flip: false }],
      never: [],
      repeats: false,
      firstFormOnly: false,
      alone: [],
    },
  });
  await page.goto(`http://127.0.0.1:${PORT}/plans/${plan}/mix?view=list`);
  const made = page.locator('[data-yield=made]');
  await made.filter({ hasText: '1,000,000' }).waitFor({ timeout: 60_000 });
  await page.waitForTimeout(2_000);
  await page.evaluate(WATCH_FRAMES);
  const start = performance.now();
  await page.getByLabel('Add to place').fill('heronsea');
  await page.getByLabel('Add to place').press('Enter');
  await made.filter({ hasText: '1,010,000' }).waitFor({ timeout: 60_000 });
  const took = performance.now() - start;
  const longest = Number(await page.evaluate('window.watch.longest'));
  return [
    {
      name: 'a word more in a recipe of 1,000,000, until the screen says what it makes',
      value: `${(took / 1_000).toFixed(2)} s`,
      target: '1.5 s',
    },
    {
      name: 'the longest that the screen stood still meanwhile',
      value: `${longest.toFixed(0)} ms`,
      target: '100 ms',
    },
  ];
}
