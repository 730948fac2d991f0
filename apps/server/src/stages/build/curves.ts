import { setImmediate as breathe } from 'node:timers/promises';
import type { Curve } from '@sprig/core/build';
import { market } from '../../market.ts';

/** Searches that the market is asked about at once, so that no other request has to wait long. */
const BATCH = 1_000;
/** Searches of which the market's answer is remembered. */
const REMEMBERED = 150_000;
const known = new Map<string, Curve>();

/** What the market expects of each text. */
export async function curvesOf(texts: Iterable<string>): Promise<ReadonlyMap<string, Curve>> {
  const curves = new Map<string, Curve>();
  const asked: string[] = [];
  for (const text of texts) {
    const curve = known.get(text);
    if (curve) curves.set(text, curve);
    else if (!curves.has(text)) asked.push(text);
  }
  for (let from = 0; from < asked.length; from += BATCH) {
    const batch = asked.slice(from, from + BATCH);
    const answers = await market().curves(batch);
    if (known.size + batch.length > REMEMBERED) known.clear();
    batch.forEach((text, at) => {
      const curve = answers[at] ?? [];
      known.set(text, curve);
      curves.set(text, curve);
    });
    await breathe();
  }
  return curves;
}
