import { compileMix, MOST_COMBINATIONS, mix, type Recipe, textsOf } from '@sprig/core/mix';
import { copyIntoTemporary, copyLine } from '../../db/copy.ts';
import { marketOf } from '../../figures/market.ts';
import { type Change, refreshQuietly } from '../../plan/change/index.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';
import { blockQuietly } from '../prune/index.ts';
import { mixInput, type PlanInputs, planInputs, recipesOf, sharedUsed } from './inputs.ts';
import { MADE_AS } from './made-as.ts';

/** Up to so many combinations the pool follows within the change itself; above that by a job of its own. */
const MOST_AT_ONCE = 20_000;

/** What following did to the pool. */
export type Followed = { made: number; added: number; left: number; held: number };

type Following = { id: number; source_id: number | null; recipe: Recipe };

/**
 * Has the pool follow those of the plan's recipes that are in it and that `concerns` says. What a recipe makes follows
 * from its lists and patterns, so it is not logged: undo puts those back and follows again.
 */
export async function followRecipes(
  change: Change,
  concerns: (recipe: Following) => boolean = () => true,
): Promise<void> {
  const recipes = (await recipesOf(change)).filter(({ source_id }) => source_id !== null).filter(concerns);
  if (recipes.length === 0) return;
  const inputs = await planInputs(change);
  for (const recipe of recipes) await followAtOnceOrLater(change, recipe, inputs);
}

/** Brings the pool in line with the recipes that use one of these shared lists. */
export async function followShared(change: Change, lists: ReadonlySet<number>): Promise<void> {
  const inputs = await planInputs(change);
  await followRecipes(change, ({ recipe }) =>
    [...sharedUsed(recipe, inputs.lists.shared)].some((list) => lists.has(list)),
  );
}

async function followAtOnceOrLater(change: Change, recipe: Following, inputs: PlanInputs) {
  const { count } = compileMix(mixInput(recipe.recipe, inputs));
  if (count.total <= BigInt(MOST_AT_ONCE)) {
    await follow(change, recipe, inputs);
    return;
  }
  // Too many to make at all: the pool keeps what it has until the recipe is shorter.
  if (count.total > BigInt(MOST_COMBINATIONS)) return;
  const waiting = await change.rows(
    `select 1 from jobs where plan_id = $1 and kind = 'mix' and status = 'queued' and (input->>'recipe')::int = $2`,
    [recipe.id],
  );
  if (waiting.length === 0) await enqueue(change.caller, change.transaction, 'mix', { recipe: recipe.id });
}

/** Has the pool follow one recipe, however much it makes. */
export async function followOne(change: Change, id: number): Promise<Followed> {
  const recipe = (await recipesOf(change)).find((one) => one.id === id);
  if (!recipe || recipe.source_id === null) return { made: 0, added: 0, left: 0, held: 0 };
  return follow(change, recipe, await planInputs(change));
}

async function follow(
  change: Change,
  { id, recipe, source_id }: Following,
  inputs: PlanInputs,
): Promise<Followed> {
  const cuts = await change.find('recipe_cuts', { columns: ['norm'], where: { recipe_id: id } });
  const isCut = new Set(cuts.map(({ norm }) => norm));
  const mixture = mix(mixInput(recipe, inputs));
  const kept = function* () {
    for (const text of textsOf(mixture)) if (!isCut.has(text)) yield text;
  };
  return followSource(change, source_id ?? 0, kept(), true);
}

/** Takes everything that a recipe brought out of the pool, for when it is not in the pool any more. */
export const leavePool = (change: Change, source: number): Promise<Followed> =>
  followSource(change, source, [], false);

const NORMS = [
  { name: 'n', type: 'int4' },
  { name: 'norm', type: 'text' },
] as const;
const FIGURES = [
  ...NORMS,
  { name: 'searches', type: 'int4' },
  { name: 'cpc', type: 'int8' },
  { name: 'competition', type: 'int4' },
] as const;

/** Keywords of whose groups, rows or ads something is held, and those that were placed by hand. */
const HELD = `select keyword_id from placed_by_hand p where p.plan_id = $1 union select substring(h.row_key from '^k([0-9]+)')::int from holds h where h.plan_id = $1 and h.row_key ~ '^k[0-9]'`;

/**
 * Brings the pool in line with what a source makes now. What it makes no more leaves to the archived rows and comes back from
 * there as it was, unless another source holds it or, with `holds`, something of it was set by hand.
 *
 * Each step begins with a table of the transaction of which the database knows how long it is: of a plan that is new to
 * it, it guesses one row, and goes through thousands for each of thousands.
 */
async function followSource(
  change: Change,
  source: number,
  texts: Iterable<string>,
  holds: boolean,
): Promise<Followed> {
  const made = await stageMade(change, texts);
  await stageOwn(change, source);
  const { left, held } = await takeLeave(change, source, holds);
  await comeBack(change, source);
  const { first, added } = await comeNew(change, source);
  await blockQuietly(change, first);
  return { made, added, left, held };
}

async function stageMade(change: Change, texts: Iterable<string>): Promise<number> {
  await change.derive(`set local work_mem = '64MB'`);
  await change.temporary('made', 'n int not null, norm text collate "C" not null');
  let made = 0;
  const lines = function* () {
    for (const text of texts) yield copyLine(NORMS, [++made, text]);
  };
  await copyIntoTemporary(change.transaction, 'made', ['n', 'norm'], lines());
  await change.derive('create unique index on made (norm)');
  await change.derive('analyze made');
  return made;
}

/** A table of the transaction, filled by a query, with its size known to the database. */
async function stage(change: Change, name: string, columns: string, query: string, bind: unknown[] = []) {
  await change.temporary(name, columns);
  await change.derive(`insert into ${name} ${query}`, bind);
  await change.derive(`analyze ${name}`);
}

/** What the source has brought by now, by the text that it was made as. */
async function stageOwn(change: Change, source: number) {
  await stage(
    change,
    'own',
    'id int primary key, norm text collate "C" not null, line int not null, renamed bool not null',
    `select m.keyword_id, ${MADE_AS}, m.line, ${MADE_AS} <> k.norm from mentions m
     cross join lateral (select k.norm from keywords k where k.plan_id = $1 and k.id = m.keyword_id limit 1) k
     where m.plan_id = $1 and m.source_id = $2`,
    [source],
  );
  await change.derive('create index on own (norm)');
}

/** Keywords that are not made any more. */
async function takeLeave(
  change: Change,
  source: number,
  holds: boolean,
): Promise<{ left: number; held: number }> {
  await stage(
    change,
    'leaving',
    'id int primary key, norm text collate "C" not null, elsewhere bool not null, by_hand bool not null',
    `select o.id, o.norm,
       exists (select from mentions m where m.plan_id = $1 and m.keyword_id = o.id and m.source_id <> $2),
       $3::bool and (o.renamed or o.id in (${HELD}))
     from own o where not exists (select from made d where d.norm = o.norm)`,
    [source, holds],
  );
  const stays = 'by_hand and not elsewhere';
  const [counts] = await change.rows<{ left: number; held: number }>(
    `select count(*) filter (where not (${stays}))::int as left, count(*) filter (where ${stays})::int as held
     from leaving where $1 > 0`,
  );
  const { left, held } = counts ?? { left: 0, held: 0 };
  if (held > 0)
    await change.derive(
      `with marked as (update mentions m set line = 0 from leaving l where l.by_hand and not l.elsewhere
         and m.plan_id = $1 and m.source_id = $2 and m.keyword_id = l.id and m.line <> 0 returning m.keyword_id)
       update keywords k set changed_revision = $3 from marked where k.plan_id = $1 and k.id = marked.keyword_id`,
      [source, change.revision],
    );
  await change.derive(`delete from leaving where ${stays}`);
  if (left === 0) return { left, held };
  await unfoldFromLeaving(change);
  await toAttic(change, source);
  await refreshQuietly(change, 'select id from leaving where elsewhere and $1 > 0');
  return { left, held };
}

/** Keywords that were folded into one that leaves stand for themselves again. */
async function unfoldFromLeaving(change: Change) {
  const goes = 'select id from leaving where not elsewhere';
  const folded = await change.rows<{ id: number }>(
    `select k.id from keywords k where k.plan_id = $1 and k.folded_into in (${goes}) and k.id not in (${goes})`,
  );
  await change.update(
    'keywords',
    folded.map(({ id }) => id),
    { folded_into: null },
  );
}

async function toAttic(change: Change, source: number) {
  const place = `- 'plan_id' - 'workspace_id' - 'changed_revision'`;
  await change.derive(
    `insert into archived_rows (plan_id, source_id, workspace_id, kind, body)
     select $1, $2, k.workspace_id, 'left-keywords', to_jsonb(k) || jsonb_build_object('made_as', l.norm) ${place}
     from leaving l join keywords k on k.plan_id = $1 and k.id = l.id where not l.elsewhere`,
    [source],
  );
  await change.derive(
    `with gone as (delete from mentions m using leaving l
       where m.plan_id = $1 and m.source_id = $2 and m.keyword_id = l.id returning m.*, l.norm as made_as)
     insert into archived_rows (plan_id, source_id, workspace_id, kind, body)
     select $1, $2, workspace_id, 'left-mentions', to_jsonb(gone) ${place} from gone`,
    [source],
  );
  await change.derive(
    `with gone as (delete from keywords k using leaving l where k.plan_id = $1 and k.id = l.id and not l.elsewhere
       returning k.id, k.workspace_id)
     insert into removed_keywords (plan_id, revision, workspace_id, keyword_id) select $1, $2, workspace_id, id from gone`,
    [change.revision],
  );
}

/** Keywords that are made again come back from the archived rows with their number, so that what hangs on them is theirs. */
async function comeBack(change: Change, source: number) {
  // What is made again, though it was held by hand all the while.
  await change.derive(
    `update mentions m set line = d.n from own o join made d on d.norm = o.norm where o.line = 0
       and m.plan_id = $1 and m.source_id = $2 and m.keyword_id = o.id`,
    [source],
  );
  await stage(
    change,
    'coming',
    'n int not null, norm text collate "C" not null, kind text not null, body jsonb not null',
    `select d.n, d.norm, a.kind, a.body from archived_rows a join made d on d.norm = a.body->>'made_as'
     where a.plan_id = $1 and a.source_id = $2 and a.kind like 'left-%'`,
    [source],
  );
  const [any] = await change.rows<{ any: boolean }>('select exists (select from coming where $1 > 0) as any');
  if (!any?.any) return;
  const placed = `jsonb_build_object('plan_id', $1::int, 'workspace_id', $2::int`;
  const { workspace } = change.caller;
  await change.derive(
    `insert into keywords select r.* from coming c cross join lateral jsonb_populate_record(null::keywords,
       c.body || ${placed}, 'changed_revision', $3::int, 'blocked_by', null)) r
     where c.kind = 'left-keywords' on conflict do nothing`,
    [workspace, change.revision],
  );
  await change.derive(
    `update keywords k set folded_into = null, changed_revision = $2 where plan_id = $1 and folded_into is not null
       and not exists (select from keywords o where o.plan_id = $1 and o.id = k.folded_into)`,
    [change.revision],
  );
  // A keyword that came in by another way meanwhile is known by its text.
  await stage(
    change,
    'returned',
    'id int primary key, n int not null, norm text collate "C" not null, body jsonb not null',
    `select coalesce(by_id.id, by_text.id), c.n, c.norm, c.body
     from (select *, (body->>'keyword_id')::int as keyword from coming offset 0) c
     left join lateral (select k.id from keywords k where k.plan_id = $1 and k.id = c.keyword limit 1) by_id on true
     left join lateral (select k.id from keywords k where k.plan_id = $1 and k.norm = c.norm limit 1) by_text on true
     where c.kind = 'left-mentions' and coalesce(by_id.id, by_text.id) is not null on conflict do nothing`,
  );
  await change.derive(
    `insert into mentions select r.* from returned t cross join lateral jsonb_populate_record(null::mentions,
       t.body || ${placed}, 'keyword_id', t.id, 'line', t.n)) r on conflict do nothing`,
    [workspace],
  );
  await change.derive(
    `insert into own select id, norm, n, false from returned where $1 > 0 on conflict do nothing`,
  );
  await refreshQuietly(change, 'select id from returned where $1 > 0');
  await change.derive(
    `delete from archived_rows a using made d where a.plan_id = $1 and a.source_id = $2 and a.kind like 'left-%'
       and d.norm = a.body->>'made_as'`,
    [source],
  );
  await blockQuietly(change, 1);
}

const intoMentions = (rows: string): string =>
  `insert into mentions (plan_id, workspace_id, source_id, keyword_id, line, asked, marks, searches, searches_about, cpc,
     cpc_about, competition, extra) ${rows} on conflict do nothing`;

/** What was never made before; what others brought before is only mentioned. */
async function comeNew(change: Change, source: number): Promise<{ first: number; added: number }> {
  const { workspace } = change.caller;
  await stage(
    change,
    'coming_new',
    'n int primary key, norm text collate "C" not null, id int',
    `select d.n, d.norm, (select k.id from keywords k where k.plan_id = $1 and k.norm = d.norm)
     from made d where not exists (select from own o where o.norm = d.norm)`,
  );
  await change.derive('create index on coming_new (id)');
  const fresh = await change.rows<{ norm: string }>(
    'select norm from coming_new where id is null and $1 > 0 order by n',
  );
  await change.temporary(
    'fresh',
    'n int primary key, norm text collate "C", searches int, cpc bigint, competition int',
  );
  await stageFigures(
    change,
    fresh.map(({ norm }) => norm),
  );
  const first = change.takeIds(fresh.length);
  await change.derive(
    `insert into keywords (plan_id, workspace_id, id, text, norm, asked, marks, cut, searches_about, cpc_about, made_searches,
       made_cpc, made_competition, changed_revision)
     select $1, $3, $2 - 1 + n, norm, norm, 0, '{}', false, false, false, searches, cpc, competition, $4 from fresh order by n`,
    [first, workspace, change.revision],
  );
  await change.derive(
    intoMentions(
      `select $1, $3, $2, $4 - 1 + n, n, 0, '{}', searches, false, cpc, false, competition, null from fresh order by n`,
    ),
    [source, workspace, first],
  );
  // What the market said of a keyword to another recipe it would say to this one: it stays when the other goes.
  await change.temporary('told', 'id int primary key');
  await change.derive(
    `with put as (${intoMentions(
      `select $1, $3, $2, c.id, c.n, 0, '{}', o.searches, false, o.cpc, false, o.competition, null from coming_new c
       left join lateral (select t.searches, t.cpc, t.competition from mentions t join sources s on s.plan_id = $1 and s.id = t.source_id
         where t.plan_id = $1 and t.keyword_id = c.id and t.source_id <> $2 and s.kind = 'recipe' and t.searches is not null
         order by t.source_id limit 1) o on true
       where c.id is not null`,
    )} returning keyword_id, searches)
     insert into told select keyword_id from put where searches is not null`,
    [source, workspace],
  );
  await refreshQuietly(change, 'select id from told where $1 > 0');
  await change.derive(
    `update keywords k set changed_revision = $2 from coming_new c where k.plan_id = $1 and k.id = c.id
       and k.changed_revision <> $2`,
    [change.revision],
  );
  return { first, added: fresh.length };
}

const BATCH = 5_000;

/** New keywords, with what the stand-in market makes up of them where the brief names it; asked for in batches. */
async function stageFigures(change: Change, norms: readonly string[]) {
  const names = FIGURES.map(({ name }) => name);
  const market = await marketOf((sql) => change.rows(sql));
  for (let at = 0; at < norms.length; at += BATCH) {
    const batch = norms.slice(at, at + BATCH);
    const figures = (await market?.figures(batch)) ?? [];
    const lines = batch.map((norm, place) => {
      const { searches = null, cpc = null, competition = null } = figures[place] ?? {};
      return copyLine(FIGURES, [at + place + 1, norm, searches, cpc, competition]);
    });
    await copyIntoTemporary(change.transaction, 'fresh', names, lines);
  }
}
