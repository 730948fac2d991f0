import type { BuiltGroup, BuiltRow, Layout } from '../build/index.ts';
import { lengthOf } from '../text/index.ts';
import { type Address, type AdField, readSite, unfilledFields } from '../write/index.ts';
import type { Outlet } from './outlet.ts';
import type { Projection } from './project.ts';

export type Severity = 'blocker' | 'warning' | 'tip';

export const findingRules = [
  'no-keywords',
  'no-campaign-name',
  'no-site',
  'field-unfilled',
  'address-unfilled',
  'address-too-long',
  'address-other-site',
  'keyword-too-long',
  'keyword-too-many-words',
  'name-cut',
  'orphans',
  'own-keyword-blocked',
] as const;
export type FindingRule = (typeof findingRules)[number];

/** Where a finding is mended. */
export type FindingPlace = {
  stage: 'brief' | 'gather' | 'prune' | 'build' | 'write';
  key?: string;
  field?: AdField | 'finalUrl';
};

export type Finding = {
  rule: FindingRule;
  severity: Severity;
  /** Apart from its rule only where one rule speaks of several fields. */
  field: AdField | 'finalUrl' | null;
  count: number;
  place: FindingPlace;
  /** The first few: a group's or row's key and what to read. */
  samples: { key: string; text: string }[];
};

const SAMPLES = 5;

export type CheckInput = {
  groups: readonly BuiltGroup[];
  rows: readonly BuiltRow[];
  projection: Projection;
};

export type CheckedPlan = { layout: Layout; site: string };

/** What stands between a whole plan and an outlet, blockers first. O(rows + ads). */
export function check(
  input: CheckInput & CheckedPlan & { orphans: number; conflicts?: readonly ConflictSample[] },
  outlet: Outlet,
): Finding[] {
  const checker = new Checker(input, outlet);
  checker.page(input);
  return checker.done(input.orphans, input.conflicts ?? []);
}

/** A negative that blocks keywords of the plan, as one reads it, and how many. */
export type ConflictSample = { text: string; blocked: number };

/** The same over as many pages of a plan as one likes. */
export class Checker {
  private readonly found = new Findings();
  private readonly site: Address;
  private groups = 0;

  constructor(
    private readonly plan: CheckedPlan,
    private readonly outlet: Outlet,
  ) {
    this.site = readSite(plan.site);
  }

  page(input: CheckInput): void {
    this.groups += input.groups.length;
    checkRows(input, this.outlet, this.found);
    checkNames(input, this.outlet, this.found);
    checkAds(input, this.outlet, this.site.status === 'address' ? this.site.host : null, this.found);
  }

  done(orphans: number, conflicts: readonly ConflictSample[]): Finding[] {
    const { found } = this;
    if (this.groups === 0) found.add('no-keywords', 'blocker', { stage: 'gather' });
    if (this.plan.layout.campaignName.trim() === '')
      found.add('no-campaign-name', 'blocker', { stage: 'build' });
    for (const { text, blocked } of conflicts)
      found.add('own-keyword-blocked', 'blocker', { stage: 'prune' }, { key: text, text }, blocked);
    if (this.site.status === 'problem') found.add('no-site', 'warning', { stage: 'brief' });
    if (orphans > 0) found.add('orphans', 'tip', { stage: 'build' }, undefined, orphans);
    return found.done();
  }
}

class Findings {
  private readonly byRule = new Map<string, Finding>();

  add(
    rule: FindingRule,
    severity: Severity,
    place: FindingPlace,
    sample?: { key: string; text: string },
    count = 1,
  ) {
    const field = place.field ?? null;
    const id = `${rule}:${field ?? ''}`;
    const finding = this.byRule.get(id) ?? { rule, severity, field, count: 0, place, samples: [] };
    finding.count += count;
    if (sample && finding.samples.length < SAMPLES) finding.samples.push(sample);
    this.byRule.set(id, finding);
  }

  done(): Finding[] {
    const order: Severity[] = ['blocker', 'warning', 'tip'];
    return [...this.byRule.values()].sort((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity));
  }
}

function checkRows({ rows }: CheckInput, { limits }: Outlet, found: Findings) {
  let last = '';
  for (const { groupKey, text } of rows) {
    if (groupKey === last) continue;
    last = groupKey;
    const place = { stage: 'gather', key: groupKey } as const;
    if (lengthOf(text) > limits.keywordLength)
      found.add('keyword-too-long', 'blocker', place, { key: groupKey, text });
    if (text.split(' ').length > limits.keywordWords)
      found.add('keyword-too-many-words', 'blocker', place, { key: groupKey, text });
  }
}

function checkNames({ groups, projection }: CheckInput, { limits }: Outlet, found: Findings) {
  groups.forEach(({ key, name }, at) => {
    if (lengthOf(name) <= limits.groupName) return;
    const cut = projection.groups[at]?.name ?? '';
    found.add('name-cut', 'tip', { stage: 'build', key }, { key, text: cut });
  });
}

function checkAds(
  { groups, projection }: CheckInput,
  { limits }: Outlet,
  site: string | null,
  found: Findings,
) {
  projection.ads.forEach(({ fit }, at) => {
    const { key, name } = groups[at] as BuiltGroup;
    const sample = { key, text: name };
    for (const field of unfilledFields(fit))
      found.add(
        field === 'finalUrl' ? 'address-unfilled' : 'field-unfilled',
        'blocker',
        { stage: 'write', key, field },
        sample,
      );
    if (fit.finalUrl.status !== 'fits') return;
    const address = fit.finalUrl.text;
    const place = { stage: 'write', key, field: 'finalUrl' } as const;
    if (lengthOf(address) > limits.finalUrl) found.add('address-too-long', 'blocker', place, sample);
    if (site !== null && !isOnSite(address, site)) found.add('address-other-site', 'warning', place, sample);
  });
}

function isOnSite(address: string, site: string): boolean {
  const read = readSite(address);
  return read.status === 'address' && (read.host === site || read.host.endsWith(`.${site}`));
}
