import { countAt, itemAt } from '../access/index.ts';
/** How many ad groups and keyword rows one campaign may hold. */
export type PartLimits = { groups: number; rows: number };

/**
 * Which numbered part of its campaign each ad group stands in, from 1; `rows` has each group's keyword rows. Without a
 * history the parts are as even as can be, in the order given. Groups with a part in `before` (0: none) keep it; new
 * ones fill the first free place, so that nothing moves when the pool grows. O(groups).
 */
export function splitParts(
  rows: ArrayLike<number>,
  limits: PartLimits,
  before?: ArrayLike<number>,
): Uint32Array {
  for (let at = 0; before && at < rows.length; at++) if (before[at]) return fillParts(rows, limits, before);
  return evenParts(rows, limits);
}

function evenParts(rows: ArrayLike<number>, limits: PartLimits): Uint32Array {
  const groups = rows.length;
  let sum = 0;
  for (let at = 0; at < groups; at++) sum += countAt(rows, at);
  let parts = Math.max(1, Math.ceil(groups / limits.groups), Math.ceil(sum / limits.rows));
  for (;;) {
    const result = new Uint32Array(groups);
    for (let at = 0; at < groups; at++) result[at] = Math.floor((at * parts) / groups) + 1;
    if (fitsRows(rows, result, limits) || parts >= groups) return result;
    parts++;
  }
}

/** Parts stand in a row, so one sum at a time is enough. */
function fitsRows(rows: ArrayLike<number>, parts: Uint32Array, limits: PartLimits): boolean {
  let sum = 0;
  for (let at = 0; at < parts.length; at++) {
    if (at > 0 && parts[at] !== parts[at - 1]) sum = 0;
    sum += countAt(rows, at);
    if (sum > limits.rows) return false;
  }
  return true;
}

class Room {
  private readonly used: { groups: number; rows: number }[] = [];
  /** No part before this one has a place left for a group of any size. */
  private firstFree = 1;

  constructor(private readonly limits: PartLimits) {}

  at(part: number) {
    while (this.used.length < part) this.used.push({ groups: 0, rows: 0 });
    return itemAt(this.used, part - 1);
  }

  takes(part: number, rows: number): boolean {
    const { groups, rows: used } = this.at(part);
    return groups < this.limits.groups && (used + rows <= this.limits.rows || groups === 0);
  }

  put(part: number, rows: number) {
    const place = this.at(part);
    place.groups++;
    place.rows += rows;
  }

  firstFor(rows: number): number {
    while (!this.takes(this.firstFree, 1)) this.firstFree++;
    let part = this.firstFree;
    while (!this.takes(part, rows)) part++;
    return part;
  }
}

function fillParts(rows: ArrayLike<number>, limits: PartLimits, before: ArrayLike<number>): Uint32Array {
  const room = new Room(limits);
  const result = new Uint32Array(rows.length);
  for (let at = 0; at < rows.length; at++) {
    const part = before[at] ?? 0;
    if (part === 0 || !room.takes(part, countAt(rows, at))) continue;
    room.put(part, countAt(rows, at));
    result[at] = part;
  }
  for (let at = 0; at < rows.length; at++) {
    if (result[at] !== 0) continue;
    const part = room.firstFor(countAt(rows, at));
    room.put(part, countAt(rows, at));
    result[at] = part;
  }
  return result;
}

/** Part 1 keeps the campaign's own name, so that a second part never renames it. */
export const partName = (campaign: string, part: number): string =>
  part === 1 ? campaign : `${campaign} ${part}`;
