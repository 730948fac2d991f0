import { type HandPlaced, newThemeOf } from '@sprig/contracts';
import type { FunnelStage } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { notFound } from '../../platform/failure.ts';
import { makeThemesIn } from './themes.ts';

export const listByHand = ({ database, plan, workspace }: PlanCaller): Promise<HandPlaced[]> =>
  select<HandPlaced>(
    database,
    `select keyword_id as keyword, theme_id as theme, stage from placed_by_hand
     where plan_id = $1 and workspace_id = $2 order by keyword_id`,
    [plan, workspace],
  );

/** Holds keywords in a theme, out of all themes (0), or gives them back to the rules (null). */
export const placeByHand = (
  caller: PlanCaller,
  keywords: readonly number[],
  theme: number | null,
): Promise<{ revision: number }> =>
  inChange(
    caller,
    (name: string) =>
      theme === null
        ? `Let go of where ${counted(keywords.length, 'keyword')} stand`
        : `Move ${counted(keywords.length, 'keyword')} ${theme === 0 ? 'out of their themes' : `to ${name}`}`,
    async (change) => {
      const name = theme === null || theme === 0 ? '' : await nameOf(change, theme);
      await setByHand(change, keywords, { theme_id: theme });
      return name;
    },
  );

/** Makes a theme without a rule of its own, and holds keywords in it. */
export const placeInNew = (
  caller: PlanCaller,
  keywords: readonly number[],
  { name, parent }: { name: string; parent: number | null },
): Promise<{ revision: number }> =>
  inChange(caller, `Move ${counted(keywords.length, 'keyword')} to the new theme ${name}`, async (change) => {
    const [theme] = await makeThemesIn(change, parent, [newThemeOf(name, null)]);
    await setByHand(change, keywords, { theme_id: theme as number });
  });

/** Holds the funnel stage of keywords, or gives it back to their words and themes. */
export const stageByHand = (
  caller: PlanCaller,
  keywords: readonly number[],
  stage: FunnelStage | null,
): Promise<{ revision: number }> =>
  inChange(
    caller,
    `${stage === null ? 'Let go of' : 'Set'} the stage of ${counted(keywords.length, 'keyword')}`,
    (change) => setByHand(change, keywords, { stage }),
  );

async function nameOf(change: Change, theme: number): Promise<string> {
  const [row] = await change.rows<{ name: string }>(
    `select body->>'name' as name from themes where plan_id = $1 and id = $2`,
    [theme],
  );
  if (!row) throw notFound('theme');
  return row.name;
}

type Held = { keyword_id: number; theme_id: number | null; stage: FunnelStage | null };

type Patch = Partial<Pick<Held, 'theme_id' | 'stage'>>;

const setByHand = (change: Change, keywords: readonly number[], patch: Patch): Promise<void> =>
  setEachByHand(change, new Map(keywords.map((keyword) => [keyword, patch])));

/** Holds of each keyword its own. A keyword of which nothing is held any more has no row. */
export async function setEachByHand(change: Change, patches: ReadonlyMap<number, Patch>): Promise<void> {
  const keywords = [...patches.keys()];
  const known = await change.find('keywords', { columns: ['id'], where: { id: keywords }, order: ['id'] });
  if (known.length !== keywords.length) throw notFound('keyword');
  const rows = await change.find('placed_by_hand', {
    columns: ['keyword_id', 'theme_id', 'stage'],
    where: { keyword_id: keywords },
  });
  const there = new Map(rows.map((row) => [row.keyword_id, row]));
  const next = known.map(({ id }) => ({
    keyword_id: id,
    theme_id: null,
    stage: null,
    ...there.get(id),
    ...patches.get(id),
  }));
  const isHeld = ({ theme_id, stage }: Held) => theme_id !== null || stage !== null;
  await change.insert(
    'placed_by_hand',
    next.filter((row) => isHeld(row) && !there.has(row.keyword_id)),
  );
  await change.updateEach(
    'placed_by_hand',
    next.filter((row) => isHeld(row) && there.has(row.keyword_id)),
    ['theme_id', 'stage'],
  );
  await change.remove(
    'placed_by_hand',
    next.filter((row) => !isHeld(row) && there.has(row.keyword_id)).map(({ keyword_id }) => ({ keyword_id })),
  );
}
