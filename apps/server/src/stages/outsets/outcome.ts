import { isDeepStrictEqual } from 'node:util';
import {
  type Facts,
  MOST_EXTRAS,
  MOST_PATTERNS,
  MOST_THEMES,
  type OutsetLine,
  type OutsetLoss,
  type OutsetPart,
  outsetFields,
  outsetParts,
  type RulesOfPlan,
  type SettingSet,
  type ThemeBody,
  type ThemeRow,
} from '@sprig/contracts';
import type { BranchRule, Layout } from '@sprig/core/build';
import { type Sift, siftProblems } from '@sprig/core/sort';
import { normalise } from '@sprig/core/text';
import type { AdPattern, ExtraBody } from '@sprig/core/write';
import { SprigFailure } from '../../platform/failure.ts';

/** What exists of what an outset names by its workspace, and where numbers of new rows come from. */
type Around = {
  lists: ReadonlySet<number>;
  outlets: ReadonlySet<string>;
  /** The first of so many new numbers. */
  takeIds: (count: number) => number;
};

/** What a plan comes to that takes parts of an outset in: what of it is new or other than before, and what is told of it. */
export type Outcome = {
  lines: OutsetLine[];
  losses: OutsetLoss[];
  facts: Facts;
  layout: Layout;
  sort: RulesOfPlan['sort'];
  address: RulesOfPlan['address'];
  sets: { added: SettingSet[]; changed: SettingSet[] };
  themes: { added: ThemeRow[]; changed: ThemeRow[] };
  patterns: { added: { id: number; body: AdPattern }[]; changed: { id: number; body: AdPattern }[] };
  extras: ExtraBody[];
  negatives: RulesOfPlan['negatives'];
  kept: string[];
  lists: number[];
  outlets: { added: RulesOfPlan['outlets']; changed: RulesOfPlan['outlets'] };
};

/** How many names a line tells; the count is of all. */
const MOST_NAMES = 12;

const sameName = (one: string, other: string) => one.trim().toLowerCase() === other.trim().toLowerCase();
const isPlain = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Takes parts of an outset into the rules of a plan. Fields become as they are there; of lists, what is missing is added, and
 * what has the same name becomes as it is there. Nothing is taken away. What can't be as it is there is told among the losses.
 */
export function outcomeOf(
  current: RulesOfPlan,
  given: RulesOfPlan,
  parts: readonly OutsetPart[],
  around: Around,
): Outcome {
  return new Taking(current, given, new Set(parts), around).outcome();
}

class Taking {
  private readonly lines: OutsetLine[] = [];
  private readonly losses: OutsetLoss[] = [];
  private readonly isOtherMoney: boolean;

  constructor(
    private readonly current: RulesOfPlan,
    private readonly given: RulesOfPlan,
    private readonly parts: ReadonlySet<OutsetPart>,
    private readonly around: Around,
  ) {
    this.isOtherMoney = current.currency !== given.currency;
  }

  outcome(): Outcome {
    const facts = this.taken('facts', (part, name) => this.factOf(part, name));
    const layout = this.taken('layout', (part, name) => this.ruleOf(part, name));
    const sets = this.sets();
    const { themes, idOf } = this.themes();
    const branches = this.branches(idOf);
    const sort = this.sort();
    const patterns = this.patterns(idOf);
    const address = this.address(idOf);
    return {
      facts,
      layout: { ...layout, branches },
      sets,
      themes,
      sort,
      patterns,
      address,
      extras: this.missing('extras', 'extra', (one) => JSON.stringify(one), nameOfExtra, MOST_EXTRAS),
      negatives: this.missing(
        'negatives',
        'negative',
        ({ text, type }) => `${type}:${normalise(text)}`,
        ({ text }) => text,
      ),
      kept: this.missing(
        'kept',
        'word',
        (word) => word,
        (word) => word,
      ),
      lists: this.lists(),
      outlets: this.outlets(),
      lines: byPart(this.lines),
      losses: byPart(this.losses),
    };
  }

  private tell(part: OutsetPart, at: string, kind: 'added' | 'changed', names: readonly string[]) {
    if (names.length === 0) return;
    const told = { names: names.slice(0, MOST_NAMES), count: names.length, before: null, after: null };
    this.lines.push({ part, at, kind, ...told });
  }

  private lose(part: OutsetPart, why: OutsetLoss['why'], names: readonly string[]) {
    if (names.length > 0)
      this.losses.push({ part, why, names: names.slice(0, MOST_NAMES), count: names.length });
  }

  /** Tells each field that becomes another, within a document field by field. */
  private compare(part: OutsetPart, at: string, before: unknown, after: unknown) {
    if (isDeepStrictEqual(before, after)) return;
    if (isPlain(before) && isPlain(after)) {
      for (const name of Object.keys(after)) this.compare(part, `${at}.${name}`, before[name], after[name]);
      return;
    }
    this.lines.push({ part, at, kind: 'set', names: [], count: 1, before, after });
  }

  /** A document with the fields that the parts have of it, each as `valueFor` says. */
  private taken<W extends 'facts' | 'layout'>(
    which: W,
    valueFor: (part: OutsetPart, name: keyof RulesOfPlan[W]) => unknown,
  ): RulesOfPlan[W] {
    const next = { ...this.current[which] };
    for (const part of this.parts)
      for (const name of outsetFields[part][which] as readonly (keyof RulesOfPlan[W])[]) {
        const value = valueFor(part, name);
        this.compare(part, String(name), this.current[which][name], value);
        next[name] = value as RulesOfPlan[W][typeof name];
      }
    return next;
  }

  private factOf(part: OutsetPart, name: keyof Facts): unknown {
    const { current, given } = this;
    // What was measured, and the months, are of another account.
    if (name === 'assumptions') {
      const { measured, season } = current.facts.assumptions;
      return { ...given.facts.assumptions, measured, season };
    }
    return name === 'targetCost'
      ? this.amount(part, 'targetCost', current.facts.targetCost, given.facts.targetCost)
      : given.facts[name];
  }

  /** An amount as it is given, unless it is in another currency. */
  private amount<T>(part: OutsetPart, at: string, before: T, after: T): T {
    if (!this.isOtherMoney) return after;
    if (after !== null) this.lose(part, 'currency', [at]);
    return before;
  }

  private ruleOf(part: OutsetPart, name: keyof Layout): unknown {
    const { current, given } = this;
    const [before, after] = [current.layout, given.layout];
    switch (name) {
      case 'dailyBudget':
        return this.amount(part, name, before.dailyBudget, after.dailyBudget);
      // Campaigns that are called as their plan are called as this one.
      case 'campaignName':
        return after.campaignName.replaceAll(given.name.trim(), () => current.name.trim());
      case 'grouping':
        return {
          ...after.grouping,
          cpcFrom: this.amount(part, 'grouping.cpcFrom', before.grouping.cpcFrom, after.grouping.cpcFrom),
        };
      case 'ladder': {
        const { defaultBase, floor, ceiling } = before.ladder;
        if (!this.isOtherMoney) return after.ladder;
        this.lose(part, 'currency', ['ladder.defaultBase', 'ladder.floor', 'ladder.ceiling']);
        return { ...after.ladder, defaultBase, floor, ceiling };
      }
      // Sources are those of the plan that it was kept of.
      case 'lanes':
        this.lose(
          part,
          'source',
          after.lanes.flatMap(({ name: lane, takes }) => (takes.sources.length > 0 ? [lane] : [])),
        );
        return after.lanes.map((lane) => ({ ...lane, takes: { ...lane.takes, sources: [] } }));
      default:
        return after[name];
    }
  }

  private sets(): Outcome['sets'] {
    if (!this.parts.has('sets')) return { added: [], changed: [] };
    if (this.isOtherMoney)
      this.lose(
        'sets',
        'currency',
        this.given.sets.flatMap(({ name, targetCost }) => (targetCost === null ? [] : [name])),
      );
    return this.named(
      'sets',
      'set',
      this.current.sets,
      this.given.sets,
      ({ name }) => name,
      (set, there) => ({
        ...set,
        targetCost: this.isOtherMoney ? (there?.targetCost ?? null) : set.targetCost,
      }),
    );
  }

  /** Those of which none of the name is there get a number; those that are there keep theirs. */
  private named<T extends { id: number }>(
    part: OutsetPart,
    at: string,
    there: readonly T[],
    given: readonly T[],
    nameOf: (one: T) => string,
    fit: (one: T, there: T | undefined) => T,
  ): { added: T[]; changed: T[] } {
    const pairs = given.map((one) => ({
      one,
      known: there.find((other) => sameName(nameOf(other), nameOf(one))),
    }));
    const fresh = pairs.filter(({ known }) => !known);
    const first = this.around.takeIds(fresh.length);
    const added = fresh.map(({ one }, n) => ({ ...fit(one, undefined), id: first + n }));
    const changed = pairs.flatMap(({ one, known }) => {
      if (!known) return [];
      const next = { ...fit(one, known), id: known.id };
      return isDeepStrictEqual(next, known) ? [] : [next];
    });
    this.tell(part, at, 'added', added.map(nameOf));
    this.tell(part, at, 'changed', changed.map(nameOf));
    return { added, changed };
  }

  /**
   * Themes by their names from the top. `idOf` is the number here of a theme there, of those that are taken or are here by the
   * same names all the way down.
   */
  private themes(): { themes: Outcome['themes']; idOf: (theme: number) => number | undefined } {
    const here = new Map(this.current.themes.map((theme) => [placeOf(theme.parent, theme.name), theme]));
    const isTaken = this.parts.has('themes');
    const ids = new Map<number, number>();
    const added: ThemeRow[] = [];
    const changed: ThemeRow[] = [];
    const below = new Map<number | null, ThemeRow[]>();
    for (const theme of this.given.themes)
      if (!below.get(theme.parent)?.push(theme)) below.set(theme.parent, [theme]);
    const walk = (parent: number | null, into: number | null) => {
      for (const theme of below.get(parent) ?? []) {
        const known = here.get(placeOf(into, theme.name));
        if (!known && !isTaken) continue;
        const id = known?.id ?? this.around.takeIds(1);
        ids.set(theme.id, id);
        if (isTaken) {
          const next = { ...this.themeOf(theme), id, parent: into };
          if (!known) added.push(next);
          else if (!isDeepStrictEqual(bodyOf(next), bodyOf(known)))
            changed.push({ ...next, name: known.name });
        }
        walk(theme.id, id);
      }
    };
    walk(null, null);
    if (this.current.themes.length + added.length > MOST_THEMES)
      throw new SprigFailure('invalid', `A plan holds up to ${MOST_THEMES.toLocaleString('en')} themes.`, {
        at: 'parts',
      });
    const nameOf = ({ name }: ThemeRow) => name;
    this.tell('themes', 'theme', 'added', added.map(nameOf));
    this.tell('themes', 'theme', 'changed', changed.map(nameOf));
    return { themes: { added, changed }, idOf: (theme) => ids.get(theme) };
  }

  /** A theme whose rule asks for nothing that only the other plan has. */
  private themeOf(theme: ThemeRow): ThemeRow {
    const { sift } = theme;
    if (!sift) return theme;
    const next: Sift = { ...sift };
    if (sift.source !== undefined && sift.source !== null) {
      this.lose('themes', 'source', [theme.name]);
      delete next.source;
    }
    const hasCpc = (sift.cpcFrom ?? null) !== null || (sift.cpcTo ?? null) !== null;
    if (this.isOtherMoney && hasCpc) {
      this.lose('themes', 'currency', [theme.name]);
      delete next.cpcFrom;
      delete next.cpcTo;
    }
    return { ...theme, sift: siftProblems(next).length === 0 ? (next as ThemeRow['sift']) : null };
  }

  /** What themes have of their own comes with them. */
  private branches(idOf: (theme: number) => number | undefined): BranchRule[] {
    const { branches } = this.current.layout;
    if (!this.parts.has('themes')) return branches;
    const next = new Map(branches.map((branch) => [branch.theme, branch]));
    const changed: string[] = [];
    const names = new Map(this.given.themes.map(({ id, name }) => [id, name]));
    for (const branch of this.given.layout.branches) {
      const theme = idOf(branch.theme);
      if (theme === undefined) continue;
      const name = names.get(branch.theme) ?? '';
      const cpcFrom = branch.grouping?.cpcFrom ?? null;
      if (this.isOtherMoney && cpcFrom !== null) this.lose('themes', 'currency', [name]);
      const grouping = branch.grouping && {
        ...branch.grouping,
        cpcFrom: this.isOtherMoney ? null : branch.grouping.cpcFrom,
      };
      const rule = { ...branch, theme, grouping };
      if (isDeepStrictEqual(rule, next.get(theme))) continue;
      next.set(theme, rule);
      changed.push(name);
    }
    this.tell('themes', 'branch', 'changed', changed);
    return [...next.values()];
  }

  private sort(): RulesOfPlan['sort'] {
    const { current, given } = this;
    if (!this.parts.has('stages')) return current.sort;
    const { dismissed } = current.sort;
    const next = { ...given.sort, dismissed };
    this.compare('stages', 'sort', current.sort, next);
    return next;
  }

  private patterns(idOf: (theme: number) => number | undefined): Outcome['patterns'] {
    if (!this.parts.has('ads')) return { added: [], changed: [] };
    const fit = ({ id, body }: RulesOfPlan['patterns'][number]) => {
      const { to, themes } = body.groups;
      const here = themes.flatMap((theme) => idOf(theme) ?? []);
      if (to === 'themes' && here.length < themes.length) this.lose('ads', 'no-theme', [body.name]);
      // Ad groups of single keywords are those of the other plan's keywords.
      if (to === 'groups' || to === 'campaigns') this.lose('ads', 'groups', [body.name]);
      return { id, body: { ...body, groups: { to, themes: here, groups: [], campaigns: [] } } };
    };
    const { patterns } = this.current;
    const outcome = this.named('ads', 'pattern', patterns, this.given.patterns, ({ body }) => body.name, fit);
    if (patterns.length + outcome.added.length > MOST_PATTERNS)
      throw new SprigFailure(
        'invalid',
        `A plan has up to ${MOST_PATTERNS} ad patterns: with these there would be ${patterns.length + outcome.added.length}. Remove some first, or leave the ad patterns out.`,
        { at: 'parts' },
      );
    return outcome;
  }

  private address(idOf: (theme: number) => number | undefined): RulesOfPlan['address'] {
    const { current, given } = this;
    if (!this.parts.has('addresses')) return current.address;
    const names = new Map(given.themes.map(({ id, name }) => [id, name]));
    const themes = given.address.themes.flatMap(({ theme, path }) => {
      const here = idOf(theme);
      if (here === undefined) this.lose('addresses', 'no-theme', [names.get(theme) ?? path]);
      return here === undefined ? [] : [{ theme: here, path }];
    });
    const kept = current.address.themes.filter((one) => !themes.some(({ theme }) => theme === one.theme));
    const next = { ...given.address, themes: [...kept, ...themes] };
    this.compare('addresses', 'address', current.address, next);
    return next;
  }

  /** Of a list, what is not there yet. */
  private missing<N extends 'extras' | 'negatives' | 'kept'>(
    part: N,
    at: string,
    keyOf: (one: RulesOfPlan[N][number]) => string,
    nameOf: (one: RulesOfPlan[N][number]) => string,
    most = Number.POSITIVE_INFINITY,
  ): RulesOfPlan[N][number][] {
    if (!this.parts.has(part)) return [];
    const there: readonly RulesOfPlan[N][number][] = this.current[part];
    const known = new Set(there.map(keyOf));
    const fresh: RulesOfPlan[N][number][] = [];
    for (const one of this.given[part] as readonly RulesOfPlan[N][number][]) {
      if (known.has(keyOf(one))) continue;
      known.add(keyOf(one));
      fresh.push(one);
    }
    if (there.length + fresh.length > most)
      throw new SprigFailure(
        'invalid',
        `A plan has up to ${most} ${part}: with these there would be ${there.length + fresh.length}. Remove some first, or leave this part out.`,
        { at: 'parts' },
      );
    this.tell(part, at, 'added', fresh.map(nameOf));
    return fresh;
  }

  private lists(): number[] {
    if (!this.parts.has('lists')) return [];
    const attached = new Set(this.current.lists.map(({ id }) => id));
    const fresh = this.given.lists.filter(({ id }) => !attached.has(id));
    const isHere = ({ id }: { id: number }) => this.around.lists.has(id);
    const there = fresh.filter(isHere);
    const namesOf = (lists: typeof fresh) => lists.map(({ name }) => name);
    this.tell('lists', 'list', 'added', namesOf(there));
    this.lose('lists', 'gone-list', namesOf(fresh.filter((list) => !isHere(list))));
    return there.map(({ id }) => id);
  }

  private outlets(): Outcome['outlets'] {
    const none = { added: [], changed: [] };
    if (!this.parts.has('outlets')) return none;
    const here = new Map(this.current.outlets.map((one) => [one.key, one]));
    const added: RulesOfPlan['outlets'] = [];
    const changed: RulesOfPlan['outlets'] = [];
    for (const outlet of this.given.outlets) {
      const known = here.get(outlet.key);
      // What is in place there is each client's own.
      const body = { ...outlet.body, ticks: known?.body.ticks ?? [] };
      if (!this.around.outlets.has(outlet.key)) this.lose('outlets', 'gone-outlet', [outlet.name]);
      else if (!known) added.push({ ...outlet, body });
      else if (!isDeepStrictEqual(known.body, body)) changed.push({ ...outlet, body });
    }
    const nameOf = ({ name }: { name: string }) => name;
    this.tell('outlets', 'outlet', 'added', added.map(nameOf));
    this.tell('outlets', 'outlet', 'changed', changed.map(nameOf));
    return { added, changed };
  }
}

/** In the order of the parts. */
const byPart = <T extends { part: OutsetPart }>(told: readonly T[]): T[] =>
  outsetParts.flatMap((part) => told.filter((one) => one.part === part));

const placeOf = (parent: number | null, name: string): string =>
  `${parent ?? ''}/${name.trim().toLowerCase()}`;
const bodyOf = ({ sift, idea, colour, stage }: ThemeBody) => ({ sift, idea, colour, stage });
const nameOfExtra = (body: ExtraBody): string => (body.kind === 'phone' ? body.number : body.text);
