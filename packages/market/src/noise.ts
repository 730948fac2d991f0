/** A number from 0 up to 1 that hangs on the text alone (FNV-1a). */
export function noiseOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return ((hash ^ (hash >>> 16)) >>> 0) / 4_294_967_296;
}
