import {
  type FieldEdit,
  MOST_THEMES,
  type NewTheme,
  type ThemeBody,
  type ThemeRow,
  themeBody,
} from '@sprig/contracts';
import { type Theme, type ThemeProblem, themeProblems } from '@sprig/core/sort';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { applyEdits } from '../../plan/documents.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';

type Row = { id: number; parent: number | null; body: unknown };
const ROWS = 'select id, parent_id as parent, body from themes where plan_id = $1';
const ORDER = 'order by position, id';

const toTheme = ({ id, parent, body }: Row): ThemeRow => ({ id, parent, ...themeBody.parse(body) });

/** The plan's themes in the order in which their rules are tried. */
export async function listThemes({ database, plan, workspace }: PlanCaller): Promise<ThemeRow[]> {
  const rows = await select<Row>(database, `${ROWS} and workspace_id = $2 ${ORDER}`, [plan, workspace]);
  return rows.map(toTheme);
}

const themesOf = async (change: Change): Promise<ThemeRow[]> =>
  (await change.rows<Row>(`${ROWS} ${ORDER}`)).map(toTheme);

const bodyOf = ({ name, sift, idea, colour, stage }: ThemeBody): ThemeBody => ({
  name,
  sift,
  idea,
  colour,
  stage,
});

/** Refuses a list of themes that can't be, in words that name the theme. */
function assertSound(themes: readonly Theme[]): void {
  const [problem] = themeProblems(themes);
  if (problem) throw new SprigFailure('invalid', wordsOf(problem, themes), { at: 'themes' });
}

function wordsOf(problem: ThemeProblem, themes: readonly Theme[]): string {
  const nameOf = (id: number) => `“${themes.find((theme) => theme.id === id)?.name ?? id}”`;
  switch (problem.code) {
    case 'circle':
      return `${problem.ids.map(nameOf).join(' is in ')}: a theme can’t be in itself.`;
    case 'unknown-parent':
      return `The theme that ${nameOf(problem.id)} is in is gone.`;
    case 'too-deep':
      return `${nameOf(problem.id)} would be ${problem.most + 1} themes deep; ${problem.most} is the most.`;
    case 'name-twice':
      return `There is a theme ${nameOf(problem.id)} in the same place. Give it another name.`;
    case 'rule':
      return `The rule of ${nameOf(problem.id)} can’t be read.`;
  }
}

/** Makes themes at the end of `parent`'s; with `instead`, in the place of all that is below it. */
export async function makeThemes(
  caller: PlanCaller,
  parent: number | null,
  made: readonly NewTheme[],
  instead: boolean,
): Promise<{ revision: number; ids: number[] }> {
  const label =
    made.length === 1 ? `Make the theme ${made[0]?.name}` : `Make ${counted(made.length, 'theme')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    if (instead) {
      const below = belowOf(await themesOf(change), parent);
      await removeAll(change, below);
    }
    return makeThemesIn(change, parent, made);
  });
  return { revision, ids: result };
}

/** Makes themes at the end of a parent's; answers their numbers. */
export async function makeThemesIn(
  change: Change,
  parent: number | null,
  made: readonly NewTheme[],
): Promise<number[]> {
  const there = await themesOf(change);
  if (parent !== null && !there.some(({ id }) => id === parent)) throw notFound('theme');
  if (there.length + made.length > MOST_THEMES)
    throw new SprigFailure(
      'invalid',
      `A plan holds up to ${MOST_THEMES.toLocaleString('en')} themes. Make fewer, or remove some first.`,
      { at: 'themes' },
    );
  const first = change.takeIds(made.length);
  const names = new SiblingNames(there);
  const fresh = made.map((theme, at): ThemeRow => {
    const inside = theme.within === null ? parent : first + theme.within;
    return { ...bodyOf(theme), id: first + at, parent: inside, name: names.take(inside, theme.name) };
  });
  assertSound([...there, ...fresh]);
  const [last] = await change.rows<{ position: number }>(
    'select coalesce(max(position), 0)::int as position from themes where plan_id = $1',
  );
  await change.insert(
    'themes',
    fresh.map((theme, at) => ({
      id: theme.id,
      parent_id: theme.parent,
      position: (last?.position ?? 0) + 1 + at,
      body: bodyOf(theme),
    })),
  );
  return fresh.map(({ id }) => id);
}

/** Names told apart among siblings, without regard to case: the second of a name is called `… (2)`. */
class SiblingNames {
  private readonly taken = new Set<string>();

  constructor(themes: readonly ThemeRow[]) {
    for (const { parent, name } of themes) this.taken.add(keyOf(parent, name));
  }

  take(parent: number | null, wanted: string): string {
    const name = wanted.trim();
    let free = name;
    for (let next = 2; this.taken.has(keyOf(parent, free)); next++) free = `${name.slice(0, 110)} (${next})`;
    this.taken.add(keyOf(parent, free));
    return free;
  }
}

const keyOf = (parent: number | null, name: string): string => `${parent ?? ''}/${name.trim().toLowerCase()}`;

const WORDS: Record<string, string> = {
  name: 'Rename the theme',
  sift: 'Change the rule of',
  idea: 'Change whether groups are made of',
  colour: 'Colour the theme',
  stage: 'Set the stage of',
};

export const editTheme = (
  caller: PlanCaller,
  id: number,
  edits: readonly FieldEdit[],
): Promise<{ revision: number }> =>
  inChange(
    caller,
    (name: string) => `${WORDS[edits[0]?.at ?? ''] ?? 'Change the theme'} ${name}`,
    async (change) => {
      const themes = await themesOf(change);
      const theme = themes.find((one) => one.id === id);
      if (!theme) throw notFound('theme');
      const body = applyEdits<ThemeBody>(bodyOf(theme), edits, themeBody);
      assertSound(themes.map((one) => (one.id === id ? { ...one, ...body } : one)));
      await change.update('themes', [id], { body });
      return theme.name;
    },
  );

/** Puts themes into another, or in another order: positions are counted anew over all. */
export const moveThemes = (
  caller: PlanCaller,
  ids: readonly number[],
  parent: number | null,
  before: number | null,
): Promise<{ revision: number }> =>
  inChange(
    caller,
    (name: string) => (ids.length === 1 ? `Move the theme ${name}` : `Move ${counted(ids.length, 'theme')}`),
    async (change) => {
      const themes = await themesOf(change);
      const byId = new Map(themes.map((theme) => [theme.id, theme]));
      const moving = ids.map((id) => byId.get(id));
      if (moving.some((theme) => !theme) || (parent !== null && !byId.has(parent))) throw notFound('theme');
      const moved = (moving as ThemeRow[]).map((theme) => ({ ...theme, parent }));
      const set = new Set(ids);
      const rest = themes.filter(({ id }) => !set.has(id));
      const place = before === null ? rest.length : rest.findIndex(({ id }) => id === before);
      if (place < 0 || (before !== null && byId.get(before)?.parent !== parent))
        throw new SprigFailure('conflict', 'The themes have moved meanwhile. Try again.', { at: 'before' });
      const next = [...rest.slice(0, place), ...moved, ...rest.slice(place)];
      assertSound(next);
      await change.updateEach(
        'themes',
        next.map((theme, at) => ({ id: theme.id, parent_id: theme.parent, position: at + 1 })),
        ['parent_id', 'position'],
      );
      return moved[0]?.name ?? '';
    },
  );

export const removeThemes = (caller: PlanCaller, ids: readonly number[]): Promise<{ revision: number }> =>
  inChange(
    caller,
    (name: string) =>
      ids.length === 1 ? `Remove the theme ${name}` : `Remove ${counted(ids.length, 'theme')}`,
    async (change) => {
      const themes = await themesOf(change);
      const byId = new Map(themes.map((theme) => [theme.id, theme]));
      if (ids.some((id) => !byId.has(id))) throw notFound('theme');
      await removeAll(change, [...new Set(ids.flatMap((id) => [id, ...belowOf(themes, id)]))]);
      return byId.get(ids[0] as number)?.name ?? '';
    },
  );

/** All themes below one, or all there are. */
export function belowOf(themes: readonly Pick<ThemeRow, 'id' | 'parent'>[], parent: number | null): number[] {
  const inside = new Set<number>();
  // Parents may stand after their sub-themes, so until none is found any more.
  for (let found = true; found; ) {
    found = false;
    for (const theme of themes)
      if (!inside.has(theme.id) && (theme.parent === parent || inside.has(theme.parent ?? 0))) {
        inside.add(theme.id);
        found = true;
      }
  }
  return [...inside];
}

/** Removes themes; keywords held in them are where the rules say. */
async function removeAll(change: Change, ids: readonly number[]): Promise<void> {
  if (ids.length === 0) return;
  const held = await change.find('placed_by_hand', {
    columns: ['keyword_id', 'stage'],
    where: { theme_id: ids },
  });
  await change.remove(
    'placed_by_hand',
    held.filter(({ stage }) => stage === null).map(({ keyword_id }) => ({ keyword_id })),
  );
  await change.updateEach(
    'placed_by_hand',
    held.filter(({ stage }) => stage !== null).map(({ keyword_id }) => ({ keyword_id, theme_id: null })),
    ['theme_id'],
  );
  await change.remove(
    'themes',
    ids.map((id) => ({ id })),
  );
}
