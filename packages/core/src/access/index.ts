/**
 * Access to what has to be there: a place beyond the end of a list, or a key that a map has not, is a fault of ours, told
 * where it happens. One function for each kind of list: the engine then knows what each of them reads, and it costs nothing
 * beside the bare access.
 */
function nothingStandsAt(at: number, length: number): never {
  throw new RangeError(`Nothing stands at ${at} of ${length}.`);
}

export function float64At(list: Float64Array, at: number): number {
  const value = list[at];
  return value === undefined ? nothingStandsAt(at, list.length) : value;
}

export function float32At(list: Float32Array, at: number): number {
  const value = list[at];
  return value === undefined ? nothingStandsAt(at, list.length) : value;
}

export function int32At(list: Int32Array, at: number): number {
  const value = list[at];
  return value === undefined ? nothingStandsAt(at, list.length) : value;
}

export function uint32At(list: Uint32Array, at: number): number {
  const value = list[at];
  return value === undefined ? nothingStandsAt(at, list.length) : value;
}

export function uint8At(list: Uint8Array, at: number): number {
  const value = list[at];
  return value === undefined ? nothingStandsAt(at, list.length) : value;
}

/** Of a list of numbers of whatever kind. */
export function countAt(list: ArrayLike<number>, at: number): number {
  const value = list[at];
  return value === undefined ? nothingStandsAt(at, list.length) : value;
}

export function numberAt<T extends number>(list: readonly T[], at: number): T {
  const value = list[at];
  return value === undefined ? nothingStandsAt(at, list.length) : value;
}

export function stringAt<T extends string>(list: readonly T[], at: number): T {
  const value = list[at];
  return value === undefined ? nothingStandsAt(at, list.length) : value;
}

/** Of a list whose items are never undefined. */
export function itemAt<T>(list: readonly T[], at: number): T {
  const value = list[at];
  return value === undefined ? nothingStandsAt(at, list.length) : value;
}

/** What a map has for a key that it has to know. */
export function gotten<Key, Value>(map: ReadonlyMap<Key, Value>, key: Key): Value {
  const value = map.get(key);
  if (value === undefined) throw new RangeError(`Nothing is kept for ${String(key)}.`);
  return value;
}
