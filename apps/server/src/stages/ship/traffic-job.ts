import { Readable } from 'node:stream';
import { type AccountReport, type accountRan, runAccount, type startReports } from '@sprig/contracts';
import { decimalsOf } from '@sprig/core/money';
import type { Outlet } from '@sprig/core/outlets';
import { BYTE_ORDER_MARKS, encodeText } from '@sprig/core/sheets';
import {
  type AccountRow,
  advertiserOf,
  type Demand,
  noiseOf,
  reportText,
  Traffic,
  type TrafficReport,
} from '@sprig/market';
import type { Response } from 'express';
import { z } from 'zod';
import { select } from '../../db/connect.ts';
import { currencyOf } from '../../plan/currency-of.ts';
import { outletOf } from '../../plan/outlets.ts';
import { ownAccount } from '../../plan/own-account.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { enqueue } from '../../platform/jobs/enqueue.ts';
import { keepUpload } from '../gather/index.ts';
import { accountDay, accountRows } from './hand-in-job.ts';
import { daysRun, keepDay, runsOf } from './stand-in-days.ts';

const input = runAccount.body.extend({ outlet: z.string() });
const DAY_MS = 86_400_000;
const plusDays = (day: string, days: number): string =>
  new Date(Date.parse(day) + days * DAY_MS).toISOString().slice(0, 10);

/** Lets a simulated account run, day by day, and has its reports read where that is wanted. */
export async function trafficJob(context: JobContext): Promise<z.infer<typeof accountRan>> {
  const { caller } = context;
  const { outlet: key, days, read } = input.parse(context.input);
  const outlet = await outletOf(caller, key);
  const ran = await daysRun(caller, key);
  const rows: AccountRow[] = [];
  for await (const row of accountRows(caller, key)) rows.push(row);
  if (rows.length === 0)
    throw new SprigFailure(
      'invalid',
      `Nothing was taken at ${outlet.name} yet: ship to it, and hand the sheets in.`,
    );
  if (days === 0 && !ran) throw new SprigFailure('invalid', 'It has not run yet: choose a number of days.');
  const currency = await currencyOf(caller, null);
  const advertiser = advertiserOf(rows, outlet, decimalsOf(currency));
  const partners = outlet.report.headings.some(({ role }) => role === 'network');
  const seed = Math.floor(noiseOf(`traffic ${key} ${advertiser.campaigns[0]?.name ?? ''}`) * 2 ** 31);
  const first = ran?.from ?? plusDays(await accountDay(caller, key), 1);
  const begins = ran ? plusDays(ran.to, 1) : first;
  await context.phase('counting searches');
  const traffic = new Traffic(advertiser, await demandsOf(caller), seed, partners);
  let [impressions, clicks] = [0, 0];
  await caller.database.transaction(async (transaction) => {
    for (let n = 0; n < days; n++) {
      const day = plusDays(begins, n);
      const date = new Date(day);
      const nth = Math.round((Date.parse(day) - Date.parse(first)) / DAY_MS);
      const cells = traffic.day(nth, date.getUTCDay(), date.getUTCMonth());
      for (const cell of cells) {
        impressions += cell.impressions;
        clicks += cell.clicks;
      }
      await keepDay(caller, transaction, key, begins, { day, cells }, advertiser);
      await context.progress('letting days pass', n + 1, days);
    }
  });
  const to = days === 0 ? (ran?.to ?? begins) : plusDays(begins, days - 1);
  const reading = read.length > 0 ? await readReports(context, outlet, read) : null;
  return { from: first, to, impressions, clicks, reading };
}

/** How often keywords of the plan are searched, by its own figures; what nobody told is searched rarely. */
const demandsOf = ({ database, plan, workspace }: PlanCaller): Promise<Demand[]> =>
  select<Demand>(
    database,
    `select norm as text, coalesce(searches, made_searches, 30)::int as searches,
       coalesce(cpc, taken_cpc, made_cpc, 0)::bigint as cpc
     from keywords where plan_id = $1 and workspace_id = $2 and not cut and folded_into is null order by id`,
    [plan, workspace],
  );

/** Puts reports where uploads are, and has them read as anybody's. */
async function readReports(
  context: JobContext,
  outlet: Outlet,
  reports: readonly AccountReport[],
): Promise<string> {
  const { caller } = context;
  const account = await ownAccount(caller, outlet);
  const files: z.input<typeof startReports.body>['files'] = [];
  for (const report of reports) {
    await context.phase(`writing its report of ${report}`);
    const bytes = await reportOf(caller, outlet, report);
    const { upload } = await keepUpload(caller, Readable.from([bytes]), bytes.length);
    files.push({ upload, name: `${outlet.name} ${report}.${extensionOf(outlet)}`, account });
  }
  return caller.database.transaction((transaction) => enqueue(caller, transaction, 'reports', { files }));
}

const extensionOf = ({ file }: Outlet) => (file.formats[0] === 'tsv' ? 'tsv' : 'csv');

/** A report of all days that it has run, as the engine writes it. */
async function reportOf(caller: PlanCaller, outlet: Outlet, report: TrafficReport): Promise<Buffer> {
  const days = [];
  for await (const day of runsOf(caller, outlet.key)) days.push(day);
  const text = reportText(report, days, days.at(-1)?.day.day ?? '', outlet);
  const { encoding, byteOrderMark } = outlet.file;
  const utf8 = (whole: string) => Buffer.from(whole, 'utf8');
  const mark = byteOrderMark ? Buffer.from(BYTE_ORDER_MARKS[encoding]) : Buffer.alloc(0);
  return Buffer.concat([mark, encodeText(text, encoding, utf8)]);
}

export async function sendReport(
  caller: PlanCaller,
  key: string,
  report: AccountReport,
  response: Response,
): Promise<void> {
  const outlet = await outletOf(caller, key);
  if (!(await daysRun(caller, key)))
    throw new SprigFailure('not-found', `The account at ${outlet.name} has not run yet.`);
  const bytes = await reportOf(caller, outlet, report);
  response
    .attachment(`${outlet.key}-${report}.${extensionOf(outlet)}`)
    .type(`text/csv; charset=${outlet.file.encoding}`)
    .set('cache-control', 'no-store')
    .end(bytes);
}
