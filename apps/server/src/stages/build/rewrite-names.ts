import {
  type rewriteNames as endpoint,
  heldWords,
  type nameScope,
  type Rewritable,
  type RewrittenNames,
} from '@sprig/contracts';
import {
  type GivenName,
  type KeyKind,
  kindOfKey,
  labelsOf,
  type NameFlaw,
  rewriteNames as rewritten,
} from '@sprig/core/build';
import { rewriter } from '@sprig/core/gather';
import { plainOutlet } from '@sprig/core/outlets';
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
type Rows = <T extends object>(sql: string, bind?: unknown[]) => Promise<T[]>;

const SHOWN = 200;

const FLAWS: Record<NameFlaw, string> = {
  empty: 'Nothing would be left of it.',
  'too-long': 'It would have more than 500 characters.',
  taken: 'Another one is called that, or becomes it.',
};

/** Changes names, labels or final URLs, or says what it would do. Each that can't be stays, and is told. */
export async function rewriteNames(
  caller: PlanCaller,
  { scope, of, rewriting, dry }: Asked,
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
  const work = (rows: Rows) => FINDERS[of](rows, scope, made.rewrite);
  if (dry)
    return told(await work((sql, bind = []) => select(database, sql, [plan, ...bind])), state.revision);
  const label = ({ changed }: Found) => `Change ${counted(changed.length, WORDS[of])}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const found = await work((sql, bind) => change.rows(sql, bind));
    await holdAll(
      change,
      found.changed.map(({ key, after }) => ({ rowKey: key, value: after })),
      FIELDS[of],
    );
    return found;
  });
  return told(result, revision);
}

const WORDS: Record<Rewritable, string> = { names: 'name', labels: 'label', urls: 'final URL' };
const FIELDS = { names: 'name', labels: 'labels', urls: 'finalUrl' } as const;

type Finder = (rows: Rows, scope: Scope, rewrite: (text: string) => string) => Promise<Found>;
const FINDERS: Record<Rewritable, Finder> = { names: ofNames, labels: ofLabels, urls: ofUrls };

async function ofNames(rows: Rows, scope: Scope, rewrite: (text: string) => string): Promise<Found> {
  const found: Found = { names: 0, changed: [], refused: [] };
  for (const kind of ['campaign', 'group'] as const) {
    const chosen = chosenOf(scope, kind);
    if (!chosen) continue;
    const names = await namesOf(rows, kind);
    const { changed, refused } = rewritten(names, chosen, rewrite);
    found.names += names.filter(({ key }) => chosen(key)).length;
    found.changed.push(...changed);
    found.refused.push(...refused.map(({ code, ...one }) => ({ ...one, why: FLAWS[code] })));
  }
  return found;
}

/** Each label by itself; one of which nothing is left goes, and two that become the same are one. */
async function ofLabels(rows: Rows, scope: Scope, rewrite: (text: string) => string): Promise<Found> {
  const all: Rewrite[] = [];
  for (const kind of ['campaign', 'group', 'row'] as const) {
    const keys = keysOf(scope, kind);
    if (keys === undefined) continue;
    const labelled = await rows<{ key: string; labels: string[] }>(
      `select key, labels from ${TABLES[kind]} where plan_id = $1 and cardinality(labels) > 0
       and ($2::text[] is null or key = any($2::text[])) order by key`,
      [keys],
    );
    for (const { key, labels } of labelled) {
      const after = labelsOf(labels.map((label) => rewrite(label)).join(', '));
      all.push({ key, before: labels.join(', '), after: after.join(', ') });
    }
  }
  return sorted(all, 'labels');
}

/** Of ads, and of keyword rows that lead to a page of their own. */
async function ofUrls(rows: Rows, scope: Scope, rewrite: (text: string) => string): Promise<Found> {
  const [campaigns, groups, ads, own] = (['campaign', 'group', 'ad', 'row'] as const).map((kind) =>
    keysOf(scope, kind),
  );
  const wanted = [campaigns, groups, ads].some((keys) => keys !== undefined)
    ? await rows<{ key: string; url: string }>(
        `select a.key, a.final_url as url from ads a join ad_groups g on g.plan_id = a.plan_id and g.key = a.group_key
         where a.plan_id = $1 and a.outlet = '${plainOutlet.key}' and a.final_url <> ''
           and ($2::text[] is null or a.key = any($2) or a.group_key = any($3) or g.campaign_key = any($4)) order by a.key`,
        'all' in scope ? [null, null, null] : [ads ?? [], groups ?? [], campaigns ?? []],
      )
    : [];
  if (own !== undefined && own !== null)
    wanted.push(
      ...(await rows<{ key: string; url: string }>(
        `select key, coalesce(held_url, rule_url) as url from keyword_rows
         where plan_id = $1 and coalesce(held_url, rule_url) is not null and key = any($2::text[]) order by key`,
        [own],
      )),
    );
  return sorted(
    wanted.map(({ key, url }) => ({ key, before: url, after: rewrite(url) })),
    'finalUrl',
  );
}

/** Which of them change, and which can't be held as they would become. */
function sorted(all: readonly Rewrite[], field: 'labels' | 'finalUrl'): Found {
  const found: Found = { names: all.length, changed: [], refused: [] };
  for (const one of all) {
    if (one.after === one.before) continue;
    const why = heldWords(field, one.after);
    if (why === null) found.changed.push(one);
    else found.refused.push({ ...one, why });
  }
  return found;
}

const TABLES = { campaign: 'campaigns', group: 'ad_groups', row: 'keyword_rows' } as const;

/** The chosen keys of a kind; null: all of them, undefined: none. */
function keysOf(scope: Scope, kind: KeyKind): string[] | null | undefined {
  if ('all' in scope) return scope.all === `${kind}s` ? null : undefined;
  const keys = scope.keys.filter((key) => kindOfKey(key) === kind);
  return keys.length > 0 ? keys : undefined;
}

type Rewrite = RewrittenNames['samples'][number];
type Found = {
  names: number;
  changed: Rewrite[];
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
