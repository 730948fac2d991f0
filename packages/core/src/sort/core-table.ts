import { int32At, itemAt, numberAt } from '../access/index.ts';
/** Keywords that share a core: the units that all of them have, in order of their numbers. */
export type Group = {
  core: readonly number[];
  rows: number[];
  /** Made of keywords none of which is its content alone. */
  assembled: boolean;
};

/** A core on its way to be a group. */
export type Core = Group & {
  /** How much it says; worked out when first asked for. */
  worth: number | null;
  /** Keywords of small cores that have it in them. */
  coming: number;
};

/**
 * Cores by their units. A core's hash is the sum of its units', so that those of all its parts come by adding up: no
 * key is written for the many parts that are nobody's core.
 */
export class CoreTable {
  readonly cores: Core[] = [];
  private hashes = new Int32Array(1 << 10);
  /** One more than the place of a core; 0 is free. */
  private slots = new Int32Array(1 << 11);

  /** The core of these units, in order of their numbers; made where it is not there. */
  take(core: readonly number[], assembled: boolean): Core {
    const hash = hashOfAll(core);
    const known = this.find(hash, core, -1);
    if (known) return known;
    if (this.cores.length === this.hashes.length) this.grow();
    const made: Core = { core, rows: [], assembled, worth: null, coming: 0 };
    this.hashes[this.cores.length] = hash;
    this.cores.push(made);
    this.put(this.cores.length, hash);
    return made;
  }

  /** Calls with every core that is a part of this one, itself included. */
  eachPart(core: readonly number[], visit: (part: Core) => void): void {
    const last = 1 << core.length;
    const sums = PART_SUMS;
    sums[0] = 0;
    for (let mask = 1; mask < last; mask++) {
      const low = 31 - Math.clz32(mask & -mask);
      sums[mask] = (int32At(sums, mask & (mask - 1)) + hashOf(numberAt(core, low))) | 0;
      const part = this.find(int32At(sums, mask), core, mask);
      if (part) visit(part);
    }
  }

  /** The core of the units of `core` that `mask` names; all for -1. */
  private find(hash: number, core: readonly number[], mask: number): Core | null {
    const { slots } = this;
    for (let at = slotOf(hash, slots.length); slots[at] !== 0; at = (at + 1) & (slots.length - 1)) {
      const place = int32At(slots, at) - 1;
      if (this.hashes[place] !== hash) continue;
      const found = itemAt(this.cores, place);
      if (isPart(found.core, core, mask)) return found;
    }
    return null;
  }

  private put(entry: number, hash: number) {
    const { slots } = this;
    let at = slotOf(hash, slots.length);
    while (slots[at] !== 0) at = (at + 1) & (slots.length - 1);
    slots[at] = entry;
  }

  private grow() {
    const hashes = new Int32Array(this.hashes.length * 2);
    hashes.set(this.hashes);
    this.hashes = hashes;
    this.slots = new Int32Array(hashes.length * 2);
    for (let place = 0; place < this.cores.length; place++) this.put(place + 1, int32At(hashes, place));
  }
}

/** More units than this in one keyword only make it rare: the rarest are left out. */
export const DEEPEST = 8;
const PART_SUMS = new Int32Array(1 << DEEPEST);

function hashOf(unit: number): number {
  let hash = Math.imul(unit + 1, 0x9e3779b1);
  hash = Math.imul(hash ^ (hash >>> 15), 0x85ebca6b);
  return hash ^ (hash >>> 13);
}

function hashOfAll(core: readonly number[]): number {
  let sum = 0;
  for (let at = 0; at < core.length; at++) sum = (sum + hashOf(numberAt(core, at))) | 0;
  return sum;
}

const slotOf = (hash: number, size: number): number => (Math.imul(hash, 0x2c1b3c6d) >>> 7) & (size - 1);

function isPart(part: readonly number[], core: readonly number[], mask: number): boolean {
  let next = 0;
  for (let at = 0; at < core.length; at++) {
    if (mask !== -1 && !(mask & (1 << at))) continue;
    if (part[next] !== core[at]) return false;
    next++;
  }
  return next === part.length;
}
