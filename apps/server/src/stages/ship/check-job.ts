import { type OutletCheck, outletCheck } from '@sprig/contracts';
import {
  checkGroup,
  type Finding,
  type FindingRule,
  Findings,
  OwnChecks,
  outletRules,
  SAMPLES,
} from '@sprig/core/findings';
import type { Micros } from '@sprig/core/money';
import { type CampaignFacts, type Outlet, outletProblems, plainOutlet } from '@sprig/core/outlets';
import type { AdSteps } from '@sprig/core/plan';
import type { CampaignSheetRow, CellRow, ExtraSheetRow, GroupRows } from '@sprig/core/sheets';
import { hashOf, normalise } from '@sprig/core/text';
import { readSite } from '@sprig/core/write';
import type { Transaction } from 'sequelize';
import { select } from '../../db/connect.ts';
import { keepRow, removeRows } from '../../db/rows.ts';
import { type ChosenOutlet, chosenOutlets } from '../../plan/outlets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { conversionsAt } from '../learn/index.ts';
import { dryShipment } from './dry-shipment.ts';
import { atOneMoment, bringUpToDate, type Moment, sideBySide } from './moment.ts';
import { planChecks } from './plan-checks.ts';
import type { PlanCampaign, PlanGroup } from './plan-rows.ts';
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
  const findings = await planChecks(caller, moment, LISTED);
  await keep(caller, OF_PLAN, hash, { check: null, findings }, moment);
}

async function keep(
  caller: PlanCaller,
  outlet: string,
  hash: number,
  { check, findings }: KeptCheck,
  { writing }: Moment,
): Promise<void> {
  const revision = check?.revision ?? 0;
  const body = { check, findings: findings.map(shortened) };
  await keepRow(caller, 'ship_checks', { outlet, revision, made_of: hash, body }, writing);
  await removeRows(caller, 'finding_lists', { outlet }, writing);
  for (const { rule, field, samples } of findings)
    if (samples.length > SAMPLES)
      await keepRow(caller, 'finding_lists', { outlet, rule, field: field ?? '', body: samples }, writing);
}

/** A finding with the first few of what it speaks of. */
export const shortened = (finding: Finding): Finding => ({
  ...finding,
  samples: finding.samples.slice(0, SAMPLES),
});

/** So much of a finding can be listed. */
const LISTED = { groups: 20_000, others: 20_000 };

/** Strategies by which the outlet bids for conversions by itself. */
const bidsByItself: ReadonlySet<CampaignFacts['strategy']> = new Set([
  'most-conversions',
  'target-cost',
  'target-return',
]);

const isUnder = ({ bid }: { bid: Micros | null }, least: number): 0 | 1 =>
  bid !== null && bid < least ? 1 : 0;

/** One look: the shipment as it would be, with all that stands against it. */
class OutletLook {
  private readonly found = new Findings(LISTED);
  private readonly outlet: Outlet;
  private ads!: AdSteps;
  private isForAdults = false;
  private readonly checks: OwnChecks;
  /** By campaigns' names at the outlet: how many ad groups and extras stand in each; extras under '' are everywhere. */
  private readonly groupsIn = new Map<string, number>();
  private readonly extrasIn = { sitelink: new Map<string, number>(), callout: new Map<string, number>() };
  /** Campaigns for which the outlet is to bid by itself. */
  private readonly selfBidding = new Set<string>();

  constructor(
    private readonly caller: PlanCaller,
    private readonly chosen: ChosenOutlet,
    private readonly moment: Moment,
    private readonly tell: Tell,
  ) {
    this.outlet = chosen.outlet;
    this.checks = new OwnChecks(chosen.outlet);
  }

  async run(): Promise<KeptCheck> {
    const { inputs, shipped } = await dryShipment(this.caller, this.moment, this.chosen, {
      settle: this.tell,
      onOpen: (plan, { facts }) => {
        this.isForAdults = facts.adults;
        this.ads = plan.ads;
      },
      onGroup: (planned, carried) => this.group(planned, carried),
      onCampaign: (row, planned) => this.campaign(row, planned),
      onExtra: (row) => this.extra(row),
      ...(this.outlet.checks.length > 0
        ? { onSeen: ({ kind, cells }: CellRow) => this.checks.see(kind, cells) }
        : {}),
    });
    this.prerequisites();
    this.profile();
    this.adults();
    this.advised();
    await this.conversions();
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

  private campaign({ campaign, dailyBudget }: CampaignSheetRow, { networks, strategy }: PlanCampaign) {
    this.groupsIn.set(campaign, 0);
    if (bidsByItself.has(strategy)) this.selfBidding.add(campaign);
    const { adultSites } = this.outlet;
    if (this.isForAdults && adultSites.taken && !networks.every((name) => adultSites.networks.includes(name)))
      this.found.add('adults-network', { key: campaign, text: campaign });
    const { least } = this.outlet.budget;
    if (least !== null && dailyBudget !== null && dailyBudget < least)
      this.found.add('budget-under-least', { key: campaign, text: campaign });
  }

  private group(planned: PlanGroup, carried: GroupRows) {
    const { head, place, written, keywords } = planned;
    this.groupsIn.set(place.campaign, (this.groupsIn.get(place.campaign) ?? 0) + 1);
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

  private extra({ campaign, group, extra }: ExtraSheetRow) {
    if (group !== '' || extra.kind === 'phone') return;
    const known = this.extrasIn[extra.kind];
    known.set(campaign, (known.get(campaign) ?? 0) + 1);
  }

  /** What its people advise of campaigns, and what they look at besides. */
  private advised() {
    const { groupsPerCampaign, sitelinks, callouts } = this.outlet.advised;
    const { sitelink, callout } = this.extrasIn;
    for (const [campaign, groups] of this.groupsIn) {
      const say = (rule: FindingRule, text: string) => this.found.add(rule, { key: campaign, text });
      if (groupsPerCampaign !== null && groups > groupsPerCampaign)
        say('campaign-too-large', `${campaign}: ${groups} ad groups, ${groupsPerCampaign} are advised`);
      const has = (known: ReadonlyMap<string, number>) => (known.get('') ?? 0) + (known.get(campaign) ?? 0);
      const few = [
        ...(has(sitelink) < sitelinks ? [`${has(sitelink)} of ${sitelinks} sitelinks`] : []),
        ...(has(callout) < callouts ? [`${has(callout)} of ${callouts} callouts`] : []),
      ];
      if (few.length > 0) say('few-extras', `${campaign}: ${few.join(', ')}`);
    }
    for (const { severity, words, first, count } of this.checks.list())
      this.found.add(severity === 'blocker' ? 'own-check-stops' : 'own-check', {
        key: words,
        text: `${words} ${first === '' ? '' : `“${first.slice(0, 100)}”`}`.trim(),
        count,
      });
  }

  /** Whether reports tell of enough conversions where the outlet is to bid by itself. */
  private async conversions() {
    const needed = this.outlet.bids.conversions;
    if (needed === null || this.selfBidding.size === 0) return;
    const told = await conversionsAt(this.caller, this.outlet.key);
    for (const campaign of this.selfBidding) {
      const has = told.get(campaign);
      if ((has ?? 0) >= needed) continue;
      const says = has === undefined ? 'no report tells of conversions' : `${Math.floor(has)} conversions`;
      this.found.add('few-conversions', {
        key: campaign,
        text: `${campaign}: ${says}, ${needed} are needed`,
      });
    }
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
