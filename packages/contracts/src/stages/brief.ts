import { assumptionLimits, MONTHS, usualAssumptions } from '@sprig/core/figures';
import { MOST_LOOKS, usualAdTestRules, usualBidRules, usualVerdictLimits } from '@sprig/core/judge';
import { z } from 'zod';
import { fieldEdits, micros, nothing, planParams, revisionAnswer, text } from '../common.ts';
import { endpoint } from '../endpoint.ts';

const lines = (most: number, length = 200) => z.array(text(length)).max(most);
const day = z
  .string()
  .regex(/^\d{4}-\d\d-\d\d$/, 'Not a day. Write it like 2027-03-31.')
  .refine((value) => !Number.isNaN(Date.parse(value)), 'There is no such day.')
  .nullable();

export const goals = ['none', 'sales', 'leads', 'visits', 'calls', 'awareness'] as const;
export const deliveries = ['even', 'fast'] as const;
export const strategies = [
  'by-hand',
  'most-clicks',
  'most-conversions',
  'target-cost',
  'target-return',
] as const;
export const presences = ['in', 'interested', 'either'] as const;
/** Which of an ad group's ads are shown more often. */
export const rotations = ['best', 'even'] as const;
export const weekdays = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
export const locationLevels = ['country', 'region', 'town', 'postal'] as const;

const location = z.strictObject({ name: text(200), level: z.enum(locationLevels) });
const minutes = z.number().int().min(0).max(1_440);
/** -90% to +900%, in basis points. */
const adjustment = z.number().int().min(-9_000).max(90_000);

const assumed = (name: keyof typeof assumptionLimits) =>
  z
    .number()
    .int()
    .min(assumptionLimits[name][0])
    .max(assumptionLimits[name][1])
    .default(usualAssumptions[name]);

const byPosition = (most: number) => z.array(z.number().positive().max(most)).min(1).max(8).nullable();
const measuredDay = z.iso.date();
/** What a position brings and costs as it was measured in an account; CTR as parts of one, prices in CPCs. */
export const measuredSchema = z.strictObject({
  ctr: byPosition(1),
  price: byPosition(1_000),
  account: text(200),
  from: measuredDay,
  to: measuredDay,
});

/** What forecasts take for granted; percentages in basis points. */
export const assumptionsSchema = z.strictObject({
  priceAt: assumed('priceAt'),
  step: assumed('step'),
  stepAtNone: assumed('stepAtNone'),
  stepAtMost: assumed('stepAtMost'),
  ctr: assumed('ctr'),
  ctrFall: assumed('ctrFall'),
  lastPosition: assumed('lastPosition'),
  share: assumed('share'),
  shareFall: assumed('shareFall'),
  reach: assumed('reach'),
  season: z
    .strictObject({
      month: z.number().int().min(1).max(MONTHS),
      parts: z
        .array(
          z
            .number()
            .int()
            .min(0)
            .max(10_000 * MONTHS),
        )
        .length(MONTHS),
      keywords: z.number().int().min(1),
    })
    .nullable()
    .default(null),
  measured: measuredSchema.nullable().default(null),
});

/** Who is asked for figures that nobody told: nobody, or the stand-in market, which makes them up. */
export const markets = ['none', 'stand-in'] as const;

/** Whose told figures estimates are learned from: the plan's own, or those of like plans of the workspace too. */
export const teachers = ['own', 'workspace'] as const;

const limit = (least: number, most: number, usual: number) => z.number().min(least).max(most).default(usual);

/** What verdicts on results go by; shares as parts of one. */
export const verdictLimitsSchema = z.strictObject({
  neverTimes: limit(1, 100, usualVerdictLimits.neverTimes),
  clicks: limit(10, 100_000, usualVerdictLimits.clicks),
  notSold: limit(0.05, 1, usualVerdictLimits.notSold),
  position: limit(1, 50, usualVerdictLimits.position),
  impressions: limit(10, 1_000_000, usualVerdictLimits.impressions),
  notClicked: limit(0.05, 1, usualVerdictLimits.notClicked),
  lostRank: limit(0.01, 1, usualVerdictLimits.lostRank),
  pays: limit(0.05, 1, usualVerdictLimits.pays),
  falseBlame: limit(0.001, 0.5, usualVerdictLimits.falseBlame),
  clicksBetween: limit(0, 100_000, usualVerdictLimits.clicksBetween),
});

/** How bids follow from results; bands begin at a position, and change bids by percent. */
export const bidRulesSchema = z.strictObject({
  bands: z
    .array(
      z.strictObject({
        from: z.number().min(1, 'The first position is 1.').max(100),
        by: z.number().int().min(-90, 'A bid comes down by at most 90%.').max(900, 'At most 900%.'),
      }),
    )
    .max(10),
  clicks: limit(1, 100_000, usualBidRules.clicks),
  most: limit(1, 900, usualBidRules.most),
  conversions: limit(1, 100_000, usualBidRules.conversions),
});

/** How ads are told apart; the difference as a part of one. */
export const adTestRulesSchema = z.strictObject({
  by: z.enum(['clicks', 'conversions']).default(usualAdTestRules.by),
  looks: limit(1, MOST_LOOKS, usualAdTestRules.looks),
  difference: limit(0.01, 5, usualAdTestRules.difference),
  clicks: limit(1, 100_000, usualAdTestRules.clicks),
});

/** The plan's facts; everything is optional and has a default that fits most plans. */
export const factsSchema = z.strictObject({
  client: text(200).default(''),
  timeZone: text(80)
    .refine(isTimeZone, 'Not a time zone we know. Write it like Europe/London or UTC.')
    .default('UTC'),
  /** First the name, then its aliases. */
  places: z.array(lines(20)).max(5_000).default([]),
  offers: z
    .array(z.strictObject({ text: text(200), from: day, until: day }))
    .max(500)
    .default([]),
  brands: lines(5_000).default([]),
  rivals: lines(5_000).default([]),
  casing: lines(5_000).default([]),
  /** null: the language's own. */
  functionWords: lines(500, 40).nullable().default(null),
  /** Words that stand for each other, two or more to a line. */
  synonyms: z.array(lines(20)).max(5_000).default([]),
  goal: z.enum(goals).default('none'),
  category: text(120).default(''),
  adults: z.boolean().default(false),
  networks: z
    .strictObject({ search: z.boolean(), partners: z.boolean(), display: z.boolean() })
    .default({ search: true, partners: false, display: false }),
  locations: z.array(location).max(10_000).default([]),
  locationsOut: z.array(location).max(10_000).default([]),
  presence: z.enum(presences).default('in'),
  languages: lines(100, 60).default([]),
  schedule: z
    .array(z.strictObject({ days: z.array(z.enum(weekdays)).min(1), from: minutes, to: minutes }))
    .max(100)
    .default([]),
  devices: z
    .strictObject({ desktop: adjustment, phone: adjustment, tablet: adjustment })
    .default({ desktop: 0, phone: 0, tablet: 0 }),
  delivery: z.enum(deliveries).default('even'),
  strategy: z.enum(strategies).default('by-hand'),
  /** What a conversion may cost, in micros. */
  targetCost: micros
    .refine((amount) => amount > 0, 'Nothing can’t be aimed at. Leave it empty for no aim.')
    .nullable()
    .default(null),
  /** What the cost is to bring, in basis points: 40,000 is four times. */
  targetReturn: z.number().int().min(1).max(100_000_000).nullable().default(null),
  /** Which conversions are counted, by their names; none: all. */
  conversions: lines(50, 100).default([]),
  starts: day.default(null),
  ends: day.default(null),
  rotation: z.enum(rotations).default('best'),
  /** Sites of partner networks on which nothing is to show. */
  sitesOut: lines(2_000).default([]),
  verdicts: verdictLimitsSchema.default(usualVerdictLimits),
  bids: bidRulesSchema.default({ ...usualBidRules, bands: [...usualBidRules.bands] }),
  adTests: adTestRulesSchema.default(usualAdTestRules),
  market: z.enum(markets).default('none'),
  learnFrom: z.enum(teachers).default('own'),
  assumptions: assumptionsSchema.default(usualAssumptions),
});
export type Facts = z.infer<typeof factsSchema>;

type Reach = Pick<z.infer<typeof factsSchema>, 'starts' | 'ends' | 'schedule' | 'networks'>;

/** What a campaign is set to as it must hold together, in the brief or under a name; each problem names its place. */
export const soundReach = <T extends Reach>(schema: z.ZodType<T>) =>
  schema
    .refine(({ starts, ends }) => starts === null || ends === null || starts <= ends, {
      message: 'The end lies before the start.',
      path: ['ends'],
    })
    .refine(({ schedule }) => schedule.every(({ from, to }) => from < to), {
      message: 'A time of day ends before it begins. Write a night as two times: until 24:00, and from 0:00.',
      path: ['schedule'],
    })
    .refine(({ networks }) => networks.search || networks.partners || networks.display, {
      message: 'At least one network is needed.',
      path: ['networks'],
    });

/** Facts as they must hold together. */
export const soundFacts = soundReach(factsSchema)
  .refine(({ bids }) => new Set(bids.bands.map(({ from }) => from)).size === bids.bands.length, {
    message: 'Two bands begin at the same position.',
    path: ['bids', 'bands'],
  })
  .refine(({ offers }) => offers.every(({ from, until }) => !from || !until || from <= until), {
    message: 'An offer ends before it begins.',
    path: ['offers'],
  });

function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

/** The facts of a plan that has none yet. */
export const noFacts = (): Facts => factsSchema.parse({});

/** Kept facts with defaults for what a newer version has added. */
export const factsOf = (body: unknown): Facts => {
  const read = factsSchema.safeParse(body);
  return read.success ? read.data : noFacts();
};

/**
 * The words that always take one written form: places, brands and the client's name by themselves, and the list's
 * own, which go before; a place's name before its aliases. The last one counts.
 */
export const casingList = ({ casing, places, brands, client }: Facts): string[] =>
  [...places.flatMap((names) => names.toReversed()), ...brands, client, ...casing].filter(
    (form) => form.trim() !== '',
  );

/** The day that it is somewhere, `2027-03-31`: a plan's days are those of its time zone. */
export const dayIn = (timeZone: string, at: Date): string =>
  new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(
    at,
  );

/** The first offer that holds on a day, `2027-03-31`; empty where none does. */
export const offerOn = ({ offers }: Facts, day: string): string =>
  offers.find(({ from, until }) => (from ?? day) <= day && day <= (until ?? day))?.text ?? '';

export const readFacts = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/facts',
  access: 'read',
  reads: ['plan'],
  params: planParams,
  query: nothing,
  body: nothing,
  answer: z.object({ facts: factsSchema }),
});

export const editFacts = endpoint({
  method: 'PATCH',
  path: '/api/plans/:plan/facts',
  access: 'build',
  changes: ['plan'],
  params: planParams,
  query: nothing,
  body: fieldEdits,
  answer: revisionAnswer,
});
