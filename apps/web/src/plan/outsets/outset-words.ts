import type { Facts, OutsetLine, OutsetLoss, OutsetPart, SortSettings } from '@sprig/contracts';
import type { Grouping, Lane, Layout } from '@sprig/core/build';
import { matchTypes, typesIn } from '@sprig/core/match';
import { funnelStages } from '@sprig/core/text';
import { count, counted, money, percent } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import {
  campaignChoices,
  caseChoices,
  fenceChoices,
  groupingChoices,
  spreadChoices,
  stageWords,
  unplacedChoices,
} from '../rule-choices.ts';
import {
  deliveryChoices,
  goalChoices,
  presenceChoices,
  rotationChoices,
  strategyChoices,
} from '../settings/choices.ts';
import { writeAdjustment, writeLocations, writeReturn, writeSchedule } from '../settings/read-facts.ts';

/** The parts of an outset, and what is in each. */
export const partWords: Record<OutsetPart, { words: string; about: string }> = {
  campaigns: {
    words: 'Settings of campaigns',
    about: 'goal, networks, locations, languages, schedule, devices, bidding, rotation, daily budget',
  },
  sets: { words: 'Named settings', about: 'those that campaigns are given by name' },
  words: { words: 'Words', about: 'places, written forms, function words, synonyms' },
  names: { words: 'Campaigns and names', about: 'what makes a campaign and an ad group, and their names' },
  lanes: { words: 'Match types and lanes', about: 'which match types, where, and which words are marked' },
  ladder: { words: 'Bids', about: 'the ladder: base, steps, floor and ceiling' },
  fences: { words: 'Fences', about: 'whether ad groups are fenced off from each other' },
  themes: { words: 'Themes', about: 'the tree with its rules, and what branches have of their own' },
  stages: {
    words: 'Group sizes and signal words',
    about: 'how large groups are, and words that tell the stage',
  },
  ads: { words: 'Ad patterns', about: 'lines, split tests, labels' },
  addresses: { words: 'Final URLs', about: 'the rule of final URLs, with its parameters' },
  extras: { words: 'Extras', about: 'sitelinks, callouts and phone numbers of the whole plan' },
  negatives: { words: 'Negative keywords', about: 'those of the plan itself' },
  kept: { words: 'Words kept', about: 'words that were judged to belong' },
  lists: { words: 'Shared lists', about: 'which shared lists of negatives are attached' },
  outlets: { words: 'Outlets', about: 'where it ships to, and what is bid on each network' },
  limits: { words: 'Limits of checks', about: 'what verdicts, bids from results and ad tests go by' },
  forecasts: { words: 'Forecasts', about: 'what they take for granted, and who tells figures' },
};

const fieldWords: Record<string, string> = {
  timeZone: 'Time zone',
  goal: 'Goal',
  category: 'What the site is about',
  adults: 'For grown-ups only',
  'networks.search': 'On the search network',
  'networks.partners': 'On search partners',
  'networks.display': 'On the display network',
  locations: 'Locations',
  locationsOut: 'Locations left out',
  presence: 'Reaches',
  languages: 'Languages',
  schedule: 'Schedule',
  'devices.desktop': 'On desktops',
  'devices.phone': 'On phones',
  'devices.tablet': 'On tablets',
  delivery: 'Budget is spent',
  strategy: 'Bidding',
  targetCost: 'Target cost per conversion',
  targetReturn: 'Target return',
  conversions: 'Counted conversions',
  rotation: 'Rotation',
  sitesOut: 'Sites left out',
  places: 'Places',
  casing: 'Written forms',
  functionWords: 'Function words',
  synonyms: 'Synonyms',
  'verdicts.neverTimes': 'Never pays, times the aim',
  'verdicts.clicks': 'Not sold, clicks needed',
  'verdicts.notSold': 'Not sold, share of its surroundings',
  'verdicts.position': 'Too low, beyond position',
  'verdicts.impressions': 'Not clicked, impressions needed',
  'verdicts.notClicked': 'Not clicked, share of what is expected',
  'verdicts.lostRank': 'Too low, share lost to rank',
  'verdicts.pays': 'Pays, share of the aim',
  'verdicts.falseBlame': 'Blamed by chance',
  'verdicts.clicksBetween': 'Clicks between changes of a bid',
  'bids.bands': 'Bands of positions',
  'bids.clicks': 'Bids from results, clicks needed',
  'bids.most': 'Most that a bid changes at once',
  'bids.conversions': 'Conversions before the engine’s own bidding',
  'adTests.by': 'Ad tests decide by',
  'adTests.looks': 'Ad tests, planned looks',
  'adTests.difference': 'Ad tests, difference to find',
  'adTests.clicks': 'Ad tests, clicks in each version',
  market: 'Figures that nobody told',
  learnFrom: 'Estimates are learned from',
  'assumptions.priceAt': 'Position that a CPC buys',
  'assumptions.step': 'Bid step between positions',
  'assumptions.stepAtNone': 'Bid step without competition',
  'assumptions.stepAtMost': 'Bid step at most competition',
  'assumptions.ctr': 'CTR at the top',
  'assumptions.ctrFall': 'CTR lost per position',
  'assumptions.lastPosition': 'Last position',
  'assumptions.share': 'Impression share at the top',
  'assumptions.shareFall': 'Impression share lost per position',
  'assumptions.reach': 'Share of searches reached',
  dailyBudget: 'Daily budget',
  campaignBy: 'Campaigns',
  campaignName: 'Campaign names',
  'grouping.kind': 'Ad groups',
  'grouping.searchesFrom': 'At the top from searches',
  'grouping.first': 'At the top, first of a theme',
  'grouping.cpcFrom': 'At the top from a CPC of',
  unplaced: 'Keywords without a theme',
  'groupName.pattern': 'Names of single-keyword ad groups',
  'groupName.style': 'Case of single-keyword names',
  'themeName.pattern': 'Names of themed ad groups',
  'themeName.style': 'Case of themed names',
  keywordsPerGroup: 'Keywords in an ad group',
  asAsked: 'Match types as asked for',
  spread: 'Lanes stand',
  lanes: 'Lanes',
  'marks.which': 'Marked words',
  'marks.words': 'Listed words',
  'ladder.baseBy': 'Base bids',
  'ladder.defaultBase': 'Default bid',
  'ladder.floor': 'Least bid',
  'ladder.ceiling': 'Greatest bid',
  ...Object.fromEntries(matchTypes.map((type) => [`ladder.steps.${type}`, `Step of ${matchWords[type]}`])),
  ...Object.fromEntries(
    [...funnelStages, 'none' as const].map((stage) => [
      `ladder.stages.${stage}`,
      `Step of the stage ${stageWords[stage]}`,
    ]),
  ),
  fences: 'Fences',
  'sort.target': 'Most keywords of a group',
  'sort.least': 'Fewest keywords of a group',
  'sort.floor': 'Fewer will do from searches',
  'sort.signals': 'Signal words',
  'address.base': 'Final URLs begin with',
  'address.path': 'Path',
  'address.themes': 'Paths of themes',
  'address.parameters': 'Parameters',
  'address.mobile': 'Address for phones',
  'address.keywords': 'Path of keywords',
};

/** What a field is called; undefined for one that has no words yet. */
export const wordsOfField = (at: string): string | undefined => fieldWords[at];

const things: Record<string, string> = {
  set: 'set of settings',
  theme: 'theme',
  branch: 'branch with rules of its own',
  pattern: 'ad pattern',
  extra: 'extra',
  negative: 'negative keyword',
  word: 'kept word',
  list: 'shared list',
  outlet: 'outlet',
};

/** `3 themes`; `2 sets of settings`. */
export function wordsOfThings({ at, count: many }: Pick<OutsetLine, 'at' | 'count'>): string {
  const [first = at, ...rest] = (things[at] ?? at).split(/(?= of | with )/);
  return `${counted(many, first)}${rest.join('')}`;
}

const AMOUNTS = new Set([
  'dailyBudget',
  'targetCost',
  'ladder.defaultBase',
  'ladder.floor',
  'ladder.ceiling',
  'grouping.cpcFrom',
]);
const SHARES = /^(ladder\.(steps|stages)\.|assumptions\.(step|ctr|share|reach))/;
const PARTS_OF_ONE = new Set([
  'verdicts.notSold',
  'verdicts.notClicked',
  'verdicts.lostRank',
  'verdicts.pays',
  'verdicts.falseBlame',
  'adTests.difference',
]);

const choices: Record<string, readonly { value: string; words: string }[]> = {
  goal: goalChoices,
  presence: presenceChoices,
  delivery: deliveryChoices,
  strategy: strategyChoices,
  rotation: rotationChoices,
  campaignBy: campaignChoices,
  'grouping.kind': groupingChoices satisfies { value: Grouping['kind']; words: string }[],
  unplaced: unplacedChoices,
  'groupName.style': caseChoices,
  'themeName.style': caseChoices,
  spread: spreadChoices,
  fences: fenceChoices,
  'ladder.baseBy': [
    { value: 'estimate', words: 'the keyword’s CPC' },
    { value: 'theme', words: 'its theme’s median CPC' },
    { value: 'default', words: 'the default bid' },
  ],
  'marks.which': [
    { value: 'every', words: 'every word' },
    { value: 'content', words: 'words of content' },
    { value: 'listed', words: 'listed words' },
  ],
  market: [
    { value: 'none', words: 'nobody is asked' },
    { value: 'stand-in', words: 'the stand-in market makes them up' },
  ],
  learnFrom: [
    { value: 'own', words: 'this plan' },
    { value: 'workspace', words: 'all plans alike' },
  ],
};

const laneWords = ({ name, types, step }: Lane): string =>
  `${name}: ${typesIn(types)
    .map((type) => matchWords[type])
    .join(', ')}${step === 10_000 ? '' : ` at ${percent(step)}`}`;

/** What lists of the documents say, each in a line. */
const lists: Record<string, (value: never) => string> = {
  lanes: (lanes: Layout['lanes']) => lanes.map(laneWords).join('; '),
  locations: (list: Facts['locations']) => writeLocations(list).replaceAll('\n', ', '),
  locationsOut: (list: Facts['locations']) => writeLocations(list).replaceAll('\n', ', '),
  schedule: (slots: Facts['schedule']) => writeSchedule(slots).replaceAll('\n', ', '),
  places: (list: Facts['places']) => list.map(([name]) => name).join(', '),
  synonyms: (list: Facts['synonyms']) => list.map((line) => line.join(' = ')).join(', '),
  'bids.bands': (bands: Facts['bids']['bands']) =>
    bands.map(({ from, by }) => `from ${from} ${by > 0 ? '+' : ''}${by}%`).join(', '),
  'sort.signals': (signals: NonNullable<SortSettings['signals']>) =>
    signals.map(({ text, stage }) => `${text} (${stageWords[stage]})`).join(', '),
  'address.themes': (themes: { path: string }[]) => themes.map(({ path }) => path).join(', '),
};

/** A value of a field, in a few words. */
export function wordsOfValue(at: string, value: unknown, currency: string): string {
  if (value === null) return at === 'functionWords' || at === 'sort.signals' ? 'the language’s own' : 'none';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number') {
    if (AMOUNTS.has(at)) return money(value, currency);
    if (at === 'targetReturn') return writeReturn(value);
    if (at.startsWith('devices.')) return writeAdjustment(value);
    if (at === 'bids.most') return `${value}%`;
    if (SHARES.test(at)) return percent(value);
    if (PARTS_OF_ONE.has(at)) return `${Math.round(value * 1_000) / 10}%`;
    return value % 1 === 0 ? count(value) : String(value);
  }
  if (Array.isArray(value)) {
    if (value.length === 0) return 'none';
    const words = lists[at] ?? ((list: string[]) => list.join(', '));
    return words(value as never);
  }
  const typed = String(value);
  return choices[at]?.find((one) => one.value === typed)?.words ?? (typed || 'none');
}

/** Why something is left out, and what to do about it. */
export function wordsOfLoss({ part, why, names, count: many }: OutsetLoss, currency: string): string {
  const list = names.map((name) => (why === 'currency' ? (wordsOfField(name) ?? name) : `“${name}”`));
  const named = `${list.join(', ')}${many > names.length ? ` and ${count(many - names.length)} more` : ''}`;
  switch (why) {
    case 'currency':
      return `${named}: in ${currency} there, so ${part === 'themes' ? 'taken without the condition on CPC' : 'as before here'}. Set what you need in this plan’s currency.`;
    case 'gone-list':
      return `${named}: the shared list is gone. Attach another one in Prune.`;
    case 'gone-outlet':
      return `${named}: the outlet is gone from the workspace.`;
    case 'no-theme':
      return part === 'ads'
        ? `${named}: for themes that are not in this plan. Take the themes in too, or choose for which ad groups it is in Write.`
        : `${named}: a path of a theme that is not in this plan is left out. Take the themes in too, or set it in Write.`;
    case 'groups':
      return `${named}: for chosen ad groups of another plan. Choose them here in Write.`;
    case 'source':
      return part === 'lanes'
        ? `${named}: takes keywords of all sources here, since its own are another plan’s.`
        : `${named}: taken without the condition on a source, which is another plan’s.`;
  }
}
