import { accountCode, type ReportAccount, type ReportImport, type ReportReading } from '@sprig/contracts';
import { find, patchRows } from '../../db/rows.ts';
import { inChange } from '../../plan/change/index.ts';
import { allOutlets } from '../../plan/outlets.ts';
import { ownAccount } from '../../plan/own-account.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { type ReadingBody, rangeOf, readingBody } from './bodies.ts';
import { importsOf, ofSeries, type StoredImport } from './imports-of-plan.ts';
import { forget } from './read-reports.ts';
import { replacingOf, standingCells } from './series.ts';

type StoredReading = {
  id: string;
  at: Date | string;
  series: string;
  outlet: string | null;
  body: ReadingBody;
};

async function waitingOf(caller: PlanCaller): Promise<StoredReading[]> {
  const rows = await find(caller, 'report_readings', {
    columns: ['id', 'made_at', 'series', 'outlet', 'body'],
    where: { taken: false },
    order: ['made_at', 'id'],
  });
  return rows.map(({ id, made_at, series, outlet, body }) => ({
    id,
    at: made_at,
    series,
    outlet,
    body: readingBody.parse(body),
  }));
}

/** What was taken in, newest first, what was read and waits, and the accounts that reports may be of. */
export async function listReports(caller: PlanCaller): Promise<{
  imports: ReportImport[];
  readings: ReportReading[];
  accounts: ReportAccount[];
}> {
  const imports = await importsOf(caller);
  const waiting = await waitingOf(caller);
  const readings: ReportReading[] = [];
  for (const one of waiting) readings.push(shown(await upToDate(caller, one, imports)));
  return {
    imports: await told(caller, imports),
    readings,
    accounts: await accountsOf(caller, imports, readings),
  };
}

async function told(caller: PlanCaller, imports: readonly StoredImport[]): Promise<ReportImport[]> {
  const actors = await find(caller, 'actors', { columns: ['id', 'name'] });
  const nameOf = new Map(actors.map(({ id, name }) => [id, name]));
  const stands = standingCells(imports);
  return imports
    .map(({ id, name, madeAt, actor, account, body }) => ({
      id,
      name,
      madeAt: new Date(madeAt).toISOString(),
      actor: nameOf.get(actor) ?? '',
      account,
      grain: body.grain,
      rows: body.rows,
      range: rangeOf(body.times) ?? { from: '', to: '' },
      times: body.times.length,
      campaigns: body.campaigns?.length ?? null,
      cost: body.cost,
      stands: stands.get(id) ?? { some: 0, of: 0 },
    }))
    .reverse();
}

const shown = ({ id, at, outlet, body }: StoredReading): ReportReading => ({
  id,
  at: new Date(at).toISOString(),
  ...body.reading,
  account: { outlet, ...body.reading.account },
});

/** A reading with what it would replace now, if something else was taken in or back since it was read. */
async function upToDate(
  caller: PlanCaller,
  waiting: StoredReading,
  imports: readonly StoredImport[],
): Promise<StoredReading> {
  const { body, series, id } = waiting;
  const own = ofSeries(imports, series);
  const basis = own.map((one) => one.id);
  if (basis.join() === body.basis.join()) return waiting;
  const speaking = {
    series,
    reading: id,
    times: body.times,
    campaigns: body.campaigns,
    rows: body.reading.rows,
  };
  const reading = {
    ...body.reading,
    replaces: await replacingOf(caller, speaking, own),
    replacesWhole: await replacingOf(caller, { ...speaking, campaigns: null }, own),
  };
  const next = { ...body, reading, basis };
  await patchRows(caller, 'report_readings', { id }, { body: next });
  return { ...waiting, body: next };
}

/** Accounts that are known, and one for each outlet that is here. */
async function accountsOf(
  caller: PlanCaller,
  imports: readonly StoredImport[],
  readings: readonly ReportReading[],
): Promise<ReportAccount[]> {
  const all = new Map<string, ReportAccount>();
  const add = (account: ReportAccount) => all.set(accountCode(account), account);
  for (const { account } of imports) add(account);
  for (const { account } of readings) add(account);
  const known = new Set([...all.values()].map(({ outlet }) => outlet));
  const own = await ownAccount(caller, null);
  for (const { key, name } of await allOutlets(caller))
    if (!known.has(key)) add({ ...own, outlet: key, name });
  return [...all.values()];
}

/** Takes readings in, as one change. One that says what is told already is only put away. */
export async function takeReports(
  caller: PlanCaller,
  ids: readonly string[],
  isWhole: boolean,
): Promise<{ revision: number; taken: number; same: number }> {
  const { revision, result } = await inChange(
    caller,
    ({ taken, first }: { taken: number; same: number; first: string }) =>
      taken === 1 ? `Take in the report ${first}` : `Take in ${taken} reports`,
    async (change) => {
      const before = await importsOf(caller, change.transaction);
      let [taken, same, first] = [0, 0, ''];
      for (const id of ids) {
        const [row] = await change.find('report_readings', {
          columns: ['id', 'series', 'outlet', 'body', 'taken'],
          where: { id },
          lock: true,
        });
        if (!row || row.taken) throw notFound('report any more: read it in again');
        const body = readingBody.parse(row.body);
        refuseOpen(body);
        const own = ofSeries(before, row.series);
        const campaigns = isWhole ? null : body.campaigns;
        const speaking = {
          series: row.series,
          reading: id,
          times: body.times,
          campaigns,
          rows: body.reading.rows,
        };
        const { replaces, replacesWhole } = body.reading;
        const isKnown = own.map((one) => one.id).join() === body.basis.join();
        const known = isWhole ? replacesWhole : replaces;
        const does = isKnown ? known : await replacingOf(caller, speaking, own, change.transaction);
        const isNews = does.added + does.gone + does.changed > 0 || speaksAnew(speaking, own);
        if (isNews) {
          const { account, grain, rows, totals, layout, choices, name } = body.reading;
          const stored = {
            id: change.takeIds(1),
            name,
            made_at: new Date().toISOString(),
            actor_id: caller.actor,
            outlet: row.outlet,
            body: {
              account,
              grain,
              reading: id,
              series: row.series,
              times: body.times,
              campaigns,
              rows,
              cost: totals.cost,
              headings: layout.headings,
              roles: layout.roles,
              choices,
            },
          };
          await change.insert('report_imports', [stored]);
          before.push({
            id: stored.id,
            name,
            madeAt: stored.made_at,
            actor: caller.actor,
            account: { outlet: row.outlet, ...account },
            body: stored.body,
          });
          taken++;
          first ||= name;
          await patchRows(caller, 'report_readings', { id }, { taken: true }, change.transaction);
        } else {
          same++;
          await forget(caller, change.transaction, id);
        }
      }
      return { taken, same, first };
    },
  );
  return { revision, taken: result.taken, same: result.same };
}

function refuseOpen({ reading: { layout, name, times, currency, account } }: ReadingBody): void {
  if (layout.open.length > 0)
    throw new SprigFailure('invalid', `${name} can be read in two ways. Say which, then take it in.`, {
      at: 'readings',
    });
  if (currency !== null && currency !== account.currency)
    throw new SprigFailure(
      'invalid',
      `The amounts of ${name} are in ${currency}, and the account is in ${account.currency}: choose the account that they are of.`,
      { at: 'readings' },
    );
  if (times === 0)
    throw new SprigFailure('invalid', `${name} has no rows that can be read.`, { at: 'readings' });
}

/** Whether it speaks for times and campaigns that nothing speaks for yet, though it may have no rows there. */
function speaksAnew(
  {
    times,
    campaigns,
  }: { times: readonly (readonly [number, number])[]; campaigns: readonly string[] | null },
  imports: readonly StoredImport[],
): boolean {
  const known = new Set(
    imports.flatMap(({ body }) =>
      body.times.flatMap((time) => (body.campaigns ?? ['\u0000']).map((name) => `${time.join()} ${name}`)),
    ),
  );
  const isKnown = (time: readonly number[], name: string) =>
    known.has(`${time.join()} ${name}`) || known.has(`${time.join()} \u0000`);
  return times.some((time) => (campaigns ?? ['\u0000']).some((name) => !isKnown(time, name)));
}

/** Lets go of what was read and not taken in. */
export const dropReport = ({ database, ...caller }: PlanCaller, id: string): Promise<void> =>
  database.transaction((transaction) => forget({ database, ...caller }, transaction, id));

/** Takes an import back, whichever it is. */
export async function takeReportBack(caller: PlanCaller, id: number): Promise<{ revision: number }> {
  const [there] = await find(caller, 'report_imports', { columns: ['name'], where: { id } });
  if (!there) throw notFound('report');
  return inChange(caller, `Take back the report ${there.name}`, async (change) => {
    if ((await change.remove('report_imports', [{ id }])) === 0) throw notFound('report');
  });
}
