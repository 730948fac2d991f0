import { type Time, timeKey } from './day.ts';
import { type ToldFigures, toldFigures } from './told-figures.ts';

/** One row of a report: what it is of, when, and what it tells. */
export type ReportFact = {
  time: Time;
  /** The campaign by its name; empty where the report is of the account as a whole. */
  campaign: string;
  /** All else by which the row is told apart within its grain, as one text. */
  place: string;
  told: ToldFigures;
};

/** What an import speaks for: in its account and grain it takes the place of whatever was told of it before. */
export type Claim = {
  account: string;
  /** By its code. */
  grain: string;
  /** Keys of the days, weeks or ranges that it names. */
  times: ReadonlySet<string>;
  /** null: it is the whole account, and speaks for campaigns that it does not name as well. */
  campaigns: ReadonlySet<string> | null;
};

export type ReportImport = { claim: Claim; facts: readonly ReportFact[] };

/**
 * What a report speaks for: the times that its rows name and those it says it is of (a day without a row had nothing), and
 * the campaigns that it names.
 * @param isWhole it is said to be the whole account
 */
export function claimOf(
  of: Pick<Claim, 'account' | 'grain'>,
  facts: readonly ReportFact[],
  said: readonly Time[] = [],
  isWhole = false,
): Claim {
  return {
    ...of,
    times: new Set([...said, ...facts.map(({ time }) => time)].map(timeKey)),
    campaigns: isWhole ? null : new Set(facts.map(({ campaign }) => campaign)),
  };
}

/** Whether an import takes the place of a row that was told before in its account and grain. */
export const claims = (claim: Claim, { time, campaign }: Pick<ReportFact, 'time' | 'campaign'>): boolean =>
  claim.times.has(timeKey(time)) && (claim.campaigns === null || claim.campaigns.has(campaign));

const isOfOne = (a: Claim, b: Claim) => a.account === b.account && a.grain === b.grain;

/**
 * What stands after these imports, one after another: of each account, grain, time and campaign the rows of the last import
 * that speaks for it, and of no other. To take an import back is to leave it out. O(imports² × rows).
 */
export function standing(imports: readonly ReportImport[]): ReportImport[] {
  return imports.map(({ claim, facts }, at) => {
    const later = imports.slice(at + 1).filter((other) => isOfOne(other.claim, claim));
    return { claim, facts: facts.filter((fact) => !later.some((other) => claims(other.claim, fact))) };
  });
}

/** What an import would do to what stands: shown before it goes in. */
export type Replacing = {
  /** Rows that it takes the place of, and the times and campaigns they are of. */
  rows: number;
  times: number;
  campaigns: number;
  /** Rows that nothing was told of before; rows that are told no more; figures that are told otherwise. */
  added: number;
  gone: number;
  changed: number;
  /** It changes nothing: all was told so already. */
  isSame: boolean;
};

export function replacing(stand: readonly ReportImport[], next: ReportImport): Replacing {
  const hit = stand
    .filter(({ claim }) => isOfOne(claim, next.claim))
    .flatMap(({ facts }) => facts.filter((fact) => claims(next.claim, fact)));
  const before = new Map(hit.map((fact) => [factKey(fact), fact.told]));
  let changed = 0;
  let added = 0;
  for (const fact of next.facts) {
    const told = before.get(factKey(fact));
    before.delete(factKey(fact));
    if (!told) added++;
    else for (const name of toldFigures) if (told[name] !== fact.told[name]) changed++;
  }
  return {
    rows: hit.length,
    times: new Set(hit.map(({ time }) => timeKey(time))).size,
    campaigns: new Set(hit.map(({ campaign }) => campaign)).size,
    added,
    gone: before.size,
    changed,
    isSame: added + changed + before.size === 0,
  };
}

/** What one row is of, in its account and grain. */
const factKey = ({ time, campaign, place }: ReportFact): string =>
  JSON.stringify([timeKey(time), campaign, place]);
