/** A number from 0 up to 1 that hangs on the text alone (FNV-1a). */
export const noiseOf = (text: string): number => scaled(run(0x811c9dc5, text));

/** The noise of texts that begin alike, the beginning gone through once. */
export function noiseAfter(beginning: string): (rest: string) => number {
  const hash = run(0x811c9dc5, beginning);
  return (rest) => scaled(run(hash, rest));
}

function run(start: number, text: string): number {
  let hash = start;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return hash;
}

const scaled = (hash: number): number => ((hash ^ (hash >>> 16)) >>> 0) / 4_294_967_296;
