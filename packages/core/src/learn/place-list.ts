import type { MatchType } from '../match/index.ts';
import { dimensions } from './grain.ts';
import { PlaceKeys, type ReportNames } from './place-keys.ts';
import type { Met, NotMet } from './plan-names.ts';

const named = [...dimensions, 'match'] as const;
type Named = (typeof named)[number];

/**
 * Places in a row, by columns, as they are kept: what the first of them has as its number, their names, and what of the plan
 * they are. A column that none of them has is left out. Later parts say anew what is known of a place since.
 */
export type PlacePart = {
  numbers: number[];
  names: Partial<Record<Named, (string | null)[]>>;
  met: { group: (string | null)[]; row: (string | null)[]; ad: (string | null)[]; not: (NotMet | null)[] };
};

/** All that rows of one account and grain are of, each with a number that it keeps. */
export class PlaceList {
  private readonly keys = new PlaceKeys();
  /** By their keys; made when a number is first asked for, since looks ask for none. */
  private numberOf: Map<string, number> | null = null;
  private readonly campaignOf = new Map<string, number>();
  private readonly fresh = new Set<number>();
  readonly names: ReportNames[] = [];
  readonly met: Met[] = [];
  /** Of each place, which of the campaigns it is in. */
  readonly campaign: number[] = [];

  get size(): number {
    return this.names.length;
  }

  /** Campaigns by their names, whatever their case, in the order in which they came. */
  get campaigns(): string[] {
    return [...this.campaignOf.keys()];
  }

  /** Campaigns as they were first written, by their numbers; those that no row is of are left out. */
  campaignsAsWritten(): string[] {
    const written: string[] = [];
    this.campaign.forEach((at, place) => {
      written[at] ??= this.names[place]?.campaign ?? '';
    });
    return written;
  }

  /** The number of a campaign; one that no row is of yet gets one. */
  campaignNumber(name: string): number {
    const there = this.campaignOf.get(name);
    if (there !== undefined) return there;
    this.campaignOf.set(name, this.campaignOf.size);
    return this.campaignOf.size - 1;
  }

  /**
   * The number of a place, which gets one where it is new; `meet` is asked where it is new, or was not met before.
   * @param key its key, where it is known
   */
  numberFor(
    names: ReportNames,
    meet: (names: ReportNames) => Met,
    key: string = this.keys.whole(names),
  ): number {
    this.numberOf ??= new Map(this.names.map((own, at) => [this.keys.whole(own), at]));
    const there = this.numberOf.get(key);
    if (there === undefined) {
      const number = this.put(names, meet(names));
      this.numberOf.set(key, number);
      this.fresh.add(number);
      return number;
    }
    if (this.met[there]?.not && !this.fresh.has(there)) {
      this.met[there] = meet(names);
      this.fresh.add(there);
    }
    return there;
  }

  private put(names: ReportNames, met: Met): number {
    const number = this.names.length;
    this.names.push(names);
    this.met.push(met);
    this.campaign.push(this.campaignNumber(this.keys.campaign(names)));
    return number;
  }

  /** Takes up what was kept. Parts are to come in the order in which they were made. */
  load({ numbers, names, met }: PlacePart): void {
    for (const [at, number] of numbers.entries()) {
      const own: ReportNames = {};
      for (const one of dimensions) {
        const name = names[one]?.[at];
        if (name !== undefined && name !== null) own[one] = name;
      }
      const match = names.match?.[at];
      if (match !== undefined) own.match = match as MatchType | null;
      const found: Met = {
        group: met.group[at] ?? null,
        row: met.row[at] ?? null,
        ad: met.ad[at] ?? null,
        not: met.not[at] ?? null,
      };
      if (number < this.names.length) this.met[number] = found;
      else this.put(own, found);
    }
  }

  /** What is new, or known anew, since the list was loaded or this was last asked; null where nothing is. */
  part(): PlacePart | null {
    if (this.fresh.size === 0) return null;
    const numbers = [...this.fresh].sort((a, b) => a - b);
    this.fresh.clear();
    const names: PlacePart['names'] = {};
    for (const one of named) {
      const column = numbers.map((number) => this.names[number]?.[one] ?? null);
      if (column.some((name) => name !== null)) names[one] = column;
    }
    const metBy = <K extends keyof Met>(key: K) => numbers.map((number) => (this.met[number] as Met)[key]);
    return {
      numbers,
      names,
      met: { group: metBy('group'), row: metBy('row'), ad: metBy('ad'), not: metBy('not') },
    };
  }
}
