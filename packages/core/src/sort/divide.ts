import { itemAt, uint32At } from '../access/index.ts';
import { type Node, newNode } from './proposed-tree.ts';
import { BETWEEN, CONTENT, type UnitClass, type Units, WANT, WHERE } from './units.ts';

/** What divides first: goods and traits, then what is wanted, then where, then the words between. */
const ORDER: readonly UnitClass[] = [CONTENT, WANT, WHERE, BETWEEN];

/** How many of some rows have each unit, kept up as rows go. */
class UnitCounts {
  readonly counts = new Map<number, number>();

  constructor(
    public rows: readonly number[],
    readonly units: Units,
  ) {
    for (const row of rows) this.count(row, 1);
  }

  /** Takes the rows that have a unit out. */
  without(unit: number): void {
    const rest: number[] = [];
    for (const row of this.rows)
      if (this.units.has(row, unit)) this.count(row, -1);
      else rest.push(row);
    this.rows = rest;
  }

  private count(row: number, by: number) {
    const { flat, starts } = this.units;
    const end = uint32At(starts, row + 1);
    for (let at = uint32At(starts, row); at < end; at++) {
      const unit = uint32At(flat, at);
      this.counts.set(unit, (this.counts.get(unit) ?? 0) + by);
    }
  }
}

/**
 * Divides a theme that has too many keywords of its own: by the unit that most of them have and others have not, class
 * by class, until few enough are left; where no unit is in enough of them, by lists of rare ones.
 */
export function divide(node: Node, units: Units, target: number, least: number, round: number): Node[] {
  const made: Node[] = [];
  const rest = new UnitCounts(node.rows, units);
  for (const kind of ORDER)
    while (rest.rows.length > target) {
      const unit = bestDivider(rest, node, kind, least);
      if (unit === null) break;
      made.push(newNode(node, [[unit]], round, units));
      rest.without(unit);
    }
  if (rest.rows.length > target) made.push(...byLists(rest, node, target, round));
  return made;
}

function bestDivider(
  { counts, rows, units }: UnitCounts,
  node: Node,
  kind: UnitClass,
  least: number,
): number | null {
  let best: number | null = null;
  let most = least - 1;
  const limit = rows.length - least;
  for (const [unit, count] of counts) {
    if (count < most || count > limit || count < least || units.classes[unit] !== kind) continue;
    if (count === most && best !== null && !before(units, unit, best)) continue;
    if (node.path.has(unit) || node.spent.has(unit)) continue;
    best = unit;
    most = count;
  }
  return best;
}

const before = (units: Units, a: number, b: number): boolean =>
  (units.terms[a]?.[0] ?? '') < (units.terms[b]?.[0] ?? '');

/** Themes of about the same size by lists of units that few keywords have; at last by whole keywords. */
function byLists(
  { rows: rest, counts, units }: UnitCounts,
  node: Node,
  target: number,
  round: number,
): Node[] {
  const size = Math.ceil(rest.length / Math.ceil(rest.length / target));
  const dividing = [...counts]
    .filter(([unit, count]) => count > 0 && !node.path.has(unit) && count < rest.length)
    .sort(
      ([a], [b]) => itemAt(units.classes, a) - itemAt(units.classes, b) || (before(units, a, b) ? -1 : 1),
    );
  const made: Node[] = [];
  let left = rest.slice();
  let list: number[] = [];
  let taken = 0;
  const close = () => {
    if (list.length > 0) made.push(newNode(node, [list], round, units));
    list = [];
    taken = 0;
  };
  for (const [unit] of dividing) {
    if (left.length <= target - taken && taken === 0) break;
    const bucket = left.filter((row) => units.has(row, unit));
    if (bucket.length === 0 || bucket.length > size) continue;
    if (taken + bucket.length > size) close();
    if (left.length <= target && taken === 0) break;
    list.push(unit);
    taken += bucket.length;
    left = left.filter((row) => !units.has(row, unit));
  }
  close();
  while (left.length > target) {
    const texts = new Set(left.slice(0, size).map((row) => units.words.pool.normOf(row)));
    made.push(newNode(node, [], round, units, texts));
    left = left.slice(size);
  }
  return made;
}
