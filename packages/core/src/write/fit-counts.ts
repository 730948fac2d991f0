import type { TokenValues } from '../text/index.ts';
import { type AdField, type AdLimits, adFields, type CompiledPattern } from './ad-pattern.ts';
import { fillAddress } from './address.ts';
import { fitLine, type Writing } from './fit-line.ts';

/** How one field fares over many ad groups. */
export type FieldCount = {
  /** Groups that use line 1, 2, 3, … */
  byLine: number[];
  unfilled: number;
  /** The least number of characters that the best-off unfilled group is over by; 0 where none is too long. */
  leastOverrun: number;
};

export type FitCounts = {
  groups: number;
  /** Groups in which at least one field is unfilled. */
  misfits: number;
  /** Their places, from 0. */
  misfitPlaces: number[];
  fields: Record<AdField, FieldCount>;
  badAddresses: number;
};

/** Fits a pattern for every group and counts; `valuesOf(n)` gives the n-th group's tokens. O(groups × lines). */
export function countFits(
  pattern: CompiledPattern,
  groups: number,
  valuesOf: (at: number) => TokenValues,
  limits: AdLimits,
  writing: Writing,
): FitCounts {
  const fields = {} as Record<AdField, FieldCount>;
  for (const name of adFields)
    fields[name] = { byLine: pattern.fields[name].lines.map(() => 0), unfilled: 0, leastOverrun: 0 };
  const counts: FitCounts = { groups, misfits: 0, misfitPlaces: [], fields, badAddresses: 0 };
  const asked = adFields.filter((name) => pattern.fields[name].lines.length > 0 || limits[name].required);
  for (let at = 0; at < groups; at++) {
    const values = valuesOf(at);
    let fits = true;
    for (const name of asked) fits = countField(fields[name], pattern, name, values, limits, writing) && fits;
    if (pattern.finalUrl === null || fillAddress(pattern.finalUrl, values).status === 'problem') {
      counts.badAddresses++;
      fits = false;
    }
    if (fits) continue;
    counts.misfits++;
    counts.misfitPlaces.push(at);
  }
  return counts;
}

function countField(
  count: FieldCount,
  pattern: CompiledPattern,
  name: AdField,
  values: TokenValues,
  limits: AdLimits,
  writing: Writing,
): boolean {
  const fit = fitLine(pattern.fields[name], values, limits[name].limit, writing);
  if (fit.status === 'fits') {
    count.byLine[fit.line] = (count.byLine[fit.line] ?? 0) + 1;
    return true;
  }
  count.unfilled++;
  if (fit.why === 'too-long' && (count.leastOverrun === 0 || fit.overrun < count.leastOverrun))
    count.leastOverrun = fit.overrun;
  return false;
}
