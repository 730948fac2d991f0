import type { BuiltGroup, BuiltRow } from '../build/index.ts';
import type { Outlet } from '../outlets/index.ts';
import type { OutletPlace } from '../sheets/index.ts';
import { hashOf, lengthOf, markerIn } from '../text/index.ts';
import { type AdField, readSite } from '../write/index.ts';

export type Severity = 'blocker' | 'warning' | 'tip';
export type FindingStage = 'brief' | 'gather' | 'prune' | 'sort' | 'build' | 'write' | 'ship';

/** How grave each rule's finding is, and where it is mended. */
const RULES = {
  'no-keywords': ['blocker', 'gather'],
  'no-campaign-name': ['blocker', 'build'],
  'no-site': ['warning', 'brief'],
  'field-unfilled': ['blocker', 'write'],
  'address-unfilled': ['blocker', 'write'],
  'address-too-long': ['blocker', 'write'],
  'address-other-site': ['warning', 'write'],
  'address-not-https': ['warning', 'write'],
  'address-word-not-allowed': ['blocker', 'write'],
  'address-marker-left': ['warning', 'write'],
  'address-no-answer': ['warning', 'write'],
  'addresses-not-asked': ['tip', 'write'],
  'no-ad': ['blocker', 'write'],
  'token-left': ['blocker', 'write'],
  // No blockers: what looks like one may be meant, and is then accepted with its reason.
  'marker-left': ['warning', 'write'],
  'marker-in-name': ['warning', 'build'],
  'marker-in-keyword': ['warning', 'gather'],
  'marker-in-asset': ['warning', 'write'],
  'other-place': ['warning', 'write'],
  'other-place-in-keyword': ['warning', 'sort'],
  'word-not-allowed': ['blocker', 'write'],
  'live-word-not-allowed': ['warning', 'write'],
  'refused-before': ['warning', 'write'],
  'few-ads': ['warning', 'write'],
  'many-ads': ['warning', 'write'],
  'field-left-out': ['warning', 'write'],
  'phone-in-text': ['warning', 'write'],
  'exclamation-in-headline': ['warning', 'write'],
  'repeated-punctuation': ['warning', 'write'],
  'word-twice': ['warning', 'write'],
  capitals: ['warning', 'write'],
  article: ['warning', 'write'],
  'double-space': ['warning', 'write'],
  'space-before-mark': ['warning', 'write'],
  'space-in-path': ['warning', 'write'],
  'headlines-alike': ['warning', 'write'],
  'live-one-keyword': ['warning', 'write'],
  'live-objection': ['warning', 'write'],
  'live-falls-back': ['tip', 'write'],
  'word-thrice': ['tip', 'write'],
  'relevance-low': ['tip', 'write'],
  'no-assets': ['tip', 'write'],
  'no-phone': ['warning', 'write'],
  'keyword-too-long': ['blocker', 'gather'],
  'keyword-too-many-words': ['blocker', 'gather'],
  'name-cut': ['tip', 'build'],
  'group-too-large': ['warning', 'build'],
  'keyword-twice': ['warning', 'build'],
  'narrower-bids-less': ['warning', 'build'],
  'theme-without-keywords': ['tip', 'sort'],
  'fence-audit': ['warning', 'build'],
  'fences-over-limit': ['warning', 'build'],
  'plan-large': ['tip', 'build'],
  'bids-start-high': ['tip', 'build'],
  orphans: ['tip', 'build'],
  'own-keyword-blocked': ['blocker', 'prune'],
  'no-location': ['warning', 'brief'],
  'presence-interested': ['warning', 'brief'],
  'no-language': ['warning', 'brief'],
  'no-budget': ['blocker', 'build'],
  'spend-over-budget': ['warning', 'build'],
  'campaign-without-negatives': ['warning', 'prune'],
  'broad-without-negatives': ['warning', 'prune'],
  'group-without-negatives': ['tip', 'build'],
  'keywords-unplaced': ['tip', 'sort'],
  'group-loose': ['tip', 'sort'],
  'rival-in-keyword': ['warning', 'prune'],
  'adults-not-taken': ['blocker', 'brief'],
  'adults-network': ['blocker', 'brief'],
  'outlet-unsound': ['blocker', 'ship'],
  'bid-under-least': ['blocker', 'build'],
  'budget-under-least': ['blocker', 'build'],
  'group-over-limit': ['blocker', 'build'],
  'prerequisite-for-sheets': ['blocker', 'ship'],
  'prerequisite-to-go-live': ['warning', 'ship'],
  'character-not-carried': ['blocker', 'ship'],
  'budgets-wait': ['warning', 'ship'],
  'not-told-gone': ['warning', 'ship'],
  'not-carried': ['warning', 'ship'],
} as const satisfies Record<string, readonly [Severity, FindingStage]>;

export type FindingRule = keyof typeof RULES;
export const findingRules = Object.keys(RULES) as FindingRule[];

/** Rules about what is written that no outlet's limits have a part in. */
const OF_THE_PLAN: ReadonlySet<FindingRule> = new Set([
  'no-assets',
  'no-phone',
  'marker-in-asset',
  'address-no-answer',
  'addresses-not-asked',
]);

/** Rules whose outcome hangs on an outlet's limits: they are told once for each outlet that a plan ships to. */
export const outletRules: ReadonlySet<FindingRule> = new Set(
  findingRules.filter(
    (rule) =>
      (RULES[rule][1] === 'write' && !OF_THE_PLAN.has(rule)) ||
      rule === 'keyword-too-long' ||
      rule === 'keyword-too-many-words' ||
      rule === 'name-cut',
  ),
);

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
  /** The first few: a group's or row's key and what to read. */
  samples: { key: string; text: string }[];
};

/** What one ad group has of a rule; kept with the group, so that only groups that changed are looked at again. */
export type GroupFinding = {
  rule: FindingRule;
  field: AdField | 'finalUrl' | null;
  count: number;
  text: string;
};

const SAMPLES = 5;
/** More keywords than this say that a group is not tight. */
const MANY_KEYWORDS = 50;
/** A plan with more than these is more than one person looks after with care. */
export const ADVISED_PLAN = { rows: 50_000, groups: 5_000 };

/** `rows`: those of a keyword one after another. */
export type CheckedGroup = {
  group: Pick<BuiltGroup, 'name' | 'keywords'>;
  rows: readonly Pick<BuiltRow, 'text'>[];
  place: Pick<OutletPlace, 'name'>;
};

/** What stands between one ad group and an outlet, but for its ads. O(rows). */
export function checkGroup(checked: CheckedGroup, outlet: Outlet): GroupFinding[] {
  const found = new GroupFindings();
  checkRows(checked, outlet, found);
  const { group, place } = checked;
  if (lengthOf(group.name) > outlet.limits.groupName) found.add('name-cut', place.name);
  if (group.keywords > MANY_KEYWORDS) found.add('group-too-large', group.name);
  if (markerIn(group.name) !== null) found.add('marker-in-name', group.name);
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

function checkRows({ rows }: CheckedGroup, { limits }: Outlet, found: GroupFindings) {
  let last = '';
  for (const { text } of rows) {
    if (text === last) continue;
    last = text;
    if (markerIn(text) !== null) found.add('marker-in-keyword', text);
    // A character counts two at most.
    if (text.length * 2 > limits.keywordLength && lengthOf(text) > limits.keywordLength)
      found.add('keyword-too-long', text);
    if (wordCount(text) > limits.keywordWords) found.add('keyword-too-many-words', text);
  }
}

/** Of a text with single spaces. */
function wordCount(text: string): number {
  let count = 1;
  for (let at = text.indexOf(' '); at >= 0; at = text.indexOf(' ', at + 1)) count++;
  return count;
}

/** Sums findings up by their rule, blockers first. */
export class Findings {
  private readonly byRule = new Map<string, Finding>();

  add(
    rule: FindingRule,
    { key, text, field = null, count = 1 }: Partial<GroupFinding> & { key?: string } = {},
  ): Finding {
    const id = `${rule}:${field ?? ''}`;
    const [severity, stage] = RULES[rule];
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
    if (text !== undefined && finding.samples.length < SAMPLES)
      finding.samples.push({ key: key ?? text, text });
    if (!there) this.byRule.set(id, finding);
    return finding;
  }

  addGroup(key: string, found: readonly GroupFinding[], searches: number | null = null): void {
    for (const { rule, text, field, count } of found) {
      const finding = this.add(rule, { key, text, field, count });
      if (searches !== null) finding.searches = (finding.searches ?? 0) + searches;
    }
  }

  list(): Finding[] {
    const order: Severity[] = ['blocker', 'warning', 'tip'];
    return [...this.byRule.values()].sort((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity));
  }
}

/** What a plan as a whole has, beside its ad groups. */
export type PlanFacts = {
  groups: number;
  /** Keyword rows. */
  rows: number;
  campaignName: string;
  site: string;
  orphans: number;
  /** Campaigns for which no asset is shown, by their key and name. */
  bare: readonly { key: string; name: string }[];
  /** Negatives that block keywords of the plan, as one reads them, and how many. */
  conflicts: readonly { text: string; blocked: number }[];
  /** Ad groups that are to bring calls and show no phone number, by their key and name. */
  mute: readonly { key: string; name: string }[];
  /** Campaigns, by their names, and assets, by what they say. */
  named: readonly { rule: 'marker-in-name' | 'marker-in-asset'; text: string }[];
};

export function checkPlan(
  found: Findings,
  { groups, rows, campaignName, site, orphans, conflicts, bare, mute, named }: PlanFacts,
): void {
  if (groups === 0) found.add('no-keywords');
  if (campaignName.trim() === '') found.add('no-campaign-name');
  for (const { text, blocked } of conflicts)
    found.add('own-keyword-blocked', { key: text, text, count: blocked });
  if (readSite(site).status === 'problem') found.add('no-site');
  for (const { key, name } of bare) found.add('no-assets', { key, text: name });
  for (const { key, name } of mute) found.add('no-phone', { key, text: name });
  for (const { rule, text } of named) if (markerIn(text) !== null) found.add(rule, { key: text, text });
  if (rows > ADVISED_PLAN.rows || groups > ADVISED_PLAN.groups)
    found.add('plan-large', { text: `${rows} keyword rows in ${groups} ad groups`, count: groups });
  if (orphans > 0) found.add('orphans', { count: orphans });
}
