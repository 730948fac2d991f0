import { type Facts, type NewTheme, newThemeOf, noFacts } from '@sprig/contracts';
import type { Layout } from '@sprig/core/build';
import { emptyRecipe, type Recipe } from '@sprig/core/mix';
import { decimalFromMicros } from '@sprig/core/money';
import {
  type AdField,
  type AdPattern,
  type ExtraBody,
  noSplit,
  patternOf,
  usualAddressRule,
} from '@sprig/core/write';
import { demoPool } from '@sprig/market';
import { find } from '../db/rows.ts';
import { inChange } from '../plan/change/index.ts';
import type { Caller } from '../platform/caller.ts';
import { takeIn } from '../stages/gather/index.ts';
import { makeRecipe } from '../stages/mix/index.ts';
import { makePlan } from '../stages/plans/index.ts';
import { makeThemes, proposeWithin } from '../stages/sort/index.ts';

/** The demo's ads: three plain ones, one of them a split test, and for hire an assembled one. */
const shared: Partial<Record<AdField, string[]>> = {
  description2: ['Fitted by people who paddle. Hire by the hour, the day or the week.'],
  path1: ['@keyword', 'paddle'],
  path2: ['eastmere'],
};
const demoAds = (hire: number[]): AdPattern[] => [
  patternOf(
    {
      ...shared,
      headline1: ['@keyword in Eastmere', '@keyword'],
      headline2: ['Saltmarsh Paddle Co.'],
      headline3: ['@theme at Saltmarsh', '@theme'],
      description1: [
        'Looking for @keyword? Try it on the water first, then decide.',
        'Try it on the water first, then decide. Open all year.',
      ],
    },
    'title',
    { name: 'Try it first', labels: ['try first'] },
  ),
  patternOf(
    {
      ...shared,
      headline1: ['@keyword', '@theme'],
      headline2: ['@offer', 'Free Delivery in Eastmere'],
      headline3: ['Order by Noon, Sent Today'],
      description1: [
        '@theme for every kind of water, with paddles and bags to go with them.',
        'For every kind of water, with paddles and bags to go with it.',
      ],
    },
    'title',
    { name: 'Delivered', labels: ['delivery'] },
  ),
  patternOf(
    {
      ...shared,
      headline1: ['@keyword(live)', '@keyword(live, or Boats)'],
      headline2: ['Our Own Boathouse', 'Saltmarsh'],
      headline3: ['Advice From Paddlers'],
      description1: [
        'Come and sit in it: @theme ready to try in Wrenport, seven days a week.',
        'Come and sit in it first: ready to try in Wrenport, seven days a week.',
      ],
    },
    'title',
    { name: 'Live keyword', split: { ...noSplit(), by: 'live', labels: ['written', 'live'] } },
  ),
  patternOf(
    {
      headline1: ['@keyword'],
      headline2: ['From £18 an Hour'],
      headline3: ['@theme by the Hour', '@theme'],
      headline4: ['On the Water Today'],
      headline5: ['No Deposit at Saltmarsh'],
      description1: ['Book by phone or online and paddle within the hour, all year round.'],
      description2: ['Every boat comes with a paddle, a buoyancy aid and a dry bag.'],
      path1: ['hire'],
      path2: ['@place', 'eastmere'],
    },
    'title',
    {
      name: 'Hire, assembled',
      form: 'assembled',
      groups: { to: 'themes', themes: hire, groups: [], campaigns: [] },
    },
  ),
];

const site = 'https://saltmarshpaddle.example';
const demoExtras: ExtraBody[] = [
  {
    kind: 'sitelink',
    text: 'Hire by the hour',
    line1: 'Kayaks, canoes and boards',
    line2: 'In six towns of Eastmere',
    address: `${site}/hire`,
  },
  { kind: 'sitelink', text: 'Lessons', line1: '', line2: '', address: `${site}/lessons` },
  { kind: 'callout', text: 'Open all year' },
  { kind: 'callout', text: 'Try before you buy' },
];

const firstList = [
  'Keyword report, Saltmarsh Paddle Co.',
  'Keyword,Avg. monthly searches,Avg. CPC (GBP),Competition',
];
const secondList = [
  '[kayak hire wrenport]',
  '"canoe hire"',
  '+inflatable +kayak hire',
  'kayak',
  '[paddle board hire heronsea]',
  '"guided kayak tour"',
  '-jobs',
  '-"free plans"',
  '-[sup meaning]',
  '"kayak lessons',
  'sit + on top',
  'kayak, folding',
];

const facts: Facts = {
  ...noFacts(),
  market: 'stand-in',
  client: 'Saltmarsh Paddle Co.',
  timeZone: 'UTC',
  places: [
    ['Wrenport', 'wren port'],
    ['Tallowby Bay', 'Tallowby'],
    ['Marrowquay'],
    ['Pellanby'],
    ['Heronsea', 'heron sea'],
    ['Ottermere Weir', 'Ottermere'],
  ],
  offers: [
    { text: 'Free delivery in Eastmere', from: null, until: null },
    { text: 'A tenth off canoes in March', from: '2027-03-01', until: '2027-03-31' },
  ],
  brands: ['Otterline', 'Brackwater'],
  rivals: ['Fathom & Reed'],
  casing: ['SUP'],
  synonyms: [
    ['paddle board', 'sup', 'paddleboard'],
    ['hire', 'rental'],
  ],
  goal: 'sales',
  category: 'Sports goods',
  locations: [{ name: 'Eastmere', level: 'region' }],
  languages: ['English'],
};

const demoRecipe: Recipe = {
  ...emptyRecipe('Hire and lessons by town'),
  lists: [
    {
      id: 1,
      kind: 'own',
      name: 'Traits',
      text: [
        'inflatable',
        'sit on top',
        'two person',
        'touring',
        'fishing',
        'folding',
        'kids',
        'carbon',
      ].join('\n'),
      takes: [],
    },
    {
      id: 2,
      kind: 'own',
      name: 'Things',
      text: [
        'kayak | kayaks',
        'canoe | canoes',
        'paddle board | paddleboard',
        'sup',
        'dry bag',
        'roof rack',
      ].join('\n'),
      takes: [],
    },
    {
      id: 3,
      kind: 'own',
      name: 'Wants',
      text: ['hire', 'rental', 'lessons', 'guided tour', 'for sale'].join('\n'),
      takes: [],
    },
    { id: 4, kind: 'brief', fact: 'places' },
  ],
  patterns: [
    {
      id: 1,
      slots: [
        { kind: 'list', list: 1, optional: true },
        { kind: 'list', list: 2, optional: false },
        { kind: 'list', list: 3, optional: false },
        { kind: 'list', list: 4, optional: true },
      ],
      flip: false,
    },
    {
      id: 2,
      slots: [
        { kind: 'list', list: 2, optional: false },
        { kind: 'list', list: 3, optional: false },
        { kind: 'word', text: 'near me' },
      ],
      flip: false,
    },
  ],
  alone: [],
  never: [
    [
      { kind: 'word', text: 'dry bag' },
      { kind: 'word', text: 'lessons' },
    ],
    [
      { kind: 'word', text: 'dry bag' },
      { kind: 'word', text: 'guided tour' },
    ],
  ],
};

/** The demo plan of a made-up shop, if this workspace has no plan at all. The same every time. */
export async function seedDemo(caller: Caller): Promise<void> {
  const plans = await find(caller, 'plans', { columns: ['id'], limit: 1 });
  if (plans.length > 0) return;
  const plan = await makePlan(caller, {
    name: 'Saltmarsh Paddle Co.',
    currency: 'GBP',
    language: 'en',
    site: 'https://saltmarshpaddle.example',
  });
  const there = { ...caller, plan };
  const rows = demoPool().map(
    ({ text, searches, cpc, competition }) =>
      `${text},${searches},£${decimalFromMicros(cpc, 2)},${competition}%`,
  );
  await inChange(there, 'Take in the keyword report', (change) =>
    takeIn(
      change,
      [[...firstList, ...rows].join('\n')],
      {},
      { kind: 'file', name: 'keyword-report.csv', job: null },
    ),
  );
  await inChange(there, 'Take in the search notes', (change) =>
    takeIn(change, [secondList.join('\n')], {}, { kind: 'paste', name: 'Search notes', job: null }),
  );
  await inChange(there, 'Fill in the brief', (change) => change.update('facts', [1], { body: facts }));
  await makeRecipe(there, demoRecipe, null);
  const { ids } = await makeThemes(there, null, demoThemes, false);
  const quietly = { progress: async () => {}, phase: async () => {} };
  for (const [at, { idea }] of demoThemes.entries())
    if (!idea) await proposeWithin(there, { parent: ids[at] as number, instead: false }, quietly);
  await writeAds(
    there,
    demoThemes.flatMap(({ name }, at) => (name.endsWith('hire') ? [ids[at] as number] : [])),
    ids[1] as number,
  );
  await inChange(there, 'Lay the plan out', async (change) => {
    const [row] = await change.find('layouts', { columns: ['body'] });
    if (row) await change.update('layouts', [1], { body: { ...row.body, ...demoLayout } });
  });
  await holdSome(there, ids[0] as number);
}

const writeAds = (caller: Caller & { plan: number }, hire: number[], inflatable: number) =>
  inChange(caller, 'Write the ads', async (change) => {
    const [first, ...others] = demoAds(hire);
    await change.update('ad_patterns', [1], { body: first });
    for (const [at, body] of others.entries())
      await change.insert('ad_patterns', [{ id: change.takeIds(1), position: at + 1, body }]);
    const themes = [
      ...hire.map((of) => ({ theme: of, path: '/hire' })),
      { theme: inflatable, path: '/kayaks/inflatable' },
    ];
    await change.update('address_rules', [1], {
      body: { ...usualAddressRule(), path: '', themes, parameters: 'from=search' },
    });
    await change.insert(
      'extras',
      demoExtras.map((body) => ({ id: change.takeIds(1), at: ['plan'], body, outlets: null, status: null })),
    );
  });

/** A campaign for each kind of boat, themed ad groups, every search kept in its own. */
const demoLayout: Partial<Layout> = {
  campaignBy: 'theme',
  campaignName: '@theme',
  unplaced: 'out',
  themeName: { pattern: '@theme', style: 'sentence' },
  fences: 'exact',
};

/** A beginning of themes: the rest is unplaced, for suggestions to be taken. */
const theme = (
  name: string,
  within: number | null,
  terms: string[],
  more: Partial<NewTheme> = {},
): NewTheme => ({
  ...newThemeOf(name, { has: [terms], not: [] }, within),
  ...more,
});
const demoThemes: NewTheme[] = [
  theme('Kayaks', null, ['kayak']),
  theme('Inflatable kayaks', 0, ['inflatable']),
  theme('Kayak hire', 0, ['hire', 'rental'], { stage: 'ready' }),
  theme('Sit on top kayaks', 0, ['"sit on top"', 'sit-on-top']),
  theme('Two person kayaks', 0, ['"two person"', 'two-person']),
  theme('Fishing kayaks', 0, ['fishing']),
  theme('Kayak lessons', 0, ['lesson', '"guided tour"'], { idea: true }),
  theme('Canoes', null, ['canoe'], { colour: 5 }),
  theme('Canoe hire', 7, ['hire', 'rental'], { stage: 'ready' }),
];

/** Two values set by hand, so that a hold can be seen. */
async function holdSome(caller: Caller & { plan: number }, kayaks: number) {
  await inChange(caller, 'Set a bid', async (change) => {
    const [kayak] = await change.rows<{ id: number }>(
      `select id from keywords where plan_id = $1 and norm = 'kayak hire'`,
    );
    if (!kayak) return;
    const hold = (rowKey: string, name: string, value: unknown) => ({
      id: change.takeIds(1),
      row_key: rowKey,
      field: name,
      outlet: null,
      value,
      rule_value: null,
    });
    await change.insert('holds', [
      hold(`ct${kayaks}`, 'name', 'Kayaks (main)'),
      hold(`k${kayak.id}:e`, 'bid', 950_000),
    ]);
  });
}
