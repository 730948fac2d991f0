/** Room for twice as many. */
export const grown = (array: Uint32Array): Uint32Array<ArrayBuffer> => {
  const larger = new Uint32Array(array.length * 2);
  larger.set(array);
  return larger;
};
