/** How many ad groups and keyword rows one campaign may hold. */
export type PartLimits = { groups: number; rows: number };

export type SplitGroup = { key: string; rows: number };

/**
 * Which numbered part of its campaign each ad group stands in, from 1. Without a history the parts are as even as
 * can be, in the order given. Groups in `before` keep their part; new ones fill the first free place, so that
 * nothing moves when the pool grows. O(groups).
 */
export function splitParts(
  groups: readonly SplitGroup[],
  limits: PartLimits,
  before: ReadonlyMap<string, number> = new Map(),
): number[] {
  const sticky = groups.some((group) => before.has(group.key));
  return sticky ? fillParts(groups, limits, before) : evenParts(groups, limits);
}

function evenParts(groups: readonly SplitGroup[], limits: PartLimits): number[] {
  const rows = groups.reduce((sum, group) => sum + group.rows, 0);
  let parts = Math.max(1, Math.ceil(groups.length / limits.groups), Math.ceil(rows / limits.rows));
  for (;;) {
    const result = groups.map((_, at) => Math.floor((at * parts) / Math.max(1, groups.length)) + 1);
    if (fitsRows(groups, result, limits) || parts >= groups.length) return result;
    parts++;
  }
}

function fitsRows(groups: readonly SplitGroup[], parts: readonly number[], limits: PartLimits): boolean {
  const sums = new Map<number, number>();
  for (let at = 0; at < groups.length; at++) {
    const part = parts[at] as number;
    const sum = (sums.get(part) ?? 0) + (groups[at] as SplitGroup).rows;
    if (sum > limits.rows) return false;
    sums.set(part, sum);
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
    return this.used[part - 1] as { groups: number; rows: number };
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

function fillParts(
  groups: readonly SplitGroup[],
  limits: PartLimits,
  before: ReadonlyMap<string, number>,
): number[] {
  const room = new Room(limits);
  const result = groups.map(({ key, rows }) => {
    const part = before.get(key);
    if (part === undefined || !room.takes(part, rows)) return 0;
    room.put(part, rows);
    return part;
  });
  return result.map((part, at) => {
    if (part > 0) return part;
    const { rows } = groups[at] as SplitGroup;
    const free = room.firstFor(rows);
    room.put(free, rows);
    return free;
  });
}

/** Part 1 keeps the campaign's own name, so that a second part never renames it. */
export const partName = (campaign: string, part: number): string =>
  part === 1 ? campaign : `${campaign} ${part}`;
