import {
  type AboutKey,
  type addNote,
  type changeNote,
  dayIn,
  factsOf,
  type listMyWork,
  type listNotes,
  NOTE_PAGE,
  type NoteView,
  type readNoteMarks,
  roles,
} from '@sprig/contracts';
import { findingRules } from '@sprig/core/findings';
import { worthCodes } from '@sprig/core/next';
import { plainOutlet } from '@sprig/core/outlets';
import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import { execute, select } from '../../db/connect.ts';
import { isShown } from '../../people/standing/index.ts';
import { todayOf } from '../../plan/today.ts';
import type { PlanCaller, PlanSender, Sender } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { notify } from '../../platform/jobs/notify.ts';
import { mentionsIn } from './mentions.ts';

/** How many are listed of what is open for somebody, over all plans. */
const MOST_OF_MINE = 200;
const MOST_MARKS = 5_000;
/** How many notes a plan has. */
const MOST_NOTES = 20_000;

/** SQL of what something of a plan is called; without a row it is not there. `plan`, `key`: SQL of them. */
const NAMES: Partial<Record<AboutKey['kind'], (plan: string, key: string) => string>> = {
  keyword: (plan, key) => `select text as name from keywords where plan_id = ${plan} and id = ${key}::int`,
  theme: (plan, key) =>
    `select body->>'name' as name from themes where plan_id = ${plan} and id = ${key}::int`,
  campaign: (plan, key) => `select name from campaigns where plan_id = ${plan} and key = ${key}`,
  group: (plan, key) => `select name from ad_groups where plan_id = ${plan} and key = ${key}`,
  ad: (plan, key) =>
    `select g.name from ads a join ad_groups g on g.plan_id = a.plan_id and g.key = a.group_key
     where a.plan_id = ${plan} and a.outlet = '${plainOutlet.key}' and a.key = ${key}`,
};

/** What a note is about as it is called now; null: it is there no more. What is in no table keeps its name. */
const NAME_NOW = `case n.about_kind
  when 'plan' then ''
  ${Object.entries(NAMES)
    .map(([kind, nameIn]) => `when '${kind}' then (${nameIn('n.plan_id', 'n.about_key')})`)
    .join('\n  ')}
  else n.about_name end`;

const COLUMNS = `n.id, n.about_kind as kind, n.about_key as key, n.about_name as then, ${NAME_NOW} as now, n.text,
  n.by_actor as by, b.name as "byName", n.at, n.edited_at as "editedAt", n.mentions, n.for_actor as for, f.name as "forName",
  n.due::text as due, n.done_at as "doneAt", d.name as "doneBy"`;
const FROM = `from notes n join actors b on b.id = n.by_actor left join actors f on f.id = n.for_actor
  left join actors d on d.id = n.done_by`;

type Row = {
  id: number;
  kind: AboutKey['kind'];
  key: string;
  then: string;
  now: string | null;
  text: string;
  by: number;
  byName: string;
  at: Date;
  editedAt: Date | null;
  mentions: number[];
  for: number | null;
  forName: string | null;
  due: string | null;
  doneAt: Date | null;
  doneBy: string | null;
};

const asView = (row: Row, actor: number): NoteView => ({
  id: row.id,
  about: { kind: row.kind, key: row.key, name: row.now ?? row.then, isThere: row.now !== null },
  text: row.text,
  by: { actor: row.by, name: row.byName },
  at: row.at.toISOString(),
  editedAt: row.editedAt?.toISOString() ?? null,
  mentions: row.mentions,
  for: row.for === null ? null : { actor: row.for, name: row.forName ?? '' },
  due: row.due,
  done: row.doneAt === null ? null : { by: row.doneBy ?? '', at: row.doneAt.toISOString() },
  isYours: row.by === actor,
});

/** SQL of whether a note is open for an actor. */
const isFor = (actor: string) =>
  `(n.done_at is null and (n.for_actor = ${actor} or ${actor} = any(n.mentions)))`;

const ONLY: Record<z.output<typeof listNotes.query>['only'], string> = {
  open: 'n.done_at is null',
  mine: isFor('$3'),
  done: 'n.done_at is not null',
  all: 'true',
};

export async function notesOf(
  caller: PlanCaller,
  { only, kind, key, from }: z.output<typeof listNotes.query>,
): Promise<z.output<typeof listNotes.answer>> {
  const { database, plan, workspace, actor } = caller;
  const rows = await select<Row & { total: number }>(
    database,
    `select ${COLUMNS}, (count(*) over ())::int as total ${FROM}
     where n.plan_id = $1 and n.workspace_id = $2 and $3::int is not null and ${ONLY[only]}
       and ($4::text is null or n.about_kind = $4) and ($5::text is null or n.about_key = $5)
     order by n.done_at is null desc, n.due nulls last, n.id desc limit ${NOTE_PAGE} offset $6`,
    [plan, workspace, actor, kind ?? null, key ?? null, from],
  );
  return {
    notes: rows.map((row) => asView(row, actor)),
    total: rows[0]?.total ?? 0,
    today: await todayOf(caller),
  };
}

export async function marksOf({
  database,
  plan,
  workspace,
  actor,
}: PlanCaller): Promise<z.output<typeof readNoteMarks.answer>> {
  const [counts] = await select<{ open: number; mine: number }>(
    database,
    `select count(*)::int as open, (count(*) filter (where ${isFor('$3::int')}))::int as mine
     from notes n where n.plan_id = $1 and n.workspace_id = $2 and n.done_at is null`,
    [plan, workspace, actor],
  );
  const marks = await select<AboutKey & { open: number }>(
    database,
    `select about_kind as kind, about_key as key, count(*)::int as open
     from (select about_kind, about_key from notes where plan_id = $1 and workspace_id = $2 and done_at is null
           order by id desc limit ${MOST_MARKS}) n group by 1, 2`,
    [plan, workspace],
  );
  return { open: counts?.open ?? 0, mine: counts?.mine ?? 0, marks };
}

/** What is open for somebody in all plans that they see. */
export async function myWork(sender: Sender): Promise<z.output<typeof listMyWork.answer>> {
  const { database, workspace, actor } = sender;
  const rows = await select<Row & { plan: number; planName: string; total: number }>(
    database,
    `select ${COLUMNS}, p.id as plan, r.name as "planName", (count(*) over ())::int as total ${FROM}
     join plans p on p.id = n.plan_id join briefs r on r.plan_id = p.id
     where n.workspace_id = $1 and ${isFor('$2')} and ${isShown(sender, '$2')}
     order by n.due nulls last, n.id desc limit ${MOST_OF_MINE}`,
    [workspace, actor],
  );
  return {
    notes: rows.map(({ plan, planName, ...row }) => ({ plan, planName, note: asView(row, actor) })),
    total: rows[0]?.total ?? 0,
    today: dayIn(factsOf(null).timeZone, new Date()),
  };
}

type Member = { actor: number; name: string };

/** Who sees the plan, as far as notes may speak to them. */
const readersOf = ({ database, workspace, plan }: PlanCaller, transaction: Transaction) =>
  select<Member>(
    database,
    `select a.id as actor, a.name from actors a left join plan_roles r on r.plan_id = $2 and r.actor_id = a.id
     where a.workspace_id = $1 and a.removed_at is null
       and (a.role = 'owner' or r.role <> 'none' or (r.role is null and a.role <> $3))`,
    [workspace, plan, roles.at(-1)],
    { transaction },
  );

function assertReader(readers: readonly Member[], actor: number | null | undefined): void {
  if (actor === null || actor === undefined || readers.some((one) => one.actor === actor)) return;
  throw new SprigFailure('invalid', 'They don’t see this plan: give it to somebody who does.', { at: 'for' });
}

/** The keys of what is in no table. */
const KNOWN: Partial<Record<AboutKey['kind'], readonly string[]>> = {
  plan: [''],
  finding: findingRules,
  worth: worthCodes,
};

/** What is said to be missing, where the kind is not the word for it. */
const CALLED: Partial<Record<AboutKey['kind'], string>> = { group: 'ad group', plan: 'item', worth: 'item' };

const isNumber = (key: string) => /^[1-9]\d{0,8}$/.test(key);

/** What something is called; fails where there is no such thing. */
async function nameOf(
  { database, plan }: PlanCaller,
  { kind, key }: AboutKey,
  transaction: Transaction,
): Promise<string> {
  const called = CALLED[kind] ?? kind;
  if ((kind === 'keyword' || kind === 'theme') && !isNumber(key)) throw notFound(called);
  const sql = NAMES[kind]?.('$1', '$2');
  if (!sql) {
    if (!KNOWN[kind]?.includes(key)) throw notFound(called);
    return '';
  }
  const [found] = await select<{ name: string }>(database, sql, [plan, key], { transaction });
  if (!found) throw notFound(called);
  return found.name;
}

/** A change of notes, told to the windows that have the plan open. */
function writing<T>(caller: PlanCaller, work: (transaction: Transaction) => Promise<T>): Promise<T> {
  return caller.database.transaction(async (transaction) => {
    const done = await work(transaction);
    await notify(caller.database, transaction, { type: 'work', plan: caller.plan });
    return done;
  });
}

export const addNoteTo = (
  caller: PlanCaller,
  { about, said, text, for: given, due }: z.output<typeof addNote.body>,
): Promise<{ id: number }> =>
  writing(caller, async (transaction) => {
    const { database, plan, workspace, actor } = caller;
    const [there] = await select<{ count: number }>(
      database,
      'select count(*)::int as count from notes where plan_id = $1',
      [plan],
      { transaction },
    );
    if ((there?.count ?? 0) >= MOST_NOTES)
      throw new SprigFailure(
        'too-many',
        `A plan has up to ${MOST_NOTES.toLocaleString('en')} notes. Take some away that are done.`,
      );
    const name = await nameOf(caller, about, transaction);
    const readers = await readersOf(caller, transaction);
    assertReader(readers, given);
    const [row] = await select<{ id: number }>(
      database,
      `insert into notes (workspace_id, plan_id, about_kind, about_key, about_name, text, by_actor, mentions, for_actor, due)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) returning id`,
      [
        workspace,
        plan,
        about.kind,
        about.key,
        name || said.trim(),
        text.trim(),
        actor,
        mentionsIn(text, readers),
        given,
        due,
      ],
      { transaction },
    );
    return { id: row?.id ?? 0 };
  });

/** Who has written a note, while nobody else changes it. */
async function writerOf({ database, plan, workspace }: PlanCaller, id: number, transaction: Transaction) {
  const [note] = await select<{ by: number }>(
    database,
    'select by_actor as by from notes where id = $1 and plan_id = $2 and workspace_id = $3 for update',
    [id, plan, workspace],
    { transaction },
  );
  if (!note) throw notFound('note');
  return note.by;
}

export const changeNoteOf = (
  caller: PlanCaller,
  id: number,
  parts: z.output<typeof changeNote.body>,
): Promise<void> =>
  writing(caller, async (transaction) => {
    const { database, actor } = caller;
    const by = await writerOf(caller, id, transaction);
    const readers = await readersOf(caller, transaction);
    const set = async (sql: string, ...bind: unknown[]) =>
      execute(database, `update notes set ${sql} where id = $1`, [id, ...bind], { transaction });
    if (parts.text !== undefined) {
      if (by !== actor) throw new SprigFailure('forbidden', 'Only who has written a note changes its words.');
      await set(
        'text = $2, mentions = $3, edited_at = now()',
        parts.text.trim(),
        mentionsIn(parts.text, readers),
      );
    }
    if (parts.for !== undefined) {
      assertReader(readers, parts.for);
      await set('for_actor = $2', parts.for);
    }
    if (parts.due !== undefined) await set('due = $2', parts.due);
    if (parts.done === true)
      await set('done_at = coalesce(done_at, now()), done_by = coalesce(done_by, $2)', actor);
    if (parts.done === false) await set('done_at = null, done_by = null');
  });

export const removeNoteOf = (caller: PlanSender, id: number): Promise<void> =>
  writing(caller, async (transaction) => {
    const by = await writerOf(caller, id, transaction);
    if (by !== caller.actor && caller.role !== 'owner')
      throw new SprigFailure('forbidden', 'Only who has written a note, or an owner, takes it away.');
    await execute(caller.database, 'delete from notes where id = $1', [id], { transaction });
  });
