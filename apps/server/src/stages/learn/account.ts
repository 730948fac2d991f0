import { accountCode, type Days, type Look, type NoLook, type ReportAccount } from '@sprig/contracts';
import {
  asDay,
  type Dimension,
  daysOf,
  type GrainFound,
  type GrainOnHand,
  grainCode,
  grainFor,
  isoDay,
  LATE_DAYS,
  readIsoDay,
  type Time,
} from '@sprig/core/learn';
import type { PlanCaller } from '../../platform/caller.ts';
import { KeptFew } from '../../platform/kept-few.ts';
import { importsOf, ofSeries, onHandOf, type StoredImport } from './imports-of-plan.ts';
import { readSeries, type Series } from './series.ts';

/** What stands of a series: opening Learn reads it once. */
const seriesKept = new KeptFew<Series>(2);

export const forgetSeries = (): void => seriesKept.clear();

type OnHand = GrainOnHand & { series: string };

/** All that looks at one account hang on. */
export class Account {
  readonly onHand: OnHand[];
  readonly told: Time;

  constructor(
    readonly caller: PlanCaller,
    readonly account: ReportAccount,
    readonly imports: readonly StoredImport[],
  ) {
    const all = [...new Set(imports.map(({ body }) => body.series))];
    this.onHand = all.flatMap((series) => {
      const onHand = onHandOf(ofSeries(imports, series));
      return onHand ? [{ ...onHand, series }] : [];
    });
    this.told = spanOf(imports);
  }

  /** Changes when what stands may have changed. */
  get stamp(): string {
    return `${this.caller.workspace}/${this.caller.plan}/${this.imports.map(({ id, body }) => `${id}:${body.reading}`).join()}`;
  }

  /** The last day of a range whose conversions count. */
  settledIn({ to }: Pick<Time, 'to'>): Time['to'] {
    return asDay(Math.min(to, this.told.to - LATE_DAYS));
  }

  /** The series of a grain that was found. */
  async series({ grain }: GrainFound): Promise<Series> {
    const code = grainCode(grain);
    const { series } = this.onHand.find((one) => grainCode(one.grain) === code) as OnHand;
    const own = ofSeries(this.imports, series);
    const stamp = `${this.stamp}/${series}`;
    return seriesKept.of(stamp, () => readSeries(this.caller, series, own));
  }
}

function spanOf(imports: readonly StoredImport[]): Time {
  let [from, to] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { body } of imports)
    for (const [first, last] of body.times) {
      from = Math.min(from, first);
      to = Math.max(to, last);
    }
  return { from: asDay(from), to: asDay(to) };
}

/** The account that a look names, or the one that was told of last; null where none is. */
export async function accountFor(caller: PlanCaller, code: string | null): Promise<Account | null> {
  const byAccount = await importsByAccount(caller);
  const last = [...byAccount.values()].reduce<StoredImport[]>(
    (best, own) => (best.length === 0 || spanOf(own).to >= spanOf(best).to ? own : best),
    [],
  );
  const own = code === null ? last : (byAccount.get(code) ?? []);
  const [first] = own;
  return first ? new Account(caller, first.account, own) : null;
}

/** All accounts that any report told of. */
export async function accountsOf(caller: PlanCaller): Promise<Account[]> {
  return [...(await importsByAccount(caller)).values()].flatMap((own) =>
    own[0] ? [new Account(caller, own[0].account, own)] : [],
  );
}

async function importsByAccount(caller: PlanCaller): Promise<Map<string, StoredImport[]>> {
  const byAccount = new Map<string, StoredImport[]>();
  for (const one of await importsOf(caller)) {
    const own = accountCode(one.account);
    const there = byAccount.get(own);
    if (there) there.push(one);
    else byAccount.set(own, [one]);
  }
  return byAccount;
}

export const timeOf = ({ from, to }: Days): Time => ({ from: readIsoDay(from), to: readIsoDay(to) });
export const daysIn = ({ from, to }: Time): Days => ({ from: isoDay(from), to: isoDay(to) });
const USUAL_DAYS = 28;

/** Ranges in the order in which they are tried: that which is asked, else the last four weeks, else all that is told. */
export function rangesOf({ range }: Pick<Look, 'range'>, told: Time): Time[] {
  if (range) return [timeOf(range)];
  return [{ from: asDay(Math.max(told.from, told.to - USUAL_DAYS + 1)), to: told.to }, told];
}

/** What a range is held against: as many days before it, other days, or nothing. */
export function againstOf({ against }: Pick<Look, 'against'>, range: Time): Time | null {
  if (against === 'none') return null;
  if (against !== 'before') return timeOf(against);
  return { from: asDay(range.from - daysOf(range)), to: asDay(range.from - 1) };
}

type Found = { range: Time; found: GrainFound | null; why: NoLook | null };

/** What is said of the days that were looked at, whatever they tell. */
export const aboutLook = ({ account }: Account, { range, found, why }: Found) => ({
  account,
  range: daysIn(range),
  grain: found ? grainCode(found.grain) : null,
  why,
});

/** The first of the ranges that any grain answers, and by which. */
export function findGrain(
  onHand: readonly GrainOnHand[],
  dimensions: ReadonlySet<Dimension>,
  byDay: boolean,
  ranges: readonly Time[],
): Found {
  let first: { range: Time; found: null; why: NoLook } | null = null;
  for (const range of ranges) {
    const found = grainFor({ dimensions, byDay, range }, onHand);
    if (!('none' in found)) return { range, found, why: null };
    first ??= { range, found: null, why: found };
  }
  return first as NonNullable<typeof first>;
}
