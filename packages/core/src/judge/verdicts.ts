import type { MatchType } from '../match/index.ts';
import { expectedCtr, type Seen } from './expected-ctr.ts';
import { believed } from './false-blame.ts';
import { binomialAtMost, poissonAtLeast } from './tails.ts';
import { wilson } from './wilson.ts';

/** In the order in which they are told; the first that holds is the row's. Codes that are kept. */
export const verdicts = [
  'broken-page',
  'never-pays',
  'not-sold',
  'not-clicked',
  'too-low',
  'pays',
  'fine',
  'too-early',
] as const;
export type Verdict = (typeof verdicts)[number];

/** What verdicts go by; shares as parts of one. */
export type VerdictLimits = {
  /** Never pays: cost over so many times the aim. */
  neverTimes: number;
  /** Clicks that a rate of conversions needs. */
  clicks: number;
  /** Not sold: under this part of the rate of its surroundings. */
  notSold: number;
  /** Seen up to this position; beyond it stands too low. */
  position: number;
  /** Impressions that a CTR or a position needs. */
  impressions: number;
  /** Not clicked: under this part of the CTR to expect. */
  notClicked: number;
  /** Too low where no position is told: more than this lost to rank. */
  lostRank: number;
  /** Pays: a conversion costs at most this part of the aim. */
  pays: number;
  /** How many of those blamed may be blamed wrongly. */
  falseBlame: number;
  /** A bid that was raised is not raised again before so many clicks have come since. */
  clicksBetween: number;
};
export const usualVerdictLimits: Readonly<VerdictLimits> = {
  neverTimes: 3,
  clicks: 100,
  notSold: 0.5,
  position: 3.5,
  impressions: 500,
  notClicked: 0.7,
  lostRank: 0.4,
  pays: 0.7,
  falseBlame: 0.1,
  clicksBetween: 30,
};

/** What is aimed at: what a conversion may cost, in millionths, and what the cost is to bring; null where nothing is. */
export type Aim = { cost: number | null; return: number | null };
/** One aim for all rows, or each its own. */
export type Aims = Aim | ((row: number) => Aim);

/**
 * What came of a keyword, an ad group or an ad. Amounts in millionths; conversions may be parts, or below 0. `settled`: on days
 * whose conversions are told; `since`: on those of them after the last conversion, null where there was none.
 */
export type JudgedRow = {
  impressions: number;
  clicks: number;
  cost: number;
  position: number | null;
  lostRank: number | null;
  settled: { clicks: number; cost: number; conversions: number; value: number };
  since: { clicks: number; cost: number } | null;
  type: MatchType | null;
  /** Names the client or its brand: such rows are clicked otherwise, and held against each other alone. */
  isBrand: boolean;
  network: string;
  group: string;
  theme: string;
  campaign: string;
  /** Its page did not answer when it was last looked at. */
  pageFails: boolean;
};

/** Rates that a verdict rests on: its own, and what it was held against. */
export type Evidence = {
  own: number | null;
  against: number | null;
  /** What it was held against: the surroundings' name, or its position. */
  by: 'page' | 'since' | 'aim' | 'group' | 'theme' | 'campaign' | 'position' | 'lost-rank' | 'none';
  /** How often chance alone would show as much; null where nothing was tested. */
  chance: number | null;
  /** Too early: how many more are needed until the first verdict can be told. */
  more: { of: 'clicks' | 'impressions'; count: number } | null;
};
/** `stake`: the money that is lost or could be had over the days that were looked at, in millionths; null where it can't be told. */
export type Judged = { verdict: Verdict; evidence: Evidence; stake: number | null };

/** The level of intervals; both ends are used one at a time. */
const INTERVAL = 0.9;

type Found = { evidence: Evidence; stake: number | null; chance: number | null };
type Test = (row: JudgedRow, at: number) => Found | null;

/**
 * One verdict for each row. Each verdict is first found for all rows that can have it, and of those found only as many are
 * told as keep false blame within its share. O(rows log rows).
 *
 * Sources: of the intervals `wilson`, of the share `believed`, of the CTR `expectedCtr`.
 */
export function judge(rows: readonly JudgedRow[], limits: VerdictLimits, aims: Aims): Judged[] {
  const aimAt = aimedCosts(rows, aims);
  const tellsConversions = rows.some(({ settled }) => settled.conversions > 0);
  const around = new Surroundings(rows);
  const ctr = ctrToExpect(rows);
  const notClickedAt = rows.map((row) => notClicked(row, limits, ctr));
  const tests: [Verdict, Test][] = [
    ['broken-page', (row) => brokenPage(row, limits)],
    ['never-pays', (row, at) => (tellsConversions ? neverPays(row, limits, aimAt(at)) : null)],
    [
      'not-sold',
      (row, at) =>
        tellsConversions && !isFound(notClickedAt[at]) ? notSold(row, limits, around.of(row, limits)) : null,
    ],
    ['not-clicked', (_, at) => notClickedAt[at] ?? null],
    ['too-low', (row) => tooLow(row, limits, ctr)],
    ['pays', (row, at) => pays(row, limits, aimAt(at))],
  ];
  const told: (Judged | null)[] = rows.map(() => null);
  for (const [verdict, test] of tests) {
    const found = rows.map((row, at) => test(row, at));
    const tested = found.flatMap((one, at) => (one && one.chance !== null ? [at] : []));
    const isBelieved = believed(
      tested.map((at) => found[at]?.chance ?? 1),
      limits.falseBlame,
    );
    const doubted = new Set(tested.filter((_, nth) => !isBelieved[nth]));
    found.forEach((one, at) => {
      if (!one || !isFound(one) || doubted.has(at) || told[at]) return;
      told[at] = { verdict, evidence: one.evidence, stake: one.stake };
    });
  }
  return rows.map((row, at) => told[at] ?? fineOrEarly(row, limits, tellsConversions));
}

/** Whether a test was passed. */
const isFound = (found: Found | null | undefined): boolean => !!found && found.chance !== NOT_FOUND;

const evidence = (part: Partial<Evidence>): Evidence => ({
  own: null,
  against: null,
  by: 'none',
  chance: null,
  more: null,
  ...part,
});

/** Tests that were made and not passed: they count among all, and so hold false blame down. */
const NOT_FOUND = 1;
const notFound: Found = { evidence: evidence({}), stake: null, chance: NOT_FOUND };

/** Whole conversions, as tests count them. */
const wholeOf = (row: JudgedRow): number =>
  Math.min(Math.max(0, Math.round(row.settled.conversions)), row.settled.clicks);

function brokenPage(row: JudgedRow, { clicks }: VerdictLimits): Found | null {
  if (row.pageFails) return { evidence: evidence({ by: 'page' }), stake: row.cost, chance: null };
  const { settled, since } = row;
  const sold = wholeOf(row);
  if (!since || sold < 3) return null;
  // A conversion that just came is a test that was not passed: left out, what is left would be blamed too often.
  if (since.clicks < clicks / 4) return notFound;
  const before = settled.clicks - since.clicks;
  if (before < sold) return null;
  // How often so many conversions, spread over all clicks by chance, would all lie among the first of them.
  let chance = 1;
  for (let nth = 0; nth < sold; nth++) chance *= (before - nth) / (settled.clicks - nth);
  return {
    evidence: evidence({ own: since.clicks, against: sold / before, by: 'since', chance }),
    stake: since.cost,
    chance,
  };
}

function neverPays({ settled }: JudgedRow, { neverTimes }: VerdictLimits, aim: number | null): Found | null {
  const { cost, conversions } = settled;
  if (aim === null || cost <= neverTimes * aim) return null;
  if (conversions > 0) return notFound;
  // Where conversions cost as much as aimed at, `cost / aim` of them would have come.
  const chance = Math.exp(-cost / aim);
  return { evidence: evidence({ own: cost, against: aim, by: 'aim', chance }), stake: cost, chance };
}

type Around = { by: 'group' | 'theme' | 'campaign'; clicks: number; conversions: number };

function notSold(row: JudgedRow, limits: VerdictLimits, around: Around | null): Found | null {
  const { settled } = row;
  if (settled.clicks < limits.clicks || !around || around.conversions <= 0) return null;
  const sold = wholeOf(row);
  const rate = around.conversions / around.clicks;
  const { high } = wilson(sold, settled.clicks, INTERVAL);
  if (high >= limits.notSold * rate) return notFound;
  // Of all conversions here and around, this row would have its part by clicks if it sold as well as the others.
  const part = settled.clicks / (settled.clicks + around.clicks);
  const chance = binomialAtMost(sold, sold + Math.round(around.conversions), part);
  const own = settled.conversions / settled.clicks;
  return {
    evidence: evidence({ own, against: rate, by: around.by, chance }),
    stake: settled.cost * (1 - Math.max(0, own) / rate),
    chance,
  };
}

function notClicked(row: JudgedRow, limits: VerdictLimits, ctr: CtrToExpect): Found | null {
  const { impressions, clicks, position } = row;
  if (position === null || position > limits.position || impressions < limits.impressions) return null;
  const expected = ctr.of(row);
  if (expected === null) return null;
  const shown = Math.min(clicks, impressions);
  if (wilson(shown, impressions, INTERVAL).high >= limits.notClicked * expected) return notFound;
  // If it were clicked as expected.
  const chance = binomialAtMost(shown, impressions, expected);
  const cpc = clicks > 0 ? row.cost / clicks : 0;
  return {
    evidence: evidence({ own: clicks / impressions, against: expected, by: 'position', chance }),
    stake: (impressions * expected - clicks) * cpc,
    chance,
  };
}

function tooLow(row: JudgedRow, limits: VerdictLimits, ctr: CtrToExpect): Found | null {
  const { impressions, clicks, position, lostRank, cost } = row;
  if (impressions < limits.impressions) return null;
  const cpc = clicks > 0 ? cost / clicks : 0;
  if (position !== null) {
    if (position <= limits.position) return null;
    const here = ctr.at(row, position);
    const there = ctr.at(row, limits.position);
    const stake = here !== null && there !== null ? impressions * Math.max(0, there - here) * cpc : null;
    return {
      evidence: evidence({ own: position, against: limits.position, by: 'position' }),
      stake,
      chance: null,
    };
  }
  if (lostRank === null || lostRank <= limits.lostRank) return null;
  const stake = lostRank < 1 ? cost * (lostRank / (1 - lostRank)) : null;
  return {
    evidence: evidence({ own: lostRank, against: limits.lostRank, by: 'lost-rank' }),
    stake,
    chance: null,
  };
}

function pays({ settled }: JudgedRow, limits: VerdictLimits, aim: number | null): Found | null {
  const { conversions, cost } = settled;
  if (aim === null || cost <= 0) return null;
  if (conversions <= 0) return notFound;
  const own = cost / conversions;
  if (own > limits.pays * aim) return notFound;
  // Where conversions cost just as much as aimed at, `cost / aim` of them would have come.
  const chance = poissonAtLeast(Math.floor(conversions), cost / aim);
  return {
    evidence: evidence({ own, against: aim, by: 'aim', chance }),
    stake: conversions * (aim - own),
    chance,
  };
}

/** What a conversion of each row may cost: as it is aimed at, else what one is worth on the average by the return that is. */
function aimedCosts(rows: readonly JudgedRow[], aims: Aims): (row: number) => number | null {
  let [value, conversions] = [0, 0];
  for (const { settled } of rows) {
    value += settled.value;
    conversions += settled.conversions;
  }
  const worth = value > 0 && conversions > 0 ? value / conversions : null;
  const costOf = ({ cost, return: back }: Aim): number | null => {
    if (cost !== null && cost > 0) return cost;
    return back === null || back <= 0 || worth === null ? null : worth / back;
  };
  if (typeof aims === 'function') return (row) => costOf(aims(row));
  const all = costOf(aims);
  return () => all;
}

/** Fine where anything could have been told; else too early, with what is missing until then. */
function fineOrEarly(row: JudgedRow, limits: VerdictLimits, tellsConversions: boolean): Judged {
  const clicks = Math.max(0, limits.clicks - row.settled.clicks);
  const impressions = Math.max(0, limits.impressions - row.impressions);
  if (impressions === 0 || (tellsConversions && clicks === 0))
    return { verdict: 'fine', evidence: evidence({}), stake: null };
  const more =
    tellsConversions && clicks * row.impressions < impressions * Math.max(1, row.clicks)
      ? ({ of: 'clicks', count: clicks } as const)
      : ({ of: 'impressions', count: impressions } as const);
  return { verdict: 'too-early', evidence: evidence({ more }), stake: null };
}

/** Sums of clicks and conversions by ad group, theme and campaign, each row left out of its own. */
class Surroundings {
  private readonly sums = new Map<string, { clicks: number; conversions: number }>();

  constructor(rows: readonly JudgedRow[]) {
    for (const row of rows)
      for (const [, key] of this.keysOf(row)) {
        const sum = this.sums.get(key) ?? { clicks: 0, conversions: 0 };
        sum.clicks += row.settled.clicks;
        sum.conversions += row.settled.conversions;
        this.sums.set(key, sum);
      }
  }

  /** The nearest with clicks enough; null where none has. */
  of(row: JudgedRow, { clicks: least }: VerdictLimits): Around | null {
    for (const [by, key] of this.keysOf(row)) {
      const sum = this.sums.get(key) ?? { clicks: 0, conversions: 0 };
      const clicks = sum.clicks - row.settled.clicks;
      if (clicks >= least) return { by, clicks, conversions: sum.conversions - row.settled.conversions };
    }
    return null;
  }

  private keysOf({ group, theme, campaign }: JudgedRow): [Around['by'], string][] {
    return [
      ['group', `g${group}`],
      ...(theme === '' ? [] : [['theme', `t${theme}`] as [Around['by'], string]]),
      ['campaign', `c${campaign}`],
    ];
  }
}

/** By network, brand and others apart; null where nothing can be expected. */
type CtrToExpect = {
  of: (row: JudgedRow) => number | null;
  /** Of any such row at a position. */
  at: (row: JudgedRow, position: number) => number | null;
};

function ctrToExpect(rows: readonly JudgedRow[]): CtrToExpect {
  const seenOf = ({ type, position, impressions, clicks }: JudgedRow): Seen => ({
    type,
    position: position ?? 0,
    impressions,
    clicks,
  });
  const partOf = ({ network, isBrand }: JudgedRow) => `${isBrand} ${network}`;
  const parts = new Map<string, Seen[]>();
  for (const row of rows) {
    if (row.position === null) continue;
    const there = parts.get(partOf(row));
    if (there) there.push(seenOf(row));
    else parts.set(partOf(row), [seenOf(row)]);
  }
  const models = new Map([...parts].map(([part, own]) => [part, expectedCtr(own)]));
  const asShare = (ctr: number | undefined) => (ctr === undefined ? null : Math.min(1, ctr));
  return {
    of: (row) => (row.position === null ? null : asShare(models.get(partOf(row))?.of(seenOf(row)))),
    at: (row, position) => asShare(models.get(partOf(row))?.at(row.type, position)),
  };
}
