import { type Facts, type NewTheme, newThemeOf, noFacts } from '@sprig/contracts';
import { emptyRecipe, type Recipe } from '@sprig/core/mix';
import { decimalFromMicros } from '@sprig/core/money';
import type { AdPattern } from '@sprig/core/write';
import { demoPool } from '@sprig/market';
import type { Caller } from './caller.ts';
import { inChange } from './change/index.ts';
import { select } from './database/connect.ts';
import { takeIn } from './stages/gather/index.ts';
import { makeRecipe } from './stages/mix/index.ts';
import { makePlan } from './stages/plans/index.ts';
import { makeThemes } from './stages/sort/index.ts';

const field = (style: 'title' | 'sentence' | 'lower', ...lines: string[]) => ({ lines, style });

const pattern: AdPattern = {
  name: 'Plain ad',
  fields: {
    headline1: field('title', '@keyword in Eastmere', '@keyword'),
    headline2: field('title', 'Saltmarsh Paddle Co.'),
    headline3: field('title', 'Free delivery in Eastmere'),
    description1: field(
      'sentence',
      'Looking for @keyword? Try it on the water first, then decide.',
      'Try it on the water first, then decide. Open all year.',
    ),
    description2: field('sentence', 'Fitted by people who paddle. Hire by the hour, the day or the week.'),
    path1: field('lower', '@keyword', 'paddle'),
    path2: field('lower', 'eastmere'),
  },
  finalUrl: '@site/find/@keyword',
};

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
  const plans = await select(caller.database, 'select 1 from plans where workspace_id = $1 limit 1', [
    caller.workspace,
  ]);
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
  await inChange(there, 'Write the first ad', (change) =>
    change.update('ad_patterns', [1], { body: pattern }),
  );
  await holdSome(there);
  await makeRecipe(there, demoRecipe, null);
  await makeThemes(there, null, demoThemes, false);
}

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
async function holdSome(caller: Caller & { plan: number }) {
  await inChange(caller, 'Set a bid', async (change) => {
    const [kayak] = await change.rows<{ id: number; cpc: number }>(
      `select id, cpc from keywords where plan_id = $1 and norm = 'kayak hire'`,
    );
    if (!kayak) return;
    const hold = (rowKey: string, name: string, value: unknown, rule: unknown) => ({
      id: change.takeIds(1),
      row_key: rowKey,
      field: name,
      outlet: null,
      value,
      rule_value: rule,
    });
    await change.insert('holds', [
      hold(`k${kayak.id}`, 'name', 'Kayak hire (main)', 'kayak hire'),
      hold(`k${kayak.id}`, 'bid', 950_000, kayak.cpc),
    ]);
  });
}
