import { type OutletCheck, outletCheck } from '@sprig/contracts';
import { checkGroup, type Finding, Findings, outletRules } from '@sprig/core/findings';
import type { Micros } from '@sprig/core/money';
import { type NetworkName, type Outlet, outletProblems, plainOutlet } from '@sprig/core/outlets';
import type { AdSteps } from '@sprig/core/plan';
import type { CampaignSheetRow, GroupRows } from '@sprig/core/sheets';
import { hashOf, normalise } from '@sprig/core/text';
import { readSite } from '@sprig/core/write';
import type { Transaction } from 'sequelize';
import { select } from '../../db/connect.ts';
import { keepRow } from '../../db/rows.ts';
import { type ChosenOutlet, chosenOutlets } from '../../plan/outlets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { dryShipment } from './dry-shipment.ts';
import { atOneMoment, bringUpToDate, type Moment, sideBySide } from './moment.ts';
import { planChecks } from './plan-checks.ts';
import type { PlanGroup } from './plan-rows.ts';
import { lastSet } from './receipts.ts';
import type { Shipped } from './shipment.ts';

/** What is kept of a look through the plan; of the plan itself there are only findings. */
export type KeptCheck = { check: OutletCheck | null; findings: Finding[] };
/** In the place of an outlet: what was found of the plan itself. */
export const OF_PLAN = '*';

type Tell = (done: number, total: number) => Promise<void>;

/** Looks through the plan for all outlets that it ships to, where that is not done yet. */
export async function checkJob(context: JobContext): Promise<{ revision: number }> {
  const { caller } = context;
  await context.phase('building');
  await bringUpToDate(caller);
  return atOneMoment(caller, async (moment) => {
    const outlets = async () => {
      for (const chosen of await chosenOutlets(caller, moment.reading))
        await ensureCheck(caller, chosen, moment, (done, total) =>
          context.progress(`looking through the plan for ${chosen.outlet.name}`, done, total),
        );
    };
    await sideBySide(caller, moment, outlets, (beside) => checkPlanItself(caller, beside));
    const [plan] = await select<{ revision: number }>(
      caller.database,
      'select built_revision as revision from plans where id = $1',
      [caller.plan],
      { transaction: moment.reading },
    );
    return { revision: plan?.revision ?? 0 };
  });
}

/**
 * A hash of all that a look through the plan hangs on: it is of today, of this build, this outlet and this receipt; of the
 * plan itself, of what addresses have answered.
 */
export async function madeOf(
  caller: PlanCaller,
  chosen: Pick<ChosenOutlet, 'outlet' | 'body'> | null,
  transaction: Transaction | null,
): Promise<number> {
  const [plan] = await select<{ revision: number; day: string; asked: string | null }>(
    caller.database,
    `select built_revision as revision, current_date::text as day,
       (select max(checked_at)::text from address_checks where plan_id = plans.id) as asked
     from plans where id = $1`,
    [caller.plan],
    { transaction },
  );
  const last = chosen && (await lastSet(caller, chosen.outlet.key, transaction));
  return hashOf(
    JSON.stringify([
      chosen ? { ...plan, asked: null } : plan,
      chosen?.outlet,
      chosen?.body,
      last?.id,
      last?.judged,
    ]),
  );
}

export async function keptCheck(
  { database, plan, workspace }: PlanCaller,
  outlet: string,
  hash: number,
  transaction: Transaction | null,
): Promise<KeptCheck | null> {
  const [row] = await select<{ body: KeptCheck }>(
    database,
    'select body from ship_checks where plan_id = $1 and workspace_id = $2 and outlet = $3 and made_of = $4',
    [plan, workspace, outlet, hash],
    { transaction },
  );
  if (!row) return null;
  const check = outletCheck.nullable().safeParse(row.body.check);
  return check.success ? { check: check.data, findings: row.body.findings } : null;
}

/** The look through the plan for one outlet, made where it is not there. */
export async function ensureCheck(
  caller: PlanCaller,
  chosen: ChosenOutlet,
  moment: Moment,
  tell: Tell,
): Promise<KeptCheck> {
  const hash = await madeOf(caller, chosen, moment.reading);
  const there = await keptCheck(caller, chosen.outlet.key, hash, moment.reading);
  if (there) return there;
  const made = await new OutletLook(caller, chosen, moment, tell).run();
  await keep(caller, chosen.outlet.key, hash, made, moment);
  return made;
}

async function checkPlanItself(caller: PlanCaller, moment: Moment): Promise<void> {
  const hash = await madeOf(caller, null, moment.reading);
  if (await keptCheck(caller, OF_PLAN, hash, moment.reading)) return;
  const findings = await planChecks(caller, moment);
  await keep(caller, OF_PLAN, hash, { check: null, findings }, moment);
}

function keep(
  caller: PlanCaller,
  outlet: string,
  hash: number,
  body: KeptCheck,
  { writing }: Moment,
): Promise<void> {
  const revision = body.check?.revision ?? 0;
  return keepRow(caller, 'ship_checks', { outlet, revision, made_of: hash, body }, writing);
}

const isUnder = ({ bid }: { bid: Micros | null }, least: number): 0 | 1 =>
  bid !== null && bid < least ? 1 : 0;

/** One look: the shipment as it would be, with all that stands against it. */
class OutletLook {
  private readonly found = new Findings();
  private readonly outlet: Outlet;
  private ads!: AdSteps;
  private isForAdults = false;

  constructor(
    private readonly caller: PlanCaller,
    private readonly chosen: ChosenOutlet,
    private readonly moment: Moment,
    private readonly tell: Tell,
  ) {
    this.outlet = chosen.outlet;
  }

  async run(): Promise<KeptCheck> {
    const { inputs, shipped } = await dryShipment(this.caller, this.moment, this.chosen, {
      settle: this.tell,
      onOpen: (plan, { facts }) => {
        this.isForAdults = facts.adults;
        this.ads = plan.ads;
      },
      onGroup: (planned, carried) => this.group(planned, carried),
      onCampaign: (row, networks) => this.campaign(row, networks),
    });
    this.prerequisites();
    this.profile();
    this.adults();
    this.ofShipment(shipped);
    const { files, rows, losses, notCarried, difference } = shipped;
    const check = {
      revision: inputs.revision,
      rows,
      files: files.map(({ name, rows: of }) => ({ name, rows: of })),
      losses,
      notCarried,
      difference,
    };
    return { check, findings: this.found.list() };
  }

  private campaign({ campaign, dailyBudget }: CampaignSheetRow, networks: readonly NetworkName[]) {
    const { adultSites } = this.outlet;
    if (this.isForAdults && adultSites.taken && !networks.every((name) => adultSites.networks.includes(name)))
      this.found.add('adults-network', { key: campaign, text: campaign });
    const { least } = this.outlet.budget;
    if (least !== null && dailyBudget !== null && dailyBudget < least)
      this.found.add('budget-under-least', { key: campaign, text: campaign });
  }

  private group(planned: PlanGroup, carried: GroupRows) {
    const { head, place, written, keywords } = planned;
    const { bids, limits } = this.outlet;
    const least = bids.least ?? 0;
    const own = [];
    let low = isUnder(carried.group, least);
    for (const row of carried.keywords) low += isUnder(row, least);
    if (low > 0) own.push({ rule: 'bid-under-least' as const, field: null, count: low, text: head.name });
    if (carried.keywords.length > limits.rowsPerGroup)
      own.push({ rule: 'group-over-limit' as const, field: null, count: 1, text: head.name });
    if (this.outlet.key !== plainOutlet.key) {
      const group = { name: head.name, keywords: keywords.length };
      own.push(
        ...checkGroup({ group, rows: keywords, place }, this.outlet).filter(({ rule }) =>
          outletRules.has(rule),
        ),
      );
      const led = carried.keywords.flatMap(({ finalUrl }) => (finalUrl === '' ? [] : [readSite(finalUrl)]));
      if (led.length > 0)
        own.push(...this.ads.checkedAddresses(led).filter(({ rule }) => outletRules.has(rule)));
      if (head.takes_ads) {
        const norms = new Set<string>();
        for (const { text } of keywords) norms.add(normalise(text));
        const { findings } = this.ads.checked(head, written, [...norms]);
        own.push(...findings.filter(({ rule }) => outletRules.has(rule)));
      }
    }
    if (own.length > 0) this.found.addGroup(head.key, own, head.searches);
  }

  private prerequisites() {
    for (const { key, words, before } of this.outlet.needs)
      if (!this.chosen.body.ticks.includes(key))
        this.found.add(before === 'sheets' ? 'prerequisite-for-sheets' : 'prerequisite-to-go-live', {
          key,
          text: words,
        });
  }

  /** Whether the outlet takes a site for adults at all. */
  private adults() {
    if (this.isForAdults && !this.outlet.adultSites.taken)
      this.found.add('adults-not-taken', { text: this.outlet.name });
  }

  /** A profile that was kept before something of it was refused. */
  private profile() {
    for (const { at, words } of outletProblems(this.outlet))
      this.found.add('outlet-unsound', { key: at, text: words });
  }

  private ofShipment({ notCarried, losses, difference }: Shipped) {
    for (const { file, row, character, text } of notCarried)
      this.found.add('character-not-carried', {
        key: `${file}:${row}`,
        text: `${character} in ${file}, row ${row}: ${text.slice(0, 100)}`,
      });
    for (const { rule, count } of losses) this.found.add('not-carried', { key: rule, count });
    if (difference.waiting > 0) this.found.add('budgets-wait', { count: difference.waiting });
    if (difference.untold > 0) this.found.add('not-told-gone', { count: difference.untold });
  }
}
