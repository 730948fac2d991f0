import { numberAt } from '../access/index.ts';
/**
 * Edit distance in which an adjacent transposition is one slip (optimal string alignment); more than `most` is
 * answered as `most + 1`.
 */
export function slipsBetween(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [];
  let above = Array.from({ length: b.length + 1 }, (_, at) => at);
  for (let row = 1; row <= a.length; row++) {
    const line = [row];
    let least = row;
    for (let column = 1; column <= b.length; column++) {
      const same = a.charCodeAt(row - 1) === b.charCodeAt(column - 1);
      let slips = Math.min(
        numberAt(above, column) + 1,
        numberAt(line, column - 1) + 1,
        numberAt(above, column - 1) + (same ? 0 : 1),
      );
      if (
        row > 1 &&
        column > 1 &&
        a.charCodeAt(row - 1) === b.charCodeAt(column - 2) &&
        a.charCodeAt(row - 2) === b.charCodeAt(column - 1)
      )
        slips = Math.min(slips, numberAt(before, column - 2) + 1);
      line.push(slips);
      if (slips < least) least = slips;
    }
    if (least > most) return most + 1;
    before = above;
    above = line;
  }
  return numberAt(above, b.length);
}
