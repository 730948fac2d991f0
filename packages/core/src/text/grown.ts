/** Room for twice as many. */
export const grown = (array: Uint32Array): Uint32Array<ArrayBuffer> => {
  const larger = new Uint32Array(array.length * 2);
  larger.set(array);
  return larger;
};

/** The array itself where it has room for so many, else its values in a larger one. */
export function withRoom<T extends Uint16Array | Int32Array>(array: T, size: number): T {
  if (size <= array.length) return array;
  const larger = new (array.constructor as new (length: number) => T)(Math.max(size, array.length * 2));
  larger.set(array);
  return larger;
}
