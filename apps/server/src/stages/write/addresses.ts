import { type AddressCheck, type Landing, MOST_ADDRESSES } from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/outlets';
import { select } from '../../db/connect.ts';
import { keepRow } from '../../db/rows.ts';
import { fetchPage, pageWords } from '../../pages/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';

/** How many are asked at a time. */
const AT_ONCE = 4;

/** Where ads (of the outlet `$2`) and keywords of the plan `$1` lead, each address once. */
const LED = `with led as (
  select address, sum(ads)::int as ads, sum(keywords)::int as keywords from (
    select final_url as address, count(*) as ads, 0 as keywords from ads
      where plan_id = $1 and outlet = $2 and final_url <> '' group by final_url
    union all
    select coalesce(held_url, rule_url), 0, count(*) from keyword_rows
      where plan_id = $1 and coalesce(held_url, rule_url) is not null group by 1) each
  group by address)`;

/** The distinct addresses of all ads and keywords with what is known of them: what can't be opened first, then what was never asked. */
export async function listAddresses({
  database,
  plan,
  workspace,
}: PlanCaller): Promise<{ builtRevision: number; total: number; addresses: AddressCheck[] }> {
  const [state] = await select<{ built: number; total: number }>(
    database,
    `${LED} select p.built_revision as built, (select count(*) from led)::int as total
     from plans p where p.id = $1 and p.workspace_id = $3`,
    [plan, plainOutlet.key, workspace],
  );
  if (!state) throw notFound('plan');
  const addresses = await select<AddressCheck>(
    database,
    `${LED} select led.address, ads, keywords, c.checked_at as "checkedAt", c.status, coalesce(c.title, '') as title,
       coalesce(c.leads_to, '') as "leadsTo", coalesce(c.problem, '') as problem
     from led left join address_checks c on c.plan_id = $1 and c.address = led.address
     order by (c.checked_at is not null and (c.status is null or c.status >= 400)) desc, c.checked_at is null desc,
       ads + keywords desc, led.address limit ${MOST_ADDRESSES}`,
    [plan, plainOutlet.key],
  );
  return { builtRevision: state.built, total: state.total, addresses };
}

export async function startCheck(caller: PlanCaller): Promise<{ job: string }> {
  const { database, plan, workspace } = caller;
  const there = await select(database, 'select 1 from plans where id = $1 and workspace_id = $2', [
    plan,
    workspace,
  ]);
  if (there.length === 0) throw notFound('plan');
  return {
    job: await database.transaction((transaction) => enqueue(caller, transaction, 'addresses', {})),
  };
}

export type Checked = { asked: number; sound: number };

/** Asks each distinct address once, a few at a time, and keeps what came of it. Run again after a crash it asks again. */
export async function addressesJob(context: JobContext): Promise<Checked> {
  const { database, plan } = context.caller;
  const found = await select<{ address: string }>(
    database,
    `${LED} select address from led order by ads + keywords desc, address limit ${MOST_ADDRESSES}`,
    [plan, plainOutlet.key],
  );
  await context.phase('asking addresses', 0, found.length);
  const waiting = found.map(({ address }) => address).reverse();
  let asked = 0;
  let sound = 0;
  const worker = async () => {
    for (let address = waiting.pop(); address !== undefined; address = waiting.pop()) {
      const { status, html, leadsTo, problem } = await fetchPage(address);
      await keep(context.caller, address, { status, title: pageWords(html).title, leadsTo, problem });
      asked++;
      if (status !== null && status < 400) sound++;
      await context.progress('asking addresses', asked, found.length);
    }
  };
  // All are waited for, so that none is still asking when the job is stopped.
  const ended = await Promise.allSettled(Array.from({ length: AT_ONCE }, worker));
  for (const one of ended) if (one.status === 'rejected') throw one.reason;
  return { asked, sound };
}

const keep = (
  caller: PlanCaller,
  address: string,
  { status, title, leadsTo, problem }: Pick<AddressCheck, 'status' | 'title' | 'leadsTo' | 'problem'>,
) =>
  keepRow(caller, 'address_checks', {
    address,
    status,
    title: title.slice(0, 500).replaceAll('\0', ''),
    leads_to: leadsTo,
    problem,
    checked_at: new Date(),
  });

/** A landing page's words, to write from. */
export async function readLanding(address: string): Promise<Landing> {
  const { status, html, leadsTo, problem } = await fetchPage(address);
  return { address: leadsTo || address, status, ...pageWords(html), problem };
}
