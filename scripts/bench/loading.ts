import { gzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { figuresOf, manyKeywords } from '@sprig/market';
import { type Open, withBrowser } from './browser.ts';
import type { Measured } from './measured-apart.ts';
import { type Api, type Figure, jobsDone, PORT, planOf, takeIn } from './server.ts';

const SCRIPT_KB = 250;
const FIRST_VIEW_MS = 1_500;
const LONG_TASK_MS = 100;
const KEYWORDS = 100_000;
const MOST_LOOKS = 100;
/** By then all that a view of so many keywords works out at first is there. */
const OPENING_MS = 14_000;
/** A key comes so long after the one before: a quick typist's. */
const KEY_MS = 60;

/** What the built app takes to load, and the longest that typing holds the screen with a large pool. */
export async function loadingMeasured(): Promise<Measured> {
  return withBrowser(async (open, api) => {
    const small = await planOf(api);
    await takeIn(api, small, 'drain cleaning\t900\nburst pipe\t700\n');
    await jobsDone(api, small, 'rebuild');
    const figures = [
      await firstView(open, 'the list of plans', '/', 'Make a plan'),
      await firstView(open, 'a plan opened by its address', `/plans/${small}/gather`, 'Paste a list'),
    ].flat();
    const large = await largePlan(api);
    const context = await open();
    const page = await context.newPage();
    for (const field of FIELDS) figures.push(await whileTyping(page, large, field));
    await context.close();
    return { entries: [], figures };
  });
}

/** In a browser that has nothing of it yet. */
async function firstView(open: Open, name: string, path: string, button: string): Promise<Figure[]> {
  const context = await open();
  const page = await context.newPage();
  const scripts = new Map<string, Promise<number>>();
  page.on('response', (answer) => {
    if (answer.request().resourceType() === 'script')
      scripts.set(
        answer.url(),
        answer.body().then((body) => gzipSync(body).length),
      );
  });
  /** What the page itself has loaded by now: what its worker loads is no part of what the view waits for. */
  const loaded = async () => {
    const names = (await page.evaluate(
      `performance.getEntriesByType('resource').map(({ name }) => name)`,
    )) as string[];
    const own = names.filter((name) => scripts.has(name) && !name.includes('/worker-'));
    const bytes = await Promise.all(own.map((name) => scripts.get(name)));
    return `${Math.round(bytes.reduce<number>((sum, one) => sum + (one ?? 0), 0) / 1_000)} kB`;
  };
  const start = performance.now();
  await page.goto(`http://127.0.0.1:${PORT}${path}`, { waitUntil: 'commit' });
  await page.getByRole('button', { name: button, exact: true }).first().click({ trial: true });
  const took = performance.now() - start;
  const needed = await loaded();
  await page.waitForTimeout(3_000);
  const all = await loaded();
  await context.close();
  return [
    {
      name: `first view of ${name}, until its buttons can be pressed`,
      value: `${(took / 1_000).toFixed(2)} s`,
      target: `${FIRST_VIEW_MS / 1_000} s`,
    },
    {
      name: `script that ${name} loads until then, compressed`,
      value: needed,
      target: `${SCRIPT_KB} kB`,
    },
    { name: `and ${name} with what comes after, pictures and the next step`, value: all, target: '–' },
  ];
}

async function largePlan(api: Api): Promise<number> {
  const keywords = manyKeywords(KEYWORDS).map((keyword) => ({ ...keyword, ...figuresOf(keyword.text, 9) }));
  const list = keywords.map(({ text, searches, cpc }) => `${text}\t${searches}\t${(cpc / 1e6).toFixed(2)}`);
  const plan = await planOf(api);
  await takeIn(api, plan, ['Keyword\tSearches\tCPC', ...list].join('\n'));
  await jobsDone(api, plan, 'rebuild');
  const lists = ['made', 'for'].map((name, at) => ({
    id: at + 1,
    kind: 'own',
    name,
    text: Array.from({ length: 300 }, (_, word) => `${name}${word}`).join('\n'),
    takes: [],
  }));
  await api('POST', `/plans/${plan}/recipes`, {
    recipe: {
      name: 'Ninety thousand',
      on: true,
      lists,
      patterns: [
        { id: 1, slots: lists.map(({ id }) => ({ kind: 'list', list: id, optional: false })), flip: false },
      ],
      never: [],
      repeats: false,
      firstFormOnly: false,
      alone: [],
    },
  });
  return plan;
}

type Field = { name: string; path: string; reach: (page: Page) => Promise<void> };

const byKey = (key: string) => async (page: Page) => {
  await page.keyboard.press(key);
};
const FIELDS: readonly Field[] = [
  { name: 'the filter of Gather', path: 'gather', reach: byKey('/') },
  {
    name: 'a list that is taken in',
    path: 'gather',
    reach: async (page) => {
      await page.getByRole('button', { name: 'Paste a list' }).click();
    },
  },
  {
    name: 'a list of Mix',
    path: 'mix?view=list',
    reach: (page) => page.getByLabel('Add to made').focus(),
  },
  {
    name: 'the negatives of Prune',
    path: 'prune?view=negatives',
    reach: (page) => page.getByLabel('Negative keywords to add').focus(),
  },
  { name: 'the sift of Sort', path: 'sort', reach: byKey('/') },
  { name: 'the filter of ad groups', path: 'build?view=groups', reach: byKey('/') },
  { name: 'the filter of rows', path: 'build?view=rows', reach: byKey('/') },
  { name: 'a search that is tried', path: 'build', reach: byKey('t') },
  { name: 'the filter of ads', path: 'write?view=ads', reach: byKey('/') },
  {
    name: 'a headline of all ads',
    path: 'write',
    reach: async (page) => {
      await page
        .getByRole('textbox', { name: /^Headline/ })
        .first()
        .click();
    },
  },
];

/** As text, since what is compiled for Node does not run in a page. */
const WATCH_TASKS = `
  window.longest = 0;
  new PerformanceObserver((list) => {
    for (const { duration } of list.getEntries()) window.longest = Math.max(window.longest, duration);
  }).observe({ type: 'longtask' });
`;

/** The lower of two passes: other work of the machine only ever adds. */
async function whileTyping(page: Page, plan: number, field: Field): Promise<Figure> {
  const longest = Math.min(await longestTask(page, plan, field), await longestTask(page, plan, field));
  return {
    name: `longest task while typing in ${field.name}, ${KEYWORDS.toLocaleString('en')} keywords`,
    value: longest === 0 ? 'under 50 ms' : `${Math.round(longest)} ms`,
    target: `${LONG_TASK_MS} ms`,
  };
}

async function longestTask(page: Page, plan: number, { name, path, reach }: Field): Promise<number> {
  await page.goto(`http://127.0.0.1:${PORT}/plans/${plan}/${path}`);
  await page.locator('[data-yield]').first().waitFor({ timeout: 60_000 });
  // What opening it takes is no part of typing.
  await page.waitForTimeout(OPENING_MS);
  await reach(page);
  const isField = () =>
    page.evaluate(
      `/^(INPUT|TEXTAREA)$/.test(document.activeElement?.tagName ?? '') || document.activeElement?.isContentEditable === true`,
    );
  for (let times = 0; !(await isField()); times++) {
    if (times === MOST_LOOKS) throw new Error(`There is no field to type into: ${name}`);
    await page.waitForTimeout(100);
  }
  await page.waitForTimeout(500);
  await page.evaluate(WATCH_TASKS);
  await page.keyboard.type('red kayak for two', { delay: KEY_MS });
  await page.waitForTimeout(1_500);
  return Number(await page.evaluate('window.longest'));
}
