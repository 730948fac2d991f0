import { type Node, newNode } from './proposed-tree.ts';
import { BETWEEN, CONTENT, type UnitClass, type Units, WANT, WHERE } from './units.ts';

/** What divides first: goods and traits, then what is wanted, then where, then the words between. */
const ORDER: readonly UnitClass[] = [CONTENT, WANT, WHERE, BETWEEN];

/**
 * Divides a theme that has too many keywords of its own: by the unit that most of them have and others have not, class
 * by class, until few enough are left; where no unit is in enough of them, by lists of rare ones.
 */
export function divide(node: Node, units: Units, target: number, least: number, round: number): Node[] {
  const made: Node[] = [];
  let rest = node.rows;
  for (const kind of ORDER)
    while (rest.length > target) {
      const unit = bestDivider(rest, node, units, kind, least);
      if (unit === null) break;
      made.push(newNode(node, [[unit]], round, units));
      rest = rest.filter((row) => !units.has(row, unit));
    }
  if (rest.length > target) made.push(...byLists(rest, node, units, target, round));
  return made;
}

function countsIn(rows: readonly number[], units: Units): Map<number, number> {
  const counts = new Map<number, number>();
  for (const row of rows) for (const unit of units.allOf(row)) counts.set(unit, (counts.get(unit) ?? 0) + 1);
  return counts;
}

function bestDivider(
  rows: readonly number[],
  node: Node,
  units: Units,
  kind: UnitClass,
  least: number,
): number | null {
  let best: number | null = null;
  let most = least - 1;
  for (const [unit, count] of countsIn(rows, units)) {
    if (units.classes[unit] !== kind || node.path.has(unit) || node.spent.has(unit)) continue;
    if (count > rows.length - least) continue;
    if (count > most || (count === most && best !== null && before(units, unit, best))) {
      best = unit;
      most = count;
    }
  }
  return best;
}

const before = (units: Units, a: number, b: number): boolean =>
  (units.terms[a]?.[0] ?? '') < (units.terms[b]?.[0] ?? '');

/** Themes of about the same size by lists of units that few keywords have; at last by whole keywords. */
function byLists(rest: readonly number[], node: Node, units: Units, target: number, round: number): Node[] {
  const size = Math.ceil(rest.length / Math.ceil(rest.length / target));
  const counts = countsIn(rest, units);
  const dividing = [...counts]
    .filter(([unit, count]) => !node.path.has(unit) && count < rest.length)
    .sort(
      ([a], [b]) =>
        (units.classes[a] as number) - (units.classes[b] as number) || (before(units, a, b) ? -1 : 1),
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
