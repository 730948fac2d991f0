import { randomUUID } from 'node:crypto';
import {
  accountCode,
  MOST_ACCOUNTS,
  type ReportAccount,
  type ReportChoices,
  type ReportReading,
  type reportsRead,
  startReports,
} from '@sprig/contracts';
import {
  AccountLines,
  type BrokenLine,
  grainCode,
  isAccount,
  layoutOfText,
  type NotMet,
  type ReadFact,
  type ReportLayout,
  type ReportOptions,
  ReportStream,
  readIsoDay,
  type Time,
  timeKey,
  timesSaid,
} from '@sprig/core/learn';
import { matchTypes } from '@sprig/core/match';
import { type Outlet, plainHeading, plainOutlet } from '@sprig/core/outlets';
import { normalise } from '@sprig/core/text';
import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import { execute } from '../../db/connect.ts';
import { find, keepRow, removeRows } from '../../db/rows.ts';
import { allOutlets, chosenOutlets } from '../../plan/outlets.ts';
import { ownAccount } from '../../plan/own-account.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { Prefetch } from '../../platform/prefetch.ts';
import { textOfUpload } from '../gather/index.ts';
import { type ReadingBody, rangeOf, readingBody } from './bodies.ts';
import { FactBuffer } from './fact-buffer.ts';
import { importsOf, ofSeries, type StoredImport } from './imports-of-plan.ts';
import { namesOfPlan } from './names-of-plan.ts';
import { keepFacts, keepPlaces, placesOf } from './packed.ts';
import { ReadingNotes } from './reading-notes.ts';
import { replacingOf } from './series.ts';

const input = startReports.body;
type File = z.output<typeof input>['files'][number];

/** Reads reports row by row, and says what they hold and what they would replace. Nothing counts until it is taken in. */
export async function reportsJob(context: JobContext): Promise<z.infer<typeof reportsRead>> {
  const { files } = input.parse(context.input);
  const readings: string[] = [];
  await forgetOld(context.caller);
  for (const file of files) {
    await context.phase(`reading ${file.name}`);
    readings.push(...(await readingsOf(context, file)));
  }
  return { readings };
}

/** One reading; of a report with rows of several accounts one for each. */
async function readingsOf(context: JobContext, file: File): Promise<string[]> {
  const read = (one: File) =>
    context.caller.database.transaction((transaction) => new Reading(context, transaction, one).read());
  try {
    return [await read(file)];
  } catch (error) {
    if (!(error instanceof SeveralAccounts)) throw error;
    const readings: string[] = [];
    for (const [nth, ofAccount] of error.names.entries()) {
      const account = file.account && { ...file.account, name: ofAccount };
      const choices = { ...file.choices, ofAccount };
      readings.push(await read({ ...file, again: nth === 0 ? file.again : null, account, choices }));
    }
    return readings;
  }
}

/** A report was read as of one account, and names several. */
class SeveralAccounts extends Error {
  constructor(readonly names: readonly string[]) {
    super('The report names several accounts.');
  }
}

/** What was read and not taken in is kept for a week. */
async function forgetOld({ database, plan, workspace }: PlanCaller): Promise<void> {
  const old = `select id from report_readings where plan_id = $1 and workspace_id = $2 and not taken
    and made_at < now() - interval '7 days'`;
  await execute(database, `delete from report_parts where plan_id = $1 and reading in (${old})`, [
    plan,
    workspace,
  ]);
  await execute(database, `delete from report_readings where plan_id = $1 and id in (${old})`, [
    plan,
    workspace,
  ]);
}

const noReport = (name: string) =>
  new SprigFailure(
    'invalid',
    `${name} is no report of results that can be read: it needs a row of headings with at least one of impressions, clicks, cost, conversions or value, and something that its rows are of, such as Day or Campaign.`,
    { at: 'files' },
  );

class Reading {
  private readonly caller: PlanCaller;
  private readonly id = randomUUID();
  private readonly buffer = new FactBuffer();
  private readonly timeAt = new Map<string, number>();
  private readonly times: [number, number][] = [];
  /** Rows of one time mostly follow each other. */
  private last: { time: Time; nth: number } | null = null;
  private readonly named = new Set<string>();
  /** Accounts that it names, by their names in normal form; empty where it is only one. */
  private readonly accounts = new Map<string, string>();
  private rows = 0;
  private pieces: () => AsyncGenerator<string> = nothingToRead;

  constructor(
    private readonly context: JobContext,
    private readonly transaction: Transaction,
    private readonly file: File,
  ) {
    this.caller = context.caller;
  }

  async read(): Promise<string> {
    const { caller, transaction, file } = this;
    this.pieces = await textOfUpload(caller, file.upload);
    const imports = await importsOf(caller, transaction);
    // Looked at once for its layout, and then read whole: what it is decides by which names its rows are met.
    const beginning = await this.beginning();
    const outlets = await allOutlets(caller, transaction);
    const profile =
      outlets.find(({ key }) => key === file.account?.outlet) ?? likelyOutlet(beginning, outlets);
    const known = layoutOfText(beginning, this.options(profile, null));
    if (!known) throw noReport(file.name);
    const remembered = file.choices.roles ? null : alike(imports, known.headings);
    const options = this.options(profile, remembered);
    const layout = remembered ? layoutOfText(beginning, options) : known;
    if (!layout) throw noReport(file.name);
    this.assertAccountColumn(layout);
    const account = file.account ?? (await this.likelyAccount(imports, layout, remembered, profile));
    const grain = grainCode(layout.grain);
    const series = (await this.seriesOf(imports, account, grain)) ?? randomUUID();
    const notes = new ReadingNotes((role) => layout.headings[layout.roles.indexOf(role)] ?? role);
    if (layout.open.length === 0) await this.readRows({ options, beginning, account, series, notes });
    for (const time of layout.open.length === 0 ? timesSaid(layout) : []) this.timeNumber(time);
    const speaking = {
      series,
      reading: this.id,
      times: this.times,
      campaigns: [...this.named],
      rows: this.rows,
    };
    const own = ofSeries(imports, series);
    const { outlet, ...rest } = account;
    const reading: ReadingBody['reading'] = {
      upload: file.upload,
      name: file.name,
      account: rest,
      currency: layout.currency,
      layout: shownLayout(layout),
      choices: remembered
        ? { ...ofAnyReport(remembered.body.choices), ...file.choices, roles: layout.roles }
        : file.choices,
      remembered: remembered !== null,
      grain,
      rows: this.rows,
      range: rangeOf(this.times),
      times: this.times.length,
      campaigns: this.named.size,
      ...notes.told,
      replaces: await replacingOf(caller, speaking, own, transaction),
      replacesWhole: await replacingOf(caller, { ...speaking, campaigns: null }, own, transaction),
    };
    const body = readingBody.parse({
      reading,
      times: this.times,
      campaigns: speaking.campaigns,
      basis: own.map(({ id }) => id),
    });
    if (file.again) await forget(caller, transaction, file.again);
    await keepRow(
      caller,
      'report_readings',
      { id: this.id, made_at: new Date(), series, outlet, taken: false, body },
      transaction,
    );
    return this.id;
  }

  private options(outlet: Outlet | undefined, remembered: StoredImport | null): ReportOptions {
    const { range, ofAccount } = this.file.choices;
    return {
      ...(outlet ? byOutlet(outlet) : {}),
      ...(remembered ? { ...ofAnyReport(remembered.body.choices), roles: remembered.body.roles } : {}),
      ...ofAnyReport(this.file.choices),
      ...(range ? { range: timeOf(range) } : {}),
      ...(ofAccount === undefined ? {} : { account: ofAccount }),
    };
  }

  /** Enough of it to tell how it is laid out. */
  private async beginning(): Promise<string> {
    const { ofAccount } = this.file.choices;
    if (ofAccount !== undefined) {
      const lines = new AccountLines(ofAccount);
      for await (const piece of this.pieces()) {
        lines.push(piece);
        if (lines.areEnough) break;
      }
      return lines.end();
    }
    let text = '';
    for await (const piece of this.pieces()) {
      text += piece;
      if (text.length > LOOKED_AT) break;
    }
    return text;
  }

  private assertAccountColumn({ roles }: ReportLayout): void {
    const { ofAccount } = this.file.choices;
    if (ofAccount !== undefined && !roles.includes('account'))
      throw new SprigFailure(
        'invalid',
        `Of ${this.file.name} only the rows of ${ofAccount} are read: one of its columns has to tell the account.`,
        { at: 'files' },
      );
  }

  private async readRows({
    options,
    beginning,
    account,
    series,
    notes,
  }: {
    options: ReportOptions;
    beginning: string;
    account: ReportAccount;
    series: string;
    notes: ReadingNotes;
  }): Promise<void> {
    const { caller, transaction, buffer, context } = this;
    const names = await namesOfPlan(caller, account.outlet, transaction);
    const places = await placesOf(caller, series, transaction);
    /** Of the report's places, their numbers in the series, and why they are not met. */
    const numberOf: number[] = [];
    const notMet: (NotMet | null)[] = [];
    const full: ReturnType<FactBuffer['take']>[] = [];
    const fact = (one: ReadFact) => {
      let place = numberOf[one.nth];
      if (place === undefined) {
        // The first row of a place, whose place is told by its names alone.
        place = places.numberFor(one.names, (own) => names.meet(own), one.key);
        numberOf[one.nth] = place;
        notMet[one.nth] = places.met[place]?.not ?? null;
        this.named.add(one.campaign);
      }
      notes.fact(one, notMet[one.nth] ?? null);
      buffer.add(this.timeNumber(one.time), place, one.told);
      this.rows++;
      if (buffer.isFull) full.push(buffer.take());
    };
    const stream = new ReportStream(
      options,
      () => ({
        fact,
        problem: (problem) => notes.problem(problem),
        setAside: (line, fields) => notes.setAside(line, fields),
        repeated: (line) => notes.repeated(line),
        otherwise: (told) => notes.otherwise(told),
        other: (account, own) => this.several(own, account),
      }),
      ({ line, raw }: BrokenLine) => notes.broken(line, raw),
      beginning,
    );
    // The database keeps some while the next are read.
    const keeping = new Prefetch();
    const flush = async () => {
      for (const facts of full.splice(0))
        if (facts) await keeping.next(() => keepFacts(caller, transaction, this.id, facts));
    };
    for await (const piece of this.pieces()) {
      stream.push(piece);
      await flush();
      await context.progress(`reading ${this.file.name}`, this.rows, 0);
    }
    stream.end();
    this.refuseSeveral();
    full.push(buffer.take());
    await flush();
    await keeping.ended;
    await keepPlaces(caller, transaction, series, places);
  }

  private several(...names: string[]): void {
    for (const name of names) {
      const key = normalise(name);
      if (this.accounts.size <= MOST_ACCOUNTS && !this.accounts.has(key)) this.accounts.set(key, name);
    }
  }

  /** Each account of several is read by itself, unless this is it. */
  private refuseSeveral(): void {
    const { name, choices } = this.file;
    if (choices.ofAccount !== undefined || this.accounts.size === 0) return;
    if (this.accounts.size > MOST_ACCOUNTS)
      throw new SprigFailure(
        'invalid',
        `${name} names more than ${MOST_ACCOUNTS} accounts. Give their column another heading if it holds something else, or bring in a report of up to ${MOST_ACCOUNTS}.`,
        { at: 'files' },
      );
    throw new SeveralAccounts([...this.accounts.values()]);
  }

  private timeNumber(time: Time): number {
    const { last } = this;
    if (last?.time === time) return last.nth;
    const key = timeKey(time);
    const nth = this.timeAt.get(key) ?? this.times.length;
    if (nth === this.times.length) this.times.push([time.from, time.to]);
    this.timeAt.set(key, nth);
    this.last = { time, nth };
    return nth;
  }

  /** The account that such reports were of before; else that of the outlet which the plan ships to. */
  private async likelyAccount(
    imports: readonly StoredImport[],
    { currency }: ReportLayout,
    remembered: StoredImport | null,
    known: Outlet | undefined,
  ): Promise<ReportAccount> {
    // The trade's own headings may be those of any outlet.
    const own = known?.key === plainOutlet.key ? undefined : known;
    const { ofAccount } = this.file.choices;
    const isOfIt = ({ body }: StoredImport) => isAccount(body.choices.ofAccount ?? '', ofAccount ?? '');
    const last = [remembered, ...imports.toReversed()].find(
      (one) => one && isOfIt(one) && (!own || one === remembered || one.account.outlet === own.key),
    );
    if (last && (currency === null || last.account.currency === currency)) return last.account;
    const outlets = (await chosenOutlets(this.caller, this.transaction)).filter(({ id }) => id > 0);
    const outlet = own ?? (outlets.length === 1 ? outlets[0]?.outlet : undefined);
    const account = await ownAccount(this.caller, outlet ?? null, this.transaction);
    return { ...account, currency: currency ?? account.currency, ...(ofAccount ? { name: ofAccount } : {}) };
  }

  /** The series of an account and grain, of what was taken in or waits to be. */
  private async seriesOf(
    imports: readonly StoredImport[],
    account: ReportAccount,
    grain: string,
  ): Promise<string | null> {
    const code = accountCode(account);
    const there = imports.find((one) => one.body.grain === grain && accountCode(one.account) === code);
    if (there) return there.body.series;
    const waiting = await find(
      this.caller,
      'report_readings',
      { columns: ['series', 'outlet', 'body'] },
      this.transaction,
    );
    const alikeOne = waiting.find(({ outlet, body }) => {
      const { reading } = readingBody.parse(body);
      return reading.grain === grain && accountCode({ outlet, ...reading.account }) === code;
    });
    return alikeOne?.series ?? null;
  }
}

async function* nothingToRead(): AsyncGenerator<string> {}

/** So much of a report is looked at for its layout. */
const LOOKED_AT = 400_000;

/** How an outlet's reports are read. */
function byOutlet({ key, report, words }: Outlet): ReportOptions {
  if (report.headings.length === 0) return {};
  const matchWords = new Map(matchTypes.map((type) => [normalise(words.matchTypes[type]), type]));
  // The trade's own headings stand above amounts of either form: which it is, is told by them or asked.
  const isOwn = key !== plainOutlet.key;
  return { headings: report.headings, matchWords, ...(isOwn ? { decimal: report.decimal } : {}) };
}

/** How much of its headings an outlet has to know to be taken for the one that a report is of. */
const KNOWN_SHARE = 0.8;

/** The outlet whose reports have these headings: the one that knows most of them, and nearly all. */
function likelyOutlet(beginning: string, outlets: readonly Outlet[]): Outlet | undefined {
  let best: { outlet: Outlet; known: number } | undefined;
  for (const outlet of outlets) {
    const layout = layoutOfText(beginning, byOutlet(outlet));
    if (!layout) continue;
    const own = new Set(outlet.report.headings.map(({ heading }) => plainHeading(heading)));
    const known = layout.headings.filter((heading) => own.has(plainHeading(heading))).length;
    if (known >= layout.headings.length * KNOWN_SHARE && known > (best?.known ?? 1)) best = { outlet, known };
  }
  return best?.outlet;
}

/** What one report is of, its days and its account, is not what the next is of. */
const ofAnyReport = ({
  range: _,
  ofAccount: __,
  ...choices
}: ReportChoices): Omit<ReportChoices, 'range' | 'ofAccount'> => choices;

const timeOf = ({ from, to }: { from: string; to: string }): Time => ({
  from: readIsoDay(from),
  to: readIsoDay(to),
});

/** The newest import of a report with the same headings. */
const alike = (imports: readonly StoredImport[], headings: readonly string[]): StoredImport | null =>
  imports.findLast(({ body }) => JSON.stringify(body.headings) === JSON.stringify(headings)) ?? null;

function shownLayout(layout: ReportLayout): ReportReading['layout'] {
  const figures = layout.roles.findIndex((role) => role === 'cost' || role === 'conversions');
  return {
    headerLine: layout.headerLine,
    headings: layout.headings,
    roles: layout.roles,
    samples: layout.samples,
    titles: layout.titles,
    dayOrder: layout.dayOrder,
    decimal: layout.decimals[figures] ?? layout.decimals[0] ?? '.',
    open: layout.open,
    step: layout.grain.step,
  };
}

/** A reading that is not taken in goes with its rows. */
export async function forget(caller: PlanCaller, transaction: Transaction, id: string): Promise<void> {
  const gone = await removeRows(caller, 'report_readings', { id, taken: false }, transaction);
  if (gone > 0) await removeRows(caller, 'report_parts', { reading: id }, transaction);
}
