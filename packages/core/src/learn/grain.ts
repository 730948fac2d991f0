/** What a row of a report is of. Codes that are stored: another order is nothing to them. */
export const levels = ['account', 'campaign', 'group', 'keyword', 'term', 'ad', 'extra'] as const;
export type Level = (typeof levels)[number];

/** What a row may be split by beside. A report of terms that names the keyword which answered is split by it. */
export const splits = ['keyword', 'ad', 'device', 'network', 'place', 'hour', 'page'] as const;
export type Split = (typeof splits)[number];

export const timeSteps = ['day', 'week', 'range'] as const;
export type TimeStep = (typeof timeSteps)[number];

/**
 * How finely a report tells what happened: of what its rows are, what they are split by, and what time each is of. Rows of
 * one grain of one account may be added; those of two never, since they tell the same clicks twice.
 */
export type Grain = { level: Level; splits: readonly Split[]; step: TimeStep };

/** What rows may be grouped or kept by. */
export const dimensions = [
  'campaign',
  'group',
  'keyword',
  'term',
  'ad',
  'extra',
  'device',
  'network',
  'place',
  'hour',
  'page',
] as const;
export type Dimension = (typeof dimensions)[number];

/** Whether a column's role is what rows are of or split by. */
export const isDimension = (role: string): role is Dimension =>
  (dimensions as readonly string[]).includes(role);

const NAMED: Readonly<Record<Level, readonly Dimension[]>> = {
  account: [],
  campaign: ['campaign'],
  group: ['campaign', 'group'],
  keyword: ['campaign', 'group', 'keyword'],
  term: ['campaign', 'group', 'term'],
  ad: ['campaign', 'group', 'ad'],
  extra: ['campaign', 'group', 'extra'],
};

/** What each row of a grain tells. */
export const dimensionsOf = ({ level, splits: by }: Grain): ReadonlySet<Dimension> =>
  new Set([...NAMED[level], ...by]);

const FINEST: readonly Exclude<Level, 'account'>[] = ['extra', 'term', 'ad', 'keyword', 'group', 'campaign'];

/** The grain of rows that tell all of this, each once whatever its order. */
export function grainOf(told: ReadonlySet<Dimension>, step: TimeStep): Grain {
  const level = FINEST.find((one) => told.has(one)) ?? 'account';
  const named: readonly string[] = NAMED[level];
  return { level, splits: splits.filter((split) => told.has(split) && !named.includes(split)), step };
}

/** `term+keyword+device/day`: as it is stored. */
export const grainCode = ({ level, splits: by, step }: Grain): string =>
  `${[level, ...splits.filter((split) => by.includes(split))].join('+')}/${step}`;

/** The grain of a stored code; undefined where it is none. */
export function readGrain(code: string): Grain | undefined {
  const [of = '', step] = code.split('/');
  const [level, ...by] = of.split('+');
  const [knownLevel, knownStep] = [
    levels.find((one) => one === level),
    timeSteps.find((one) => one === step),
  ];
  if (!knownLevel || !knownStep) return undefined;
  const grain = { level: knownLevel, splits: splits.filter((split) => by.includes(split)), step: knownStep };
  return grainCode(grain) === code ? grain : undefined;
}
