import type { Outlet } from '../outlets/index.ts';
import { hashOf } from '../text/index.ts';
import type { AdField } from '../write/index.ts';
import type { AddPlan, CheckedGroup, PlanFacts, Rule, Severity } from './rule.ts';
import { briefRules, checkBrief } from './rules/brief.ts';
import { buildRules, checkLayout, checkNames } from './rules/build.ts';
import { checkKeywords, checkPool, gatherRules } from './rules/gather.ts';
import { checkNegatives, pruneRules } from './rules/prune.ts';
import { shipRules } from './rules/ship.ts';
import { sortRules } from './rules/sort.ts';
import { checkExtras, writeRules } from './rules/write.ts';

/** The rules of each stage, where what they tell is mended. */
const STAGES = {
  brief: briefRules,
  gather: gatherRules,
  prune: pruneRules,
  sort: sortRules,
  build: buildRules,
  write: writeRules,
  ship: shipRules,
} as const;
export type FindingStage = keyof typeof STAGES;
type RulesOf<Stage> = Stage extends FindingStage ? keyof (typeof STAGES)[Stage] : never;
export type FindingRule = RulesOf<FindingStage>;

const RULES = new Map<FindingRule, Rule & { stage: FindingStage }>(
  Object.entries(STAGES).flatMap(([stage, rules]) =>
    Object.entries<Rule>(rules).map(
      ([rule, of]) => [rule as FindingRule, { ...of, stage: stage as FindingStage }] as const,
    ),
  ),
);
export const findingRules: readonly FindingRule[] = [...RULES.keys()];

/** Rules whose outcome hangs on an outlet's limits: they are told once for each outlet that a plan ships to. */
export const outletRules: ReadonlySet<FindingRule> = new Set(
  [...RULES].flatMap(([rule, { byOutlet }]) => (byOutlet ? [rule] : [])),
);

const ruleOf = (rule: FindingRule) => {
  const found = RULES.get(rule);
  if (!found) throw new Error(`There is no rule ${rule}.`);
  return found;
};

/** The rule of today for one that was kept under a former name. */
export const presentRule = (rule: string): string => rule.replace('asset', 'extra');

/** Where a finding is mended. */
export type FindingPlace = { stage: FindingStage; key?: string; field?: AdField | 'finalUrl' };

export type Finding = {
  rule: FindingRule;
  severity: Severity;
  /** Apart from its rule only where one rule speaks of several fields. */
  field: AdField | 'finalUrl' | null;
  count: number;
  /** Searches a month of the ad groups that it speaks of; null where it speaks of none. */
  searches: number | null;
  /** A hash of all that it speaks of: what was accepted of it holds as long as this stays. */
  facts: number;
  place: FindingPlace;
  /** The first of them: a group's or row's key and what to read; `count`: where it speaks of more than one thing there. */
  samples: { key: string; text: string; count?: number }[];
};

/** What one ad group has of a rule; kept with the group, so that only groups that changed are looked at again. */
export type GroupFinding = {
  rule: FindingRule;
  field: AdField | 'finalUrl' | null;
  count: number;
  text: string;
};

/** So many of a finding are shown before its list is opened. */
export const SAMPLES = 5;
/** So many are kept of what a build finds beside its ad groups; what it finds of these is kept with them. */
const OF_PLAN = 1_000;
/** What stands between one ad group and an outlet, but for its ads. O(rows). */
export function checkGroup(checked: CheckedGroup, outlet: Outlet): GroupFinding[] {
  const found = new GroupFindings();
  checkKeywords(checked, outlet, (rule, text) => found.add(rule, text));
  checkNames(checked, outlet, (rule, text) => found.add(rule, text));
  return found.list;
}

class GroupFindings {
  readonly list: GroupFinding[] = [];

  add(rule: FindingRule, text: string, field: GroupFinding['field'] = null) {
    const known = this.list.find((one) => one.rule === rule && one.field === field);
    if (known) known.count++;
    else this.list.push({ rule, field, count: 1, text });
  }
}

/** Sums findings up by their rule, blockers first. */
export class Findings {
  private readonly byRule = new Map<string, Finding>();

  /** `most`: how many of each finding are kept to be read, of ad groups and of all else. */
  constructor(private readonly most = { groups: SAMPLES, others: OF_PLAN }) {}

  add(rule: FindingRule, what: Partial<GroupFinding> & { key?: string } = {}): Finding {
    return this.put(rule, what, this.most.others);
  }

  private put(
    rule: FindingRule,
    { key, text, field = null, count = 1 }: Partial<GroupFinding> & { key?: string },
    most: number,
  ): Finding {
    const id = `${rule}:${field ?? ''}`;
    const { severity, stage } = ruleOf(rule);
    const there = this.byRule.get(id);
    const finding = there ?? {
      rule,
      severity,
      field,
      count: 0,
      searches: null,
      facts: 0,
      place: { stage, ...(key === undefined ? {} : { key }), ...(field === null ? {} : { field }) },
      samples: [],
    };
    finding.count += count;
    // The order in which things are found does not matter.
    finding.facts =
      (finding.facts + hashOf(`${key ?? ''}\n${text ?? ''}\n${count}`)) % Number.MAX_SAFE_INTEGER;
    if (text !== undefined && finding.samples.length < most)
      finding.samples.push({ key: key ?? text, text, ...(count > 1 ? { count } : {}) });
    if (!there) this.byRule.set(id, finding);
    return finding;
  }

  addGroup(key: string, found: readonly GroupFinding[], searches: number | null = null): void {
    for (const { rule, text, field, count } of found) {
      const finding = this.put(rule, { key, text, field, count }, this.most.groups);
      if (searches !== null) finding.searches = (finding.searches ?? 0) + searches;
    }
  }

  list(): Finding[] {
    const order: Severity[] = ['blocker', 'warning', 'tip'];
    return [...this.byRule.values()].sort((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity));
  }
}

/** What stands against a plan as a whole, beside its ad groups. */
export function checkPlan(found: Findings, facts: PlanFacts): void {
  const add: AddPlan<FindingRule> = (rule, what) => void found.add(rule, what);
  checkPool(facts, add);
  checkNegatives(facts, add);
  checkBrief(facts, add);
  checkExtras(facts, add);
  checkLayout(facts, add);
}
