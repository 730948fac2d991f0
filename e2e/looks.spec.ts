import type { Page } from '@playwright/test';
import * as api from '@sprig/contracts';
import { patternOf } from '@sprig/core/write';
import { expect, test } from './server.ts';
import { fetchSignedIn } from './signed-in.ts';
import { asker, graveProblems, openPlan } from './steps.ts';

const LIST = [
  'Keyword\tSearches\tCPC',
  'drain cleaning\t900\t1.20',
  'drain cleaning price\t210\t1.40',
  'drain cleaning near me\t480\t1.80',
  'blocked drain\t1300\t2.10',
  'blocked drain outside\t170\t1.90',
  'burst pipe\t700\t2.60',
  'burst pipe repair\t320\t2.80',
  'boiler service\t1100\t1.10',
  'boiler service cost\t260\t1.00',
  'boiler repair\t880\t1.70',
  'plumber course\t90\t0.40',
  'what is a ballcock\t40\t',
].join('\n');

const REPORT = [
  'Day,Campaign,Ad group,Keyword,Match type,Impressions,Clicks,Cost,Average position,Conversions',
  ...Array.from({ length: 20 }, (_, at) =>
    ['blocked drain', 'burst pipe', 'boiler service'].map(
      (keyword, n) =>
        `2026-11-${String(at + 1).padStart(2, '0')},Drains,${keyword},${keyword},Exact,${40 + n * 30},${4 + n},${8 + n}.50,${n + 1}.4,${n}`,
    ),
  ).flat(),
].join('\n');

/** Every view there is, by its address below the plan or the server. */
const VIEWS = [
  '/',
  '/how',
  '/variants',
  'client',
  'brief',
  'gather',
  'gather?ideas=gaps',
  'mix',
  'mix?view=list',
  'prune',
  'prune?view=alike',
  'prune?view=negatives',
  'prune?view=lists',
  'sort',
  'sort?view=outline',
  'sort?view=stages',
  'build',
  'build?view=rules',
  'build?view=groups',
  'build?view=rows',
  'build?view=fences',
  'write',
  'write?view=ads',
  'write?view=searcher',
  'write?view=addresses',
  'write?view=extras',
  'ship',
  'ship?view=rows',
  'ship?view=outlets',
  'ship?view=account',
  'ship?view=back',
  'learn',
  'learn?by=keyword&picture=points&figures=[["clicks","over",0]]',
  'learn?picture=days',
  'learn?view=reports',
  'learn?view=verdicts',
  'learn?view=verdicts&list=too-early',
  'learn?view=terms',
  'learn?view=watch',
];

/** A plan with something in every view. */
async function fullPlan(page: Page, url: string): Promise<number> {
  const themes = [['drain'], ['boiler'], ['burst', 'pipe']];
  const plan = await openPlan(page, url, {
    name: 'Drains',
    list: LIST,
    themes,
    outlets: ['plain', 'fennelwick'],
  });
  const ask = asker(url);
  const params = { plan };
  await ask(api.addNegatives, {
    params,
    body: { negatives: [{ text: 'course', type: 'phrase' }], reason: 'hand' },
  });
  const lines = {
    headline1: ['@keyword'],
    headline2: ['Fixed today', 'Today'],
    headline3: [],
    description1: ['We come to you.'],
  };
  await ask(api.makePattern, { params, body: { body: patternOf(lines, 'title'), behind: null } });
  const read = async (report: string) => {
    const sent = await fetchSignedIn(`${url}/api/plans/${plan}/uploads`, { method: 'POST', body: report });
    const { upload } = (await sent.json()) as { upload: string };
    const body = { files: [{ upload, name: 'Days.csv' }] };
    const { job } = await ask(api.startReports, { params, body });
    const ended = () => ask(api.readJob, { params: { plan, job } });
    await expect.poll(async () => (await ended()).status, { intervals: [20] }).toBe('done');
    return api.reportsRead.parse((await ended()).result).readings;
  };
  await ask(api.takeReports, { params, body: { readings: await read(REPORT) } });
  // Their figures stand beside keywords, ad groups, themes and ads.
  await ask(api.editPreferences, { body: { resultColumns: ['clicks', 'ctr', 'cost'] } });
  // One that waits, with something wrong in it.
  await read(REPORT.replace(',40,', ',none,'));
  return plan;
}

/** What can be pressed or typed into and lies beyond the window's edges, where nothing scrolls to it. */
const unreachable = (page: Page): Promise<string[]> =>
  page.evaluate(`(() => {
    const scrolls = (element, side) => {
      for (let above = element.parentElement; above; above = above.parentElement) {
        const style = getComputedStyle(above);
        const how = side === 'x' ? style.overflowX : style.overflowY;
        const is = side === 'x' ? above.scrollWidth > above.clientWidth : above.scrollHeight > above.clientHeight;
        if (is && (how === 'auto' || how === 'scroll' || above.hasAttribute('data-moves-along'))) return true;
      }
      return false;
    };
    return [...document.querySelectorAll('a[href], button, input, select, textarea, [tabindex="0"]')].flatMap((element) => {
      const { left, right, top, bottom, width, height } = element.getBoundingClientRect();
      if (width < 2 || height < 2 || !element.checkVisibility({ opacityProperty: true, visibilityProperty: true })) return [];
      const aside = (left < -1 || right > innerWidth + 1) && !scrolls(element, 'x');
      const below = (top < -1 || bottom > innerHeight + 1) && !scrolls(element, 'y');
      const name = element.getAttribute('aria-label') ?? element.textContent ?? '';
      return aside || below ? [(aside ? 'aside: ' : 'below: ') + element.tagName + ' ' + name.slice(0, 60)] : [];
    });
  })()`);

/** Waits until nothing on the page has changed for a moment. */
const settled = (page: Page) =>
  page.evaluate(`new Promise((done) => {
    let timer;
    const watch = new MutationObserver(() => again());
    const again = () => {
      clearTimeout(timer);
      timer = setTimeout(() => (watch.disconnect(), done()), 250);
    };
    watch.observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
    again();
  })`);

/** Goes to an address within the application. */
const visit = (page: Page, path: string) =>
  page.evaluate(
    `history.pushState(null, '', ${JSON.stringify(path)}); dispatchEvent(new PopStateEvent('popstate'));`,
  );

type Look = { name: string; theme: 'sprig' | 'sprig-night'; width: number; height: number; rules?: string[] };
/** What of axe's rules hangs on the theme, and what on the size of the window: all of them are looked at once. */
const looks: Look[] = [
  { name: 'light', theme: 'sprig', width: 1280, height: 800 },
  { name: 'dark', theme: 'sprig-night', width: 1280, height: 800, rules: ['color-contrast'] },
  {
    name: 'in a narrow window',
    theme: 'sprig',
    width: 1024,
    height: 700,
    rules: ['scrollable-region-focusable'],
  },
  {
    name: 'at 200 %',
    theme: 'sprig',
    width: 640,
    height: 400,
    rules: ['scrollable-region-focusable', 'target-size'],
  },
];

/** Shows the page so, and waits until it has come to rest. */
const wear = async (page: Page, { theme, width, height }: Look) => {
  await page.setViewportSize({ width, height });
  await page.evaluate(`document.documentElement.dataset.theme = ${JSON.stringify(theme)}`);
  await settled(page);
};

// Every other view in a test of its own, so that two of them are looked at side by side.
for (const [part, views] of [
  ['one half', VIEWS.filter((_, at) => at % 2 === 0)],
  ['the other half', VIEWS.filter((_, at) => at % 2 === 1)],
] as const)
  test(`${part} of all views, light and dark, narrow and at 200 %: nothing serious for assistive technology, nothing out of reach`, async ({
    page,
    url,
  }) => {
    const plan = await fullPlan(page, url);
    const wrong: Record<string, string[]> = {};
    for (const view of views) {
      await visit(page, view.startsWith('/') ? view : `/plans/${plan}/${view}`);
      await expect(page.getByRole('main').locator('section, form, table, h1').first()).toBeVisible();
      for (const look of looks) {
        await wear(page, look);
        const found = [...(await graveProblems(page, look.rules)), ...(await unreachable(page))];
        if (found.length > 0) wrong[`${view} ${look.name}`] = found;
      }
    }
    expect(wrong).toEqual({});
  });

test('the theme that one has chosen is the one that is shown', async ({ page, url }) => {
  for (const theme of ['sprig-night', 'sprig'] as const) {
    await asker(url)(api.editPreferences, { body: { theme } });
    await page.goto(url);
    await expect(page.locator('html')).toHaveAttribute('data-theme', theme);
  }
});
