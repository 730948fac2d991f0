import {
  adRules,
  casingList,
  type Facts,
  type GroupHeads,
  type HeldValue,
  writingOf,
} from '@sprig/contracts';
import {
  branchOf,
  HeldAds,
  type NumberedPattern,
  scopeOf,
  type TokenGroup,
  tokensOf,
  unfilledOfAd,
} from '@sprig/core/ads';
import { groupOfAd, patternOfAd } from '@sprig/core/build';
import { adRulesFor, type MeasuredOutlet, membersOf, takersOf } from '@sprig/core/outlets';
import { type PlanAdRules, planAds, type SaidTheme, saidGroup } from '@sprig/core/plan';
import { english, type TokenValues } from '@sprig/core/text';
import {
  type AddressRule,
  type AdField,
  type AdPattern,
  addressMaker,
  type Cure,
  compilePattern,
  countFits,
  curesOf,
  type FitCounts,
  fitField,
  groupValues,
  limitsOf,
  type TextRules,
  versionsOf,
} from '@sprig/core/write';

/** What ads are written from. */
export type WriteInput = {
  plan: number;
  builtRevision: number;
  patterns: NumberedPattern[];
  address: AddressRule;
  holds: HeldValue[];
  language: string;
  site: string;
  facts: Facts;
  /** For `@offer` and `@year`. */
  today: string;
  outlet: MeasuredOutlet;
};

/** A group as Write goes through them. */
export type WriteGroup = TokenGroup & {
  searches: number | null;
  campaign: string;
  misfit: boolean;
  short: boolean;
};

export type PatternFit = { id: number; groups: number; ads: number; misfits: number };
export type WriteFit = {
  /** Ad groups that take ads, and those among them that no pattern is for. */
  groups: number;
  without: number;
  patterns: PatternFit[];
  /** Of the chosen pattern: the groups that it is for, and how it fares in them, once per version. */
  chosen: { groups: number; misfits: number; short: number; versions: FitCounts[] };
  /** How many times the groups have been put in order: what was read of the order before is stale when it grows. */
  ordered: number;
};

export const writingRules = ({ language, facts }: Pick<WriteInput, 'language' | 'facts'>): TextRules =>
  writingOf(language, facts);

/** What the plan's ads are written by. */
export const adRulesOf = (
  { today, ...input }: Omit<WriteInput, 'plan' | 'builtRevision' | 'outlet' | 'holds'>,
  more: Pick<PlanAdRules, 'held' | 'themes'>,
  writing = writingRules(input),
): PlanAdRules => adRules({ ...input, ...more, day: today }, writing);

type Counted = { key: string; versions: FitCounts[]; places: number[] };

/** Fits patterns in all ad groups, as one types. */
export class PatternFits {
  private groups: TokenGroup[] = [];
  private saidThemes = new Map<number, SaidTheme>();
  private values: TokenValues[] = [];
  private valuesKey = '';
  private rules: TextRules = { pack: english, casing: null };
  private rulesKey = '';
  private readonly counted = new Map<number, Counted>();
  private order: Uint32Array = new Uint32Array();
  /** What the order was made of; what is held is not in it, so that an ad stays where it is when it is mended. */
  private orderKey = '';
  private ordered = 0;
  private misfits = new Set<number>();
  private short = new Set<number>();
  private input: WriteInput | null = null;
  private heads: GroupHeads | null = null;

  /** Takes the groups as they were built. */
  take(heads: GroupHeads): void {
    if (heads === this.heads) return;
    if (heads.keys.join() !== this.heads?.keys.join()) this.orderKey = '';
    this.heads = heads;
    this.saidThemes = new Map(heads.themeNames.map(({ id, ...theme }) => [id, theme]));
    this.groups = heads.keys.map((key, at) =>
      saidGroup(
        {
          key,
          keyword: heads.keywords[at] as string,
          name: heads.names[at] as string,
          theme: heads.themes[at] as number,
          place: heads.places[at] ?? null,
          stage: heads.stages[at] ?? null,
          campaignKey: heads.campaignKeys[heads.campaigns[at] ?? 0] ?? '',
        },
        this.saidThemes,
      ),
    );
    this.valuesKey = '';
  }

  /**
   * Fits every pattern, of which only those that have changed are fitted again, and orders the chosen one's groups: those
   * that do not fit first, then the too short, then by searches. The order stays while something is typed, and when an
   * ad is written by hand.
   */
  fit(input: WriteInput, chosen: number, keepOrder: boolean): WriteFit {
    this.prepare(input);
    /** By outlet: at which groups have an ad. */
    const covered = membersOf(input.outlet).map(() => new Uint8Array(this.groups.length));
    const byHand = this.heldPlaces(input);
    const patterns: PatternFit[] = [];
    let own: Counted = { key: '', versions: [], places: [] };
    for (const pattern of input.patterns) {
      const places = this.placesFor(pattern, covered);
      const counted = this.count(pattern, places, byHand.get(pattern.id));
      const misfits = counted.versions.reduce((sum, version) => sum + version.misfits, 0);
      const ads = places.length * Math.max(1, counted.versions.length);
      patterns.push({ id: pattern.id, groups: places.length, ads, misfits });
      if (pattern.id === chosen) own = counted;
    }
    this.misfits = misfitsOf(own);
    this.short = new Set(
      own.versions.flatMap(({ shortPlaces }) => shortPlaces.map((at) => own.places[at] as number)),
    );
    for (const place of this.misfits) this.short.delete(place);
    const body = input.patterns.find(({ id }) => id === chosen)?.body;
    const orderKey = JSON.stringify([chosen, body?.form, body?.fields, body?.split, body?.groups]);
    const isStale = !keepOrder && orderKey !== this.orderKey;
    if (isStale || this.order.length !== own.places.length) this.setOrder(own.places);
    if (!keepOrder) this.orderKey = orderKey;
    let without = 0;
    for (let at = 0; at < this.groups.length; at++) if (covered.some((has) => has[at] === 0)) without++;
    return {
      groups: this.groups.length,
      without,
      patterns,
      chosen: {
        groups: own.places.length,
        misfits: this.misfits.size,
        short: this.short.size,
        versions: own.versions.map((counts) => ({ ...counts, misfitPlaces: [], shortPlaces: [] })),
      },
      ordered: this.ordered,
    };
  }

  private prepare(input: WriteInput) {
    this.input = input;
    const rulesKey = JSON.stringify([input.language, input.facts.functionWords, casingList(input.facts)]);
    if (rulesKey !== this.rulesKey) this.rules = writingRules(input);
    this.rulesKey = rulesKey;
    const { site, facts, today } = input;
    const valuesKey = JSON.stringify([site, facts.offers, facts.brands, today]);
    if (valuesKey === this.valuesKey) return;
    this.valuesKey = valuesKey;
    this.counted.clear();
    const { common } = adRulesOf(input, { held: new HeldAds([]), themes: this.saidThemes }, this.rules);
    this.values = this.groups.map((group) => groupValues(tokensOf(group, common)));
  }

  private placesFor({ body }: NumberedPattern, covered: readonly Uint8Array[]): number[] {
    const takers = takersOf((this.input as WriteInput).outlet, body.outlets, body.form).map(
      (at) => covered[at] as Uint8Array,
    );
    if (takers.length === 0) return [];
    const isFor = scopeOf(body, this.parentOf);
    const places: number[] = [];
    this.groups.forEach((group, at) => {
      const lacks = () => takers.some((has) => has[at] === 0);
      if (body.groups.to === 'without' ? lacks() : isFor(group)) places.push(at);
    });
    for (const has of takers) for (const at of places) has[at] = 1;
    return places;
  }

  /** The room of a pattern's ads at the outlets that it is for; null: none of them makes such ads. */
  private formOf({ form, outlets }: AdPattern) {
    const { outlet } = this.input as WriteInput;
    return adRulesFor(outlet, outlets)?.[form] ?? null;
  }

  private readonly parentOf = (theme: number) => this.saidThemes.get(theme)?.parent ?? null;

  /** The places in which something of a pattern's ads is held, by pattern. */
  private heldPlaces({ holds }: WriteInput): Map<number, Map<number, HeldValue[]>> {
    const byPattern = new Map<number, Map<number, HeldValue[]>>();
    const ofAds = holds.filter(({ rowKey }) => rowKey.includes('/a'));
    if (ofAds.length === 0) return byPattern;
    const placeOf = new Map(this.groups.map(({ key }, at) => [key, at]));
    for (const hold of ofAds) {
      const place = placeOf.get(groupOfAd(hold.rowKey));
      if (place === undefined) continue;
      const pattern = patternOfAd(hold.rowKey);
      const places = byPattern.get(pattern) ?? new Map<number, HeldValue[]>();
      byPattern.set(pattern, places);
      places.set(place, [...(places.get(place) ?? []), hold]);
    }
    return byPattern;
  }

  private count(
    pattern: NumberedPattern,
    places: number[],
    held: ReadonlyMap<number, HeldValue[]> | undefined,
  ): Counted {
    const input = this.input as WriteInput;
    const form = this.formOf(pattern.body);
    const { form: kind, fields, split, groups } = pattern.body;
    const key = JSON.stringify([
      this.rulesKey,
      this.valuesKey,
      kind,
      fields,
      split,
      groups.to === 'without' ? places : groups,
      [...(held?.values() ?? [])].flat().map(({ rowKey, field, value }) => [rowKey, field, value]),
      input.outlet.key,
      input.outlet.key,
      form,
    ]);
    const known = this.counted.get(pattern.id);
    if (known?.key === key) return known;
    const limits = form ? limitsOf(form) : {};
    const byRule = held ? places.filter((place) => !held.has(place)) : places;
    const valuesOf = (at: number) => this.values[byRule[at] as number] as TokenValues;
    const versions = versionsOf(pattern.body).map(({ compiled }) =>
      countFits(compiled, byRule.length, valuesOf, limits, this.rules),
    );
    const counted = { key, versions, places: byRule.slice() };
    if (held) this.countHeld(counted, pattern, places, held);
    this.counted.set(pattern.id, counted);
    return counted;
  }

  /** Groups with something held are fitted with it, one by one. */
  private countHeld(
    counted: Counted,
    pattern: NumberedPattern,
    places: readonly number[],
    held: ReadonlyMap<number, HeldValue[]>,
  ) {
    const input = this.input as WriteInput;
    const there = places.filter((place) => held.has(place));
    const holds = there.flatMap((place) => held.get(place) ?? []);
    const body: AdPattern = { ...pattern.body, groups: { to: 'all', themes: [], groups: [], campaigns: [] } };
    const alone = { ...input, patterns: [{ id: pattern.id, body }] };
    const more = { held: new HeldAds(holds), themes: this.saidThemes };
    const writer = planAds(adRulesOf(alone, more, this.rules), input.outlet);
    for (const place of there) {
      const at = counted.places.push(place) - 1;
      const { ads } = writer.of(this.groups[place] as TokenGroup);
      counted.versions.forEach((counts, version) => {
        const ad = ads[version];
        counts.groups++;
        const unfilled = ad ? unfilledOfAd(ad).filter((field) => field !== 'finalUrl') : [];
        if (unfilled.length === 0) return;
        counts.misfits++;
        counts.misfitPlaces.push(at);
        for (const field of unfilled) {
          const count = counts.fields[field as AdField];
          if (count) count.unfilled++;
        }
      });
    }
  }

  /** In how many of all ad groups the ads of patterns would be, and do not fit; what is on the screen stays. */
  tried(input: WriteInput, bodies: readonly AdPattern[]): { groups: number; misfits: number }[] {
    this.prepare(input);
    return bodies.map((body) => {
      const form = input.outlet.ad[body.form];
      const counts = countFits(
        compilePattern(body),
        form ? this.values.length : 0,
        (at) => this.values[at] as TokenValues,
        form ? limitsOf(form) : {},
        this.rules,
      );
      return { groups: counts.groups, misfits: counts.misfits };
    });
  }

  private setOrder(places: readonly number[]) {
    this.ordered++;
    const searches = this.heads?.searches ?? [];
    const rank = (place: number) => {
      if (this.misfits.has(place)) return 0;
      if (this.short.has(place)) return 1;
      return 2;
    };
    this.order = Uint32Array.from(places).sort(
      (a, b) => rank(a) - rank(b) || (searches[b] ?? -1) - (searches[a] ?? -1) || a - b,
    );
  }

  /** The groups at these places of the order. */
  page(from: number, to: number): WriteGroup[] {
    return [...this.order.subarray(from, to)].map((place) => this.groupAt(place));
  }

  private groupAt(place: number): WriteGroup {
    return {
      ...(this.groups[place] as TokenGroup),
      searches: this.heads?.searches[place] ?? null,
      campaign: this.heads?.campaignNames[this.heads.campaigns[place] ?? 0] ?? '',
      misfit: this.misfits.has(place),
      short: this.short.has(place),
    };
  }

  /** The next place behind this one with an ad that does not fit, from the beginning again at the end; -1 where all fit. */
  nextMisfit(from: number): number {
    for (let step = 1; step <= this.order.length; step++) {
      const at = (from + step) % this.order.length;
      if (this.misfits.has(this.order[at] as number)) return at;
    }
    return -1;
  }

  /** Those that do not fit to the front again. */
  reorder(): void {
    this.setOrder([...this.order]);
  }

  /** The place in the order of a group, by its key; -1 where the chosen pattern is not for it. */
  placeOf(key: string): number {
    const place = this.groups.findIndex((group) => group.key === key);
    return place < 0 ? -1 : this.order.indexOf(place);
  }

  /** A group by its key, whatever pattern is for it; null: there is none. */
  groupOf(key: string): WriteGroup | null {
    const place = this.groups.findIndex((group) => group.key === key);
    return place < 0 ? null : this.groupAt(place);
  }

  themeNames(): GroupHeads['themeNames'] {
    return this.heads?.themeNames ?? [];
  }

  /** What ads can say of each theme. */
  themes(): ReadonlyMap<number, SaidTheme> {
    return this.saidThemes;
  }

  /** Lines that would fill a field of a pattern in most of the groups where it is unfilled. */
  cures(pattern: number, field: AdField): Cure[] {
    const input = this.input;
    const body = input?.patterns.find(({ id }) => id === pattern)?.body;
    const form = body && input?.outlet.ad[body.form];
    const counted = this.counted.get(pattern);
    const limit = form ? limitsOf(form)[field] : undefined;
    const [version] = body ? versionsOf(body) : [];
    if (!body || !limit || !counted || !version) return [];
    const lines = version.compiled.fields[field];
    const unfilled = [...misfitsOf(counted)]
      .map((place) => this.values[place] as TokenValues)
      .filter(
        (values) =>
          fitField(field, lines, values, { ...limit, required: true }, this.rules).status === 'unfilled',
      );
    return curesOf(body.fields[field].lines, lines, unfilled, limit.limit, this.rules);
  }

  /** How many groups have no sound address, and how many different addresses there are. */
  addresses(address: AddressRule): { bad: number; distinct: number; sample: string } {
    const maker = addressMaker(address);
    const paths = new HeldAds(this.input?.holds ?? []);
    const distinct = new Set<string>();
    let bad = 0;
    this.groups.forEach(({ theme, campaignKey }, at) => {
      const branch = branchOf(theme, this.parentOf);
      const { final } = maker.of(this.values[at] as TokenValues, branch, paths.pathOf(campaignKey));
      if (final.status === 'address') distinct.add(final.href);
      else bad++;
    });
    return { bad, distinct: distinct.size, sample: [...distinct][0] ?? '' };
  }

  /** Every group with what a writer needs to know of it, in the order in which it is built. */
  all(): { campaign: string; group: string; keyword: string; key: string }[] {
    return this.groups.map(({ key, name, keyword }, at) => ({
      key,
      campaign: this.groupAt(at).campaign,
      group: name,
      keyword,
    }));
  }
}

function misfitsOf({ versions, places }: Counted): Set<number> {
  return new Set(versions.flatMap(({ misfitPlaces }) => misfitPlaces.map((at) => places[at] as number)));
}
