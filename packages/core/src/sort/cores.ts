import { countAt, itemAt, numberAt, uint32At } from '../access/index.ts';
import { Bonds } from './bonds.ts';
import { type Core, CoreTable, DEEPEST, type Group } from './core-table.ts';
import type { Units } from './units.ts';

export type { Group } from './core-table.ts';

/** The most keywords of a group, and the fewest. */
export type Sizes = { target: number; least: number };

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
    for (const unit of units.contentOf(countAt(rows, at))) frequency[unit] = uint32At(frequency, unit) + 1;
  const bonds = new Bonds(units, rows, frequency);
  const table = new CoreTable();
  const left: number[] = [];
  for (let at = 0; at < rows.length; at++) {
    const row = countAt(rows, at);
    const content = coreOf(units, row, ignored, frequency);
    if (content.length === 0) left.push(row);
    else table.take(content, false).rows.push(row);
  }
  const small = table.cores.filter((core) => !isEnough(core.rows));
  const lone = joinStanding(small, table, bonds, isEnough, least);
  const groups: Group[] = table.cores.filter((core) => isEnough(core.rows));
  const levels = Array.from({ length: DEEPEST + 1 }, () => new CoreTable());
  for (const { core, rows: members } of lone)
    for (const row of members) itemAt(levels, core.length).take(core, false).rows.push(row);
  for (let depth = DEEPEST; depth >= 1; depth--) {
    const orphans: Core[] = [];
    for (const core of itemAt(levels, depth).cores)
      if (isEnough(core.rows)) groups.push(core);
      else orphans.push(core);
    if (depth === 1) for (const orphan of orphans) for (const row of orphan.rows) left.push(row);
    else moveUp(orphans, itemAt(levels, depth - 1), bonds, least);
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
  table: CoreTable,
  bonds: Bonds,
  isEnough: (rows: readonly number[]) => boolean,
  least: number,
): Group[] {
  for (const { core, rows } of small)
    table.eachPart(core, (part) => {
      part.coming += rows.length;
    });
  const isSmall = new Set(small);
  const chosen = small.map(({ core }) => {
    let best: Core | null = null;
    table.eachPart(core, (part) => {
      if (isSmall.has(part) && part.coming < least) return;
      part.worth ??= bonds.worth(part.core);
      if (!best || part.worth > (best.worth as number)) best = part;
    });
    return best as Core | null;
  });
  const moved = small.map(({ rows }) => rows.splice(0));
  const lone: Group[] = [];
  small.forEach(({ core }, at) => {
    const target = chosen[at];
    const rows = itemAt(moved, at);
    if (target) for (const row of rows) target.rows.push(row);
    else lone.push({ core, rows, assembled: false });
  });
  for (const one of small)
    if (one.rows.length > 0 && !isEnough(one.rows))
      lone.push({ core: one.core, rows: one.rows.splice(0), assembled: false });
  return lone;
}

function coreOf(units: Units, row: number, ignored: ReadonlySet<number>, frequency: Uint32Array): number[] {
  const core: number[] = [];
  for (const unit of units.contentOf(row)) if (!ignored.has(unit)) core.push(unit);
  if (core.length > DEEPEST) {
    core.sort((a, b) => uint32At(frequency, b) - uint32At(frequency, a) || a - b);
    core.length = DEEPEST;
  }
  return core.sort((a, b) => a - b);
}

const without = (core: readonly number[], at: number): number[] => core.filter((_, place) => place !== at);

/** Has each core that is too small take one unit away; all choose before any of them moves. */
function moveUp(orphans: readonly Core[], below: CoreTable, bonds: Bonds, least: number) {
  const parents = orphans.map(({ core, rows }) =>
    core.map((_, at) => {
      const parent = below.take(without(core, at), true);
      parent.coming += rows.length;
      return parent;
    }),
  );
  const enough = (parent: Core) => parent.rows.length + parent.coming >= least;
  const chosen = orphans.map(({ core }, orphan) => {
    const worths = bonds.worthsWithout(core);
    const own = itemAt(parents, orphan);
    let best = 0;
    for (let at = 1; at < core.length; at++) {
      const [here, there] = [enough(itemAt(own, at)), enough(itemAt(own, best))];
      // Where nothing will do, what is most usual is kept: there others are met soonest.
      const isBetter = here
        ? !there || numberAt(worths, at) > numberAt(worths, best)
        : !there && bonds.frequencyOf(numberAt(core, at)) < bonds.frequencyOf(numberAt(core, best));
      if (isBetter) best = at;
    }
    return itemAt(own, best);
  });
  orphans.forEach(({ rows }, at) => {
    for (const row of rows) chosen[at]?.rows.push(row);
  });
}
