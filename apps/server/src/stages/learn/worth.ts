import {
  accountCode,
  dayIn,
  factsOf,
  type markWorth,
  type PlanWorth,
  type readWorth,
  type VerdictList,
  type WorthItem,
  worthItem,
  worthMark,
} from '@sprig/contracts';
import type { FindingRule } from '@sprig/core/findings';
import { daysOn, resultFigures } from '@sprig/core/learn';
import { openWorth, type Worth, type WorthCode, type WorthMark, worthCodes } from '@sprig/core/next';
import { z } from 'zod';
import { select } from '../../db/connect.ts';
import { find, keepRow } from '../../db/rows.ts';
import { isShown } from '../../people/standing/index.ts';
import { IS_BARE } from '../../plan/bare-groups.ts';
import { inChange } from '../../plan/change/index.ts';
import { todayOf } from '../../plan/today.ts';
import type { PlanCaller, Sender } from '../../platform/caller.ts';
import { type Account, accountsOf } from './account.ts';
import { adTestsOf } from './ad-tests.ts';
import { resultBids } from './bids.ts';
import { budgetsIn } from './budgets.ts';
import { resultsOf } from './results.ts';
import { termsOf } from './terms.ts';
import { verdictsOf } from './verdicts.ts';

/** Verdicts that something is done about have the codes of what is worth doing. */
const asWorth = (list: VerdictList): WorthCode | undefined => worthCodes.find((code) => code === list);

const ADS: readonly FindingRule[] = ['field-unfilled', 'no-ad'];
const PAGES: readonly FindingRule[] = ['address-unfilled', 'address-too-long', 'address-no-answer'];
const LARGE: readonly FindingRule[] = ['group-too-large', 'group-over-limit'];
const BARE: readonly FindingRule[] = [
  'campaign-without-negatives',
  'broad-without-negatives',
  'group-without-negatives',
];
/** Bids that come down within so many days are told before. */
const SOON_DAYS = 7;

/** Changes when anything does that is looked through. */
const STAMP = `concat_ws(' ', p.revision, p.built_revision, current_date,
  (select sum(made_of) from ship_checks where plan_id = p.id),
  (select count(*) || ' ' || coalesce(max(revision), 0) from sheet_sets where plan_id = p.id and state = 'written'),
  (select max(checked_at) from address_checks where plan_id = p.id))`;

/** All that may be worth doing; read again only where something has changed since it was looked through. */
async function allWorth(caller: PlanCaller): Promise<Worth[]> {
  const { database, plan, workspace } = caller;
  const [state] = await select<{ stamp: string; kept: string | null; body: unknown }>(
    database,
    `select ${STAMP} as stamp, w.stamp as kept, w.body from plans p left join plan_worth w on w.plan_id = p.id
     where p.id = $1 and p.workspace_id = $2`,
    [plan, workspace],
  );
  const there = state && state.kept === state.stamp ? items.safeParse(state.body) : null;
  if (there?.success) return there.data;
  // As it is when it is read back, so that an answer doesn't hang on who asked first.
  const found = items.parse(await lookThrough(caller));
  if (state) await keepRow(caller, 'plan_worth', { id: 1, stamp: state.stamp, body: found });
  return found;
}
const items = z.array(worthItem);

async function lookThrough(caller: PlanCaller): Promise<Worth[]> {
  const found = await ofPlan(caller);
  const accounts = await accountsOf(caller);
  const names = accounts.map(({ account }) => account.name);
  for (const one of accounts) {
    const { name, currency, timeZone } = one.account;
    const isAlone = names.filter((other) => other === name).length === 1;
    found.push(...(await ofAccount(one, isAlone ? name : `${name} (${currency}, ${timeZone})`)));
  }
  return found.filter(({ count }) => count > 0);
}

const OF_PLAN = { stake: null, currency: null, account: '' };

async function ofPlan(caller: PlanCaller): Promise<Worth[]> {
  const { database, plan } = caller;
  const rules = await select<{ rule: FindingRule; severity: string; count: number }>(
    database,
    `select f->>'rule' as rule, f->>'severity' as severity, max((f->>'count')::int)::int as count from (
       select body as f from findings where plan_id = $1 and outlet = 'plain'
       union all
       select jsonb_array_elements(body->'findings') from ship_checks c where plan_id = $1
         and (outlet = '*' or exists (select from plan_outlets o where o.plan_id = $1 and o.outlet = c.outlet))
     ) found where not exists (select from accepted_findings a where a.plan_id = $1 and a.rule = f->>'rule')
     group by 1, 2`,
    [plan],
  );
  const of = (wanted: readonly FindingRule[]) =>
    rules.reduce((sum, { rule, count }) => (wanted.includes(rule) ? sum + count : sum), 0);
  const apart: readonly FindingRule[] = [...ADS, ...PAGES, ...LARGE];
  const [waiting] = await select<{ count: number }>(
    database,
    `select count(*)::int as count from sheet_sets s join plans p on p.id = s.plan_id
     where s.plan_id = $1 and s.state = 'written' and s.revision >= p.built_revision and s.outlet <> 'plain'`,
    [plan],
  );
  const blockers = rules.filter(
    ({ rule, severity }) => severity === 'blocker' && !apart.includes(rule),
  ).length;
  return [
    { code: 'blockers', count: blockers },
    { code: 'misfits', count: of(ADS) },
    { code: 'no-page', count: of(PAGES) },
    { code: 'too-big', count: of(LARGE) },
    { code: 'few-negatives', count: (await bareAndClicked(caller)) ?? of(BARE) },
    { code: 'unanswered', count: waiting?.count ?? 0 },
    { code: 'bids-down', count: await comingDown(caller) },
  ].map((one) => ({ ...OF_PLAN, ...one }) as Worth);
}

const CLICKS = resultFigures.indexOf('clicks');

/** Ad groups with neither a negative nor a fence that were clicked; null where no report tells of ad groups. */
async function bareAndClicked(caller: PlanCaller): Promise<number | null> {
  const bare = await select<{ key: string }>(
    caller.database,
    `select g.key from ad_groups g where g.plan_id = $1 and ${IS_BARE}`,
    [caller.plan],
  );
  const { about, rows } = await resultsOf(
    caller,
    'group',
    bare.map(({ key }) => key),
  );
  return about.grain === null ? null : rows.filter(({ figures }) => (figures[CLICKS] ?? 0) > 0).length;
}

/** Bids that come down in the next days by themselves. */
async function comingDown(caller: PlanCaller): Promise<number> {
  const { high, lists } = await resultBids(caller, { account: null, from: 'down', list: 'change' });
  if (!high?.on || high.until === null) return 0;
  const soon = daysOn(await todayOf(caller), SOON_DAYS);
  return high.until <= soon ? (lists.find(({ list }) => list === 'change')?.rows ?? 0) : 0;
}

/** `called`: what tells it apart from the others. */
async function ofAccount(account: Account, called: string): Promise<Worth[]> {
  const { caller } = account;
  const code = accountCode(account.account);
  const { currency } = account.account;
  const found: Worth[] = [];
  const put = (one: WorthCode, count: number, stake: number | null = null) =>
    found.push({
      code: one,
      count,
      stake: stake !== null && stake > 0 ? stake : null,
      currency,
      account: called,
    });
  const byKeyword = await verdictsOf(caller, { account: code, by: 'keyword', list: null });
  const { lists } = byKeyword.why
    ? await verdictsOf(caller, { account: code, by: 'group', list: null })
    : byKeyword;
  for (const { list, rows, stake } of lists) {
    const verdict = asWorth(list);
    if (verdict) put(verdict, rows, stake);
    if (list === 'again') put('look-again', rows);
  }
  const terms = await termsOf(caller, { account: code, list: 'open', like: '' });
  const open = terms.lists.find(({ list }) => list === 'open');
  if (open) put('terms', open.terms, open.cost);
  const budgets = await budgetsIn(account);
  const out = budgets.rows.filter((row) => row.out > 0);
  put('budget-out', out.length);
  const { rest, lists: bids } = await resultBids(caller, { account: code, from: 'aim', list: 'change' });
  if (rest === null) put('bids-to-aim', bids.find(({ list }) => list === 'change')?.rows ?? 0);
  const { tests } = await adTestsOf(caller, code, 'version');
  put(
    'ads-decided',
    tests.filter(({ verdict, paused }) => paused === null && ['a', 'b'].includes(verdict)).length,
  );
  return found;
}

async function marksOf(caller: PlanCaller): Promise<(WorthMark & { id: number })[]> {
  const rows = await find(caller, 'worth_marks', { columns: ['id', 'body'], order: ['id'] });
  return rows.flatMap(({ id, body }) => {
    const read = worthMark.safeParse(body);
    return read.success ? [{ ...read.data, id }] : [];
  });
}

const asMark = ({ code, account, until, count }: WorthMark): WorthMark => ({ code, account, until, count });

export async function worthOf(caller: PlanCaller): Promise<z.output<(typeof readWorth)['answer']>> {
  const today = await todayOf(caller);
  const { open, away } = openWorth(await allWorth(caller), (await marksOf(caller)).map(asMark), today);
  return { open, away, today };
}

/** One mark for each thing: the last stands. */
export function mark(
  caller: PlanCaller,
  { code, account, mark: made }: z.output<(typeof markWorth)['body']>,
): Promise<{ revision: number }> {
  const label =
    made === null
      ? 'Put back what is worth doing'
      : made.until === null
        ? 'Done: worth doing'
        : 'Put off: worth doing';
  return inChange(caller, label, async (change) => {
    const there = (await marksOf(caller)).filter((one) => one.code === code && one.account === account);
    await change.remove(
      'worth_marks',
      there.map(({ id }) => ({ id })),
    );
    if (made)
      await change.insert('worth_marks', [{ id: change.takeIds(1), body: { code, account, ...made } }]);
  });
}

/** What is kept of every plan that is not archived; none is looked through here. */
export async function worthOfAll(sender: Sender): Promise<PlanWorth[]> {
  const { database, workspace, actor } = sender;
  const rows = await select<{
    plan: number;
    name: string;
    stamp: string;
    kept: string | null;
    body: unknown;
    facts: unknown;
    marks: unknown[] | null;
  }>(
    database,
    `select p.id as plan, b.name, ${STAMP} as stamp, w.stamp as kept, w.body, f.body as facts,
       (select jsonb_agg(m.body order by m.id) from worth_marks m where m.plan_id = p.id) as marks
     from plans p join briefs b on b.plan_id = p.id left join facts f on f.plan_id = p.id
     left join plan_worth w on w.plan_id = p.id
     where p.workspace_id = $1 and not b.archived and ${isShown(sender, '$2')} order by p.changed_at desc`,
    [workspace, actor],
  );
  return rows.map(({ plan, name, stamp, kept, body, facts, marks }) => {
    const read = items.safeParse(body);
    const today = dayIn(factsOf(facts).timeZone, new Date());
    const said = (marks ?? []).flatMap((one) => {
      const known = worthMark.safeParse(one);
      return known.success ? [known.data] : [];
    });
    const open: WorthItem[] | null = read.success ? openWorth(read.data, said, today).open : null;
    return { plan, name, open, isOld: kept !== stamp };
  });
}
