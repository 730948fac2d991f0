import {
  editPreferences,
  type PlanState,
  preferencesSchema,
  readFacts,
  readMe,
  readSort,
  usualSortSettings,
} from '@sprig/contracts';
import { stepCodes } from '@sprig/core/next';
import { screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { Allowed } from '../../kit/allowed.tsx';
import { Yield, YieldEnd } from '../../kit/Yield.tsx';
import { meOf, servedBy, shownAt } from '../../testing/rendered.tsx';
import { NextStep } from './NextStep.tsx';
import { stepWords } from './next-words.ts';

const looks = vi.hoisted(() => ({ asked: [] as string[], foldable: 40, unplaced: 300 }));
vi.mock('../../pool/use-pool.ts', () => ({
  poolWorker: () => ({
    refresh: async () => {},
    foldable: async () => {
      looks.asked.push('look-alikes');
      return looks.foldable;
    },
    sort: async () => {
      looks.asked.push('unplaced');
      return { unplaced: { keywords: looks.unplaced } };
    },
  }),
}));

const plan = (counts: Partial<PlanState['counts']> = {}, more: Partial<PlanState> = {}): PlanState => ({
  id: 7,
  revision: 5,
  builtRevision: 5,
  brief: { name: 'Tea', currency: 'GBP', language: 'en', site: 'tea.example', archived: false },
  undo: null,
  redo: null,
  you: { role: 'owner', permissions: ['ship', 'approve'] },
  counts: {
    keywords: 600,
    cut: 0,
    folded: 0,
    blocked: 0,
    recipes: 0,
    recipesOut: 0,
    themes: 0,
    sources: 1,
    negatives: 3,
    kept: 0,
    facts: 1,
    locations: 0,
    languages: 1,
    groups: 600,
    rows: 1_800,
    unbudgeted: 0,
    ads: 600,
    misfits: 600,
    blockers: 1,
    warnings: 0,
    outlets: 0,
    shipped: 0,
    unanswered: 0,
    reports: 0,
    ...counts,
  },
  ...more,
});

let preferences = preferencesSchema.parse({});
function open(of: PlanState, may: readonly string[] | null = null) {
  servedBy([
    [readMe, () => meOf({ preferences })],
    [
      editPreferences,
      ({ body }) => {
        preferences = { ...preferences, ...(body as object) };
        return meOf({ preferences });
      },
    ],
    [readFacts, () => ({ facts: {} })],
    [readSort, () => ({ themes: [], placed: [], settings: usualSortSettings, seen: 0 })],
  ]);
  return shownAt(
    '/plans/7/gather',
    <Allowed may={(access) => may === null || may.includes(access)}>
      <YieldEnd value={<NextStep plan={of} />}>
        <Yield terms={[]} />
      </YieldEnd>
    </Allowed>,
  );
}
const step = () => screen.findByRole('link');
const fold = () => screen.findByRole('link', { name: 'Fold 40 look-alikes' });

beforeEach(() => {
  preferences = preferencesSchema.parse({});
  looks.asked = [];
});

describe('the step that is proposed', () => {
  test('leads to where it is done', async () => {
    const { user, address } = open(plan());
    await user.click(await fold());
    expect(address()).toBe('/plans/7/prune?view=alike&step=fold');
  });

  test('what costs a look is looked at only when it is its turn', async () => {
    open(plan({ themes: 12 }));
    await fold();
    expect(looks.asked).toEqual(['look-alikes']);
  });

  test('when the look-alikes were skipped, what has no theme is looked at', async () => {
    preferences = { ...preferences, skippedSteps: { 7: ['fold'] } };
    open(plan({ themes: 12 }));
    await screen.findByRole('link', { name: 'Group 300 keywords' });
    expect(looks.asked).toEqual(['unplaced']);
  });

  test('says why, and is skipped in this plan alone', async () => {
    preferences = { ...preferences, skippedSteps: { 9: ['site'] } };
    const { user } = open(plan());
    await fold();
    await user.click(screen.getByRole('button', { name: 'Why this step, and skipping it' }));
    expect(screen.getByText(/each search is entered once/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Skip it in this plan' }));
    expect((await step()).textContent).toBe('Group 600 keywords');
    expect(preferences.skippedSteps).toEqual({ 7: ['fold'], 9: ['site'] });
  });

  test('offers nobody what they may not do', async () => {
    const { unmount } = open(plan(), ['read', 'write']);
    expect((await step()).getAttribute('data-next-step')).toBe('write');
    expect(looks.asked).toEqual([]);
    unmount();
    open(plan(), ['read']);
    await new Promise((go) => setTimeout(go, 50));
    expect(screen.queryByRole('link')).toBeNull();
  });

  test('all of it can be turned off', async () => {
    const { user } = open(plan());
    await fold();
    await user.click(screen.getByRole('button', { name: 'Why this step, and skipping it' }));
    await user.click(screen.getByRole('button', { name: 'Propose no more steps' }));
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Next step' })).toBeNull());
    expect(preferences.steps).toBe(false);
  });

  test('nothing is proposed while the plan is still being built', async () => {
    open(plan({ folded: 2 }, { revision: 6 }));
    await waitFor(() => expect(looks.asked).toEqual(['look-alikes']));
    expect(screen.queryByRole('link')).toBeNull();
  });
});

test('every step has words and leads to a stage', () => {
  for (const code of stepCodes) {
    const { act, why, to } = stepWords({ code, count: 2 });
    expect(act.length).toBeGreaterThan(5);
    expect(act.length).toBeLessThan(40);
    expect(why).toMatch(/[.]$/);
    expect(to).toMatch(/^(brief|gather|prune|sort|build|write|ship)\b/);
  }
});
