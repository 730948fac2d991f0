import type { FactTable } from '../learn/index.ts';
import type { AdCell, AdTestRules } from './ad-test.ts';

/** Which of two sides each place is on, -1 where on none, and the stratum that it is in. */
export type AdSides = { of: Int8Array; stratum: Int32Array };

type Half = { tries: number; hits: number; clicks: number; seen: number };
const MILLION = 1_000_000;

/**
 * What two sides had, by strata and times, of those alone in which both were seen; in the order of times. Conversions count as
 * whole ones, none below nothing and none above the clicks. O(rows).
 *
 * @param added which times of which campaigns are looked at, as for sums
 */
export function adCells(
  table: FactTable,
  added: Uint8Array,
  { of, stratum }: AdSides,
  by: AdTestRules['by'],
): AdCell[] {
  const { impressions, clicks, conversions } = table.figures;
  if (!impressions || !clicks || (by === 'conversions' && !conversions)) return [];
  const halves = new Map<number, [Half, Half]>();
  const times = table.times.length;
  for (let row = 0; row < table.rows; row++) {
    const place = table.place[row] as number;
    const side = of[place] as number;
    if (side < 0) continue;
    const time = table.time[row] as number;
    if (!added[time * table.campaigns + (table.campaignOf[place] as number)]) continue;
    const at = (stratum[place] as number) * times + time;
    let both = halves.get(at);
    if (!both) {
      both = [none(), none()];
      halves.set(at, both);
    }
    const half = both[side] as Half;
    const shown = impressions[row] || 0;
    const clicked = Math.min(clicks[row] || 0, shown);
    half.seen += shown;
    half.clicks += clicked;
    half.tries += by === 'clicks' ? shown : clicked;
    half.hits += by === 'clicks' ? clicked : (conversions?.[row] || 0) / MILLION;
  }
  const cells: AdCell[] = [];
  for (const [at, [a, b]] of halves) {
    if (a.seen <= 0 || b.seen <= 0) continue;
    cells.push({
      time: table.times[at % times]?.from ?? 0,
      stratum: Math.floor(at / times),
      triesA: a.tries,
      hitsA: whole(a),
      triesB: b.tries,
      hitsB: whole(b),
      clicksA: a.clicks,
      clicksB: b.clicks,
    });
  }
  return cells.sort((one, other) => one.time - other.time || one.stratum - other.stratum);
}

const none = (): Half => ({ tries: 0, hits: 0, clicks: 0, seen: 0 });
const whole = ({ hits, tries }: Half): number => Math.min(Math.max(0, Math.round(hits)), tries);
