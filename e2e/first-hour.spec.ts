import type { Locator, Page } from '@playwright/test';
import { expect, test } from './server.ts';
import { graveProblems, openPlan } from './steps.ts';

const SERVICES = [
  'bike repair',
  'puncture repair',
  'brake service',
  'gear tuning',
  'wheel truing',
  'bike fitting',
];
const TRAITS = ['', 'mobile ', 'same day ', 'electric ', 'mountain ', 'road ', 'kids ', 'weekend '];
const WANTS = ['', ' near me', ' cost', ' price', ' shop'];

/** What a bicycle workshop found about its searches, with a few forms of the same and a word that never sells. */
const list = (): string =>
  [
    'Keyword\tSearches\tCPC',
    ...SERVICES.flatMap((service, a) =>
      TRAITS.flatMap((trait, b) =>
        WANTS.map(
          (want, c) =>
            `${trait}${service}${want}\t${(9 - a) * (9 - b) * (6 - c)}\t${(0.4 + a / 20).toFixed(2)}`,
        ),
      ),
    ),
    'bike repairs\t80\t0.50',
    'repair bike\t50\t0.40',
    'free bike repair\t9000\t0.40',
  ].join('\n');

/** Somebody whose clicks, texts and keys are counted. */
class Hands {
  actions = 0;
  constructor(readonly page: Page) {}

  click(what: Locator): Promise<void> {
    this.actions++;
    return what.click();
  }
  press(key: string): Promise<void> {
    this.actions++;
    return this.page.keyboard.press(key);
  }
  /** A text typed or pasted where the focus is. */
  type(text: string): Promise<void> {
    this.actions++;
    return this.page.keyboard.insertText(text);
  }
}

/** Does what is proposed, one step after another, until nothing is; answers the steps in their order. */
async function asProposed(
  page: Page,
  follow: () => Promise<void>,
  does: Record<string, () => Promise<void>>,
) {
  const done: string[] = [];
  for (;;) {
    const code = await newStep(page, done.at(-1));
    if (code === null) return done;
    expect(done).not.toContain(code);
    await follow();
    await does[code]?.();
    done.push(code);
  }
}

/** The step that is proposed after another one; null once everything is shipped and answered. */
async function newStep(page: Page, last: string | undefined): Promise<string | null> {
  const link = page.locator('[data-next-step]');
  const isDone = page.getByRole('navigation', { name: 'Trail' });
  let code: string | null = null;
  await expect(async () => {
    const there = await link.count();
    code = there > 0 ? await link.getAttribute('data-next-step', { timeout: 500 }) : null;
    if (there > 0) expect(code).not.toBe(last ?? '');
    else {
      expect(last).toBe('hand-in');
      await expect(isDone).toBeVisible();
    }
  }).toPass();
  return code;
}

/** Does what the step led to: it has the focus. */
async function doFocused(hands: Hands, step: string): Promise<void> {
  await expect(hands.page.locator(`[data-step="${step}"]`).first()).toBeFocused();
  await hands.press('Enter');
}

/** Tab, counted, until something of this name has the focus; Enter then does it. */
async function tabTo(hands: Hands, name: RegExp, key = 'Tab'): Promise<void> {
  for (let times = 0; times < 80; times++) {
    const focused = await hands.page.evaluate(() => {
      const it = document.activeElement;
      return it?.getAttribute('aria-label') ?? it?.textContent ?? '';
    });
    if (name.test(focused.trim())) return hands.press('Enter');
    await hands.press(key);
  }
  throw new Error(`Nothing called ${name} was come to.`);
}

const STEPS = ['fold', 'block', 'group', 'site', 'locate', 'language', 'choose', 'write', 'ship', 'hand-in'];

test('a workshop’s list becomes accepted sheets by what the screen proposes alone', async ({ page, url }) => {
  await openPlan(page, url, { name: 'Spoke and Chain', site: '' });
  const hands = new Hands(page);
  await page.evaluate((text) => navigator.clipboard.writeText(text), list());
  await hands.press('Control+v');
  await hands.click(page.getByRole('button', { name: /^Take in 243 keywords/ }));

  const button = (name: RegExp | string) => page.getByRole('button', { name });
  const done = await asProposed(page, () => hands.click(page.locator('[data-next-step]')), {
    fold: () => hands.click(button(/^Fold 2 /)),
    block: async () => {
      // The heaviest word belongs.
      await expect(page.getByText(/keywords with repair/)).toBeVisible();
      await hands.press('ArrowLeft');
    },
    group: () => hands.click(button(/^Take \d+ themes/)),
    site: async () => {
      await expect(page.getByLabel('Site', { exact: true })).toBeFocused();
      await hands.type('spokeandchain.example');
      await hands.press('Enter');
    },
    locate: async () => {
      await expect(page.getByLabel('Locations', { exact: true })).toBeFocused();
      await hands.type('Wrenport, town');
      await hands.press('Control+Enter');
    },
    language: async () => {
      await expect(page.getByLabel('Languages of the audience', { exact: true })).toBeFocused();
      await hands.type('English');
      await hands.press('Control+Enter');
    },
    choose: async () => {
      await hands.click(page.getByRole('menuitem', { name: 'Harrowlight' }));
      await hands.click(button('Ship to Plain sheets no more'));
    },
    write: async () => {
      const sets = page.getByRole('dialog', { name: 'Lines to start from' });
      await expect(sets.getByText(/^Fits all \d+ ad groups$/).first()).toBeVisible();
      await hands.click(sets.getByRole('button', { name: 'Start from it' }).first());
    },
    clear: async () => {},
    ship: () => hands.click(button(/^Ship [\d,]+ rows/)),
    'hand-in': () => hands.click(button(/^Hand in to the simulated/)),
  });
  expect(done.filter((code) => code !== 'clear')).toEqual(STEPS);
  await expect(page.getByText(/took all [\d,]+ rows/).first()).toBeVisible();
  expect(hands.actions).toBeLessThan(60);
  expect(await graveProblems(page)).toEqual([]);
});

test('the same by keyboard alone', async ({ page, url }) => {
  await openPlan(page, url, { name: 'Spoke and Chain', site: '' });
  const hands = new Hands(page);
  await page.evaluate((text) => navigator.clipboard.writeText(text), list());
  await hands.press('Control+v');
  await expect(page.getByRole('button', { name: /^Take in 243 keywords/ })).toBeVisible();
  await hands.press('Control+Enter');
  await expect(page.getByRole('grid', { name: 'Pool' })).toBeVisible();
  const follow = async () => {
    await hands.press('g');
    await hands.press('n');
  };
  const typed = async (label: string, text: string, key: string) => {
    await expect(page.getByLabel(label, { exact: true })).toBeFocused();
    await hands.type(text);
    await hands.press(key);
  };
  const does: Record<string, () => Promise<void>> = {
    fold: () => doFocused(hands, 'fold'),
    block: async () => {
      await expect(page.getByText(/keywords with repair/)).toBeVisible();
      await hands.press('ArrowLeft');
    },
    group: () => doFocused(hands, 'group'),
    site: () => typed('Site', 'spokeandchain.example', 'Enter'),
    locate: () => typed('Locations', 'Wrenport, town', 'Control+Enter'),
    language: () => typed('Languages of the audience', 'English', 'Control+Enter'),
    choose: async () => {
      await expect(page.getByRole('menu')).toBeVisible();
      await hands.press('ArrowDown');
      await hands.press('Enter');
      await expect(page.getByRole('region', { name: 'Harrowlight', exact: true })).toBeVisible();
      await tabTo(hands, /^Ship to Plain sheets no more/, 'Shift+Tab');
    },
    write: async () => {
      await expect(page.getByText(/^Fits all \d+ ad groups$/).first()).toBeVisible();
      await doFocused(hands, 'write');
    },
    ship: () => doFocused(hands, 'ship'),
    'hand-in': () => doFocused(hands, 'hand-in'),
  };
  const done = await asProposed(page, follow, does);
  expect(done.filter((code) => code !== 'clear')).toEqual(STEPS);
  await expect(page.getByText(/took all [\d,]+ rows/).first()).toBeVisible();
  expect(hands.actions).toBeLessThan(60);
});
