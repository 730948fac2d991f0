import type { rewriteNames as endpoint, nameScope, RewrittenNames } from '@sprig/contracts';
import { type GivenName, kindOfKey, type NameFlaw, rewriteNames as rewritten } from '@sprig/core/build';
import { rewriter } from '@sprig/core/gather';
import { languagePack } from '@sprig/core/text';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { holdAll } from './holds.ts';

type Asked = z.output<(typeof endpoint)['body']>;
type Scope = z.output<typeof nameScope>;
type Rows = <T extends object>(sql: string) => Promise<T[]>;

const SHOWN = 200;

const FLAWS: Record<NameFlaw, string> = {
  empty: 'Nothing would be left of it.',
  'too-long': 'It would have more than 500 characters.',
  taken: 'Another one is called that, or becomes it.',
};

/** Changes names of campaigns or ad groups, or says what it would do. Each that can't be stays, and is told. */
export async function rewriteNames(
  caller: PlanCaller,
  { scope, rewriting, dry }: Asked,
): Promise<RewrittenNames> {
  const { database, plan, workspace } = caller;
  const [state] = await select<{ revision: number; language: string }>(
    database,
    `select p.revision, b.language from plans p join briefs b on b.plan_id = p.id
     where p.id = $1 and p.workspace_id = $2`,
    [plan, workspace],
  );
  if (!state) throw notFound('plan');
  const made = rewriter(rewriting, languagePack(state.language));
  if (made.status === 'problem')
    throw new SprigFailure('invalid', `This expression can’t be read: ${made.words}.`, { at: 'find' });
  const work = async (rows: Rows) => {
    const found = { names: 0, changed: [], refused: [] } as Found;
    for (const kind of ['campaign', 'group'] as const) {
      const chosen = chosenOf(scope, kind);
      if (!chosen) continue;
      const names = await namesOf(rows, kind);
      const { changed, refused } = rewritten(names, chosen, made.rewrite);
      found.names += names.filter(({ key }) => chosen(key)).length;
      found.changed.push(...changed);
      found.refused.push(...refused.map(({ code, ...one }) => ({ ...one, why: FLAWS[code] })));
    }
    return found;
  };
  if (dry) return told(await work((sql) => select(database, sql, [plan])), state.revision);
  const label = ({ changed }: Found) => `Change ${counted(changed.length, 'name')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const found = await work((sql) => change.rows(sql));
    await holdAll(
      change,
      found.changed.map(({ key, after }) => ({ rowKey: key, value: after })),
      'name',
    );
    return found;
  });
  return told(result, revision);
}

type Found = {
  names: number;
  changed: RewrittenNames['samples'];
  refused: RewrittenNames['refused'];
};

const told = ({ names, changed, refused }: Found, revision: number): RewrittenNames => ({
  revision,
  names,
  changed: changed.length,
  samples: changed.slice(0, SHOWN),
  refused: refused.slice(0, SHOWN),
  refusedCount: refused.length,
});

/** Which names of a kind are chosen; null: none. */
function chosenOf(scope: Scope, kind: 'campaign' | 'group'): ((key: string) => boolean) | null {
  if ('all' in scope) return scope.all === `${kind}s` ? () => true : null;
  const keys = new Set(scope.keys.filter((key) => kindOfKey(key) === kind));
  return keys.size > 0 ? (key) => keys.has(key) : null;
}

const namesOf = (rows: Rows, kind: 'campaign' | 'group'): Promise<GivenName[]> =>
  rows(
    kind === 'campaign'
      ? `select key, '' as within, name from campaigns where plan_id = $1 order by position`
      : `select key, campaign_key as within, name from ad_groups where plan_id = $1 order by campaign_key, position, key`,
  );
