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

/** The distinct addresses of all ads with what is known of them: what can't be opened first, then what was never asked. */
export async function listAddresses({
  database,
  plan,
  workspace,
}: PlanCaller): Promise<{ builtRevision: number; total: number; addresses: AddressCheck[] }> {
  const [state] = await select<{ built: number; total: number }>(
    database,
    `select p.built_revision as built, (select count(distinct final_url) from ads a where a.plan_id = p.id
       and a.outlet = $3 and final_url <> '')::int as total from plans p where p.id = $1 and p.workspace_id = $2`,
    [plan, workspace, plainOutlet.key],
  );
  if (!state) throw notFound('plan');
  const addresses = await select<AddressCheck>(
    database,
    `select a.final_url as address, count(*)::int as ads, c.checked_at as "checkedAt", c.status, coalesce(c.title, '') as title,
       coalesce(c.leads_to, '') as "leadsTo", coalesce(c.problem, '') as problem
     from ads a left join address_checks c on c.plan_id = a.plan_id and c.address = a.final_url
     where a.plan_id = $1 and a.outlet = $2 and a.final_url <> ''
     group by a.final_url, c.checked_at, c.status, c.title, c.leads_to, c.problem
     order by (c.checked_at is not null and (c.status is null or c.status >= 400)) desc, c.checked_at is null desc,
       count(*) desc, a.final_url limit ${MOST_ADDRESSES}`,
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
    `select final_url as address from ads where plan_id = $1 and outlet = $2 and final_url <> ''
     group by final_url order by count(*) desc, final_url limit ${MOST_ADDRESSES}`,
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
