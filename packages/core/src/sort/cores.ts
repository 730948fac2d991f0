import type { Units } from './units.ts';

/** Keywords that share a core: the units that all of them have, in order of their numbers. */
export type Group = {
  core: readonly number[];
  rows: number[] /** Made of keywords none of which is its content alone. */;
  assembled: boolean;
};

/** The most keywords of a group, and the fewest. */
export type Sizes = { target: number; least: number };

type Core = Group;

/**
 * Finds groups from below. Keywords with the same content are together from the start. Where they are too few, they go
 * to the content of another keyword that theirs has in it, if it stands: if enough speak of it. (`payroll software for
 * small business` goes to `payroll software`; that others are for small business too makes no group, since nobody
 * searches for that alone.) What is left takes one unit away after another, to where enough others come. Of several
 * choices the one whose units say most and belong together. O(keywords × subsets of their units).
 */
export function groupsFromBelow(
  units: Units,
  rows: ArrayLike<number>,
  ignored: ReadonlySet<number>,
  isEnough: (rows: readonly number[]) => boolean,
  { target, least }: Sizes,
): { groups: Group[]; left: number[] } {
  const frequency = new Uint32Array(units.size);
  for (let at = 0; at < rows.length; at++)
    for (const unit of units.contentOf(rows[at] as number)) frequency[unit] = (frequency[unit] as number) + 1;
  const bonds = new Bonds(units, rows, frequency);
  const cores = new Map<string, Core>();
  const left: number[] = [];
  for (let at = 0; at < rows.length; at++) {
    const row = rows[at] as number;
    const content = coreOf(units, row, ignored, frequency);
    if (content.length === 0) left.push(row);
    else coreAt(cores, keyOf(content), content, false).rows.push(row);
  }
  const small = [...cores.values()].filter((core) => !isEnough(core.rows));
  const lone = joinStanding(small, cores, bonds, isEnough, least);
  const groups: Group[] = [...cores.values()].filter((core) => isEnough(core.rows));
  const levels: Map<string, Core>[] = Array.from({ length: DEEPEST + 1 }, () => new Map());
  for (const { core, rows: members } of lone)
    for (const row of members)
      coreAt(levels[core.length] as Map<string, Core>, keyOf(core), core, false).rows.push(row);
  for (let depth = DEEPEST; depth >= 1; depth--) {
    const orphans: Core[] = [];
    for (const core of (levels[depth] as Map<string, Core>).values())
      if (isEnough(core.rows)) groups.push(core);
      else orphans.push(core);
    if (depth === 1) for (const orphan of orphans) for (const row of orphan.rows) left.push(row);
    else moveUp(orphans, levels[depth - 1] as Map<string, Core>, bonds, least);
  }
  return { groups, left: widen(groups, left, units, ignored, frequency, bonds, target) };
}

/** A group is widened to what it has in common with a keyword where that says so much of what the group says. */
const LEAST_SHARED = 0.4;

/**
 * Widens groups by units that others do not share, so that keywords which are left can join: `free helpdesk` makes of
 * `helpdesk software` what has `helpdesk`. Those that share most come first. Answers what is still left.
 */
function widen(
  groups: Group[],
  left: readonly number[],
  units: Units,
  ignored: ReadonlySet<number>,
  frequency: Uint32Array,
  bonds: Bonds,
  target: number,
): number[] {
  const byUnit = new Map<number, Group>();
  for (const group of groups)
    for (const unit of group.core) {
      const known = byUnit.get(unit);
      if (!known || group.core.length < known.core.length) byUnit.set(unit, group);
    }
  const wishes = left.flatMap((row) => {
    const content = coreOf(units, row, ignored, frequency);
    let best: { row: number; group: Group; shared: number[]; worth: number } | null = null;
    for (const unit of content) {
      const group = byUnit.get(unit);
      if (!group) continue;
      const shared = group.core.filter((one) => content.includes(one));
      const worth = bonds.worth(shared);
      if (worth < LEAST_SHARED * bonds.worth(group.core)) continue;
      if (!best || worth > best.worth) best = { row, group, shared, worth };
    }
    return best ? [best] : [];
  });
  wishes.sort((a, b) => b.worth - a.worth || a.row - b.row);
  const joined = new Set<number>();
  for (const { row, group, shared } of wishes) {
    const core = group.core.filter((unit) => shared.includes(unit));
    if (core.length === 0 || group.rows.length >= target) continue;
    group.core = core;
    group.rows.push(row);
    joined.add(row);
  }
  return left.filter((row) => !joined.has(row));
}

/**
 * Has each core that is too small join the best of those that stand and are part of it, itself among them; answers
 * those that found none.
 */
function joinStanding(
  small: readonly Core[],
  cores: ReadonlyMap<string, Core>,
  bonds: Bonds,
  isEnough: (rows: readonly number[]) => boolean,
  least: number,
): Core[] {
  const coming = new Map<Core, number>();
  const parts = small.map(({ core, rows }) => {
    const found: Core[] = [];
    eachPart(core, (key) => {
      const part = cores.get(key);
      if (!part) return;
      found.push(part);
      coming.set(part, (coming.get(part) ?? 0) + rows.length);
    });
    return found;
  });
  const enough = new Map(small.map((core) => [core, false]));
  const stands = (part: Core) => enough.get(part) === undefined || (coming.get(part) ?? 0) >= least;
  const chosen = small.map((_, at) => {
    let best: Core | null = null;
    let bestWorth = Number.NEGATIVE_INFINITY;
    for (const part of parts[at] as Core[]) {
      if (!stands(part)) continue;
      const worth = bonds.worth(part.core);
      if (worth > bestWorth) {
        best = part;
        bestWorth = worth;
      }
    }
    return best;
  });
  const moved = small.map(({ rows }) => rows.splice(0));
  const lone: Core[] = [];
  small.forEach(({ core }, at) => {
    const target = chosen[at];
    const rows = moved[at] as number[];
    if (target) for (const row of rows) target.rows.push(row);
    else lone.push({ core, rows, assembled: false });
  });
  for (const one of small)
    if (one.rows.length > 0 && !isEnough(one.rows))
      lone.push({ core: one.core, rows: one.rows.splice(0), assembled: false });
  return lone;
}

/** Calls with the key of each part of a core, the whole included. */
function eachPart(core: readonly number[], visit: (key: string) => void) {
  const last = 1 << core.length;
  for (let mask = 1; mask < last; mask++) {
    let key = '';
    for (let at = 0; at < core.length; at++) if (mask & (1 << at)) key += codeOf(core[at] as number);
    visit(key);
  }
}

/** More units than this in one keyword only make it rare: the rarest are left out. */
const DEEPEST = 8;

/** A unit as one or two characters, so that a core's key is as short as can be. */
const codeOf = (unit: number): string =>
  unit < 0x7fff ? String.fromCharCode(unit) : String.fromCharCode(0x8000 | (unit & 0x7fff), unit >>> 15);

/** The key of a core, without its unit at `skipped`. */
function keyOf(core: readonly number[], skipped = -1): string {
  let key = '';
  for (let at = 0; at < core.length; at++) if (at !== skipped) key += codeOf(core[at] as number);
  return key;
}

function coreAt(level: Map<string, Core>, key: string, core: readonly number[], assembled: boolean): Core {
  const known = level.get(key);
  if (known) return known;
  const made = { core, rows: [], assembled };
  level.set(key, made);
  return made;
}

function coreOf(units: Units, row: number, ignored: ReadonlySet<number>, frequency: Uint32Array): number[] {
  const core: number[] = [];
  for (const unit of units.contentOf(row)) if (!ignored.has(unit)) core.push(unit);
  if (core.length > DEEPEST) {
    core.sort((a, b) => (frequency[b] as number) - (frequency[a] as number) || a - b);
    core.length = DEEPEST;
  }
  return core.sort((a, b) => a - b);
}

/** Has each core that is too small choose a parent; all choose before any of them moves. */
function moveUp(orphans: readonly Core[], below: Map<string, Core>, bonds: Bonds, least: number) {
  const coming = new Map<string, number>();
  const keys = orphans.map(({ core, rows }) =>
    core.map((_, at) => {
      const key = keyOf(core, at);
      coming.set(key, (coming.get(key) ?? 0) + rows.length);
      return key;
    }),
  );
  const chosen = orphans.map(({ core }, at) =>
    leftOut(core, keys[at] as string[], below, coming, bonds, least),
  );
  orphans.forEach(({ core, rows }, at) => {
    const out = chosen[at] as number;
    const parent = coreAt(
      below,
      keys[at]?.[out] as string,
      core.filter((_, place) => place !== out),
      true,
    );
    for (const row of rows) parent.rows.push(row);
  });
}

/** The place of the unit without which a core does best. */
function leftOut(
  core: readonly number[],
  keys: readonly string[],
  below: ReadonlyMap<string, Core>,
  coming: ReadonlyMap<string, number>,
  bonds: Bonds,
  least: number,
): number {
  const worths = bonds.worthsWithout(core);
  let best = 0;
  let bestRank = -1;
  let bestWorth = Number.NEGATIVE_INFINITY;
  for (let at = 0; at < core.length; at++) {
    const key = keys[at] as string;
    const there = below.get(key);
    const rank = (there?.rows.length ?? 0) + (coming.get(key) ?? 0) >= least ? 1 : 0;
    // Where nothing will do, what is most usual is kept: there others are met soonest.
    const worth = rank === 0 ? -bonds.frequencyOf(core[at] as number) : (worths[at] as number);
    if (rank > bestRank || (rank === bestRank && worth > bestWorth)) {
      best = at;
      bestRank = rank;
      bestWorth = worth;
    }
  }
  return best;
}

/** How much units say, and how much they belong together. */
class Bonds {
  private readonly pairs = new Map<number, number>();

  constructor(
    private readonly units: Units,
    private readonly rows: ArrayLike<number>,
    private readonly frequency: Uint32Array,
  ) {
    for (let at = 0; at < rows.length; at++) {
      const content = units.contentOf(rows[at] as number);
      for (let one = 1; one < content.length; one++)
        for (let other = 0; other < one; other++) {
          const pair = this.pairOf(content[one] as number, content[other] as number);
          this.pairs.set(pair, (this.pairs.get(pair) ?? 0) + 1);
        }
    }
  }

  worth(core: readonly number[]): number {
    let said = 0;
    let firm = 0;
    for (let one = 0; one < core.length; one++) {
      said += Math.log((this.rows.length + 1) / this.frequencyOf(core[one] as number));
      for (let other = 0; other < one; other++)
        firm += this.firmnessOf(core[one] as number, core[other] as number);
    }
    const pairs = (core.length * (core.length - 1)) / 2;
    return said * (pairs === 0 ? 1 : firm / pairs);
  }

  frequencyOf = (unit: number): number => this.frequency[unit] as number;

  /**
   * What a core is worth without each of its units: rare units say more, and all count by how firmly they stand
   * together, the mean over the pairs of the share of the rarer one's keywords that have both.
   */
  worthsWithout(core: readonly number[]): number[] {
    const said = core.map((unit) => Math.log((this.rows.length + 1) / this.frequencyOf(unit)));
    const firmness = core.map(() => 0);
    for (let one = 1; one < core.length; one++)
      for (let other = 0; other < one; other++) {
        const firm = this.firmnessOf(core[one] as number, core[other] as number);
        firmness[one] = (firmness[one] as number) + firm;
        firmness[other] = (firmness[other] as number) + firm;
      }
    const allSaid = said.reduce((sum, value) => sum + value, 0);
    const allFirm = firmness.reduce((sum, value) => sum + value, 0) / 2;
    const pairs = ((core.length - 1) * (core.length - 2)) / 2;
    return core.map(
      (_, at) =>
        (allSaid - (said[at] as number)) * (pairs === 0 ? 1 : (allFirm - (firmness[at] as number)) / pairs),
    );
  }

  private pairOf = (a: number, b: number): number =>
    a < b ? a * this.units.size + b : b * this.units.size + a;

  private firmnessOf(a: number, b: number): number {
    const least = Math.min(this.frequencyOf(a), this.frequencyOf(b));
    return (this.pairs.get(this.pairOf(a, b)) ?? 0) / least;
  }
}
