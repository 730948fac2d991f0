import type { TokenValues } from '../text/index.ts';
import type { CompiledPattern } from './ad-pattern.ts';
import { compileLines } from './ad-pattern.ts';
import type { TextRules } from './compiled-line.ts';
import { type AdField, type AdLimits, adFields } from './fields.ts';
import { fitLine } from './fit-line.ts';

/** How one field fares over many ad groups. */
export type FieldCount = {
  /** Groups that use line 1, 2, 3, … */
  byLine: number[];
  unfilled: number;
  /** Filled with less than half of what there is room for. */
  short: number;
  /** The least number of characters that the best-off unfilled group is over by; 0 where none is too long. */
  leastOverrun: number;
};

export type FitCounts = {
  groups: number;
  /** Groups in which at least one field is unfilled. */
  misfits: number;
  /** Their places, from 0. */
  misfitPlaces: number[];
  /** Groups in which a headline or description is filled with less than half, none of them unfilled. */
  shortPlaces: number[];
  fields: Partial<Record<AdField, FieldCount>>;
};

/** Fits a pattern for every group and counts; `valuesOf(n)` gives the n-th group's tokens. O(groups × lines). */
export function countFits(
  pattern: CompiledPattern,
  groups: number,
  valuesOf: (at: number) => TokenValues,
  limits: AdLimits,
  writing: TextRules,
): FitCounts {
  const fields: FitCounts['fields'] = {};
  const asked = adFields.filter(
    (name) => limits[name] && (pattern.fields[name].lines.length > 0 || limits[name]?.required),
  );
  for (const name of asked)
    fields[name] = {
      byLine: pattern.fields[name].lines.map(() => 0),
      unfilled: 0,
      short: 0,
      leastOverrun: 0,
    };
  const counts: FitCounts = { groups, misfits: 0, misfitPlaces: [], shortPlaces: [], fields };
  for (let at = 0; at < groups; at++) {
    const values = valuesOf(at);
    let fits = true;
    let isShort = false;
    for (const name of asked) {
      const found = countField(fields[name] as FieldCount, pattern, name, values, limits, writing);
      if (found === 'unfilled') fits = false;
      else if (found === 'short') isShort = true;
    }
    if (!fits) {
      counts.misfits++;
      counts.misfitPlaces.push(at);
    } else if (isShort) counts.shortPlaces.push(at);
  }
  return counts;
}

function countField(
  count: FieldCount,
  pattern: CompiledPattern,
  name: AdField,
  values: TokenValues,
  limits: AdLimits,
  writing: TextRules,
): 'fits' | 'short' | 'unfilled' {
  const limit = limits[name]?.limit ?? 0;
  const fit = fitLine(pattern.fields[name], values, limit, writing);
  if (fit.status === 'fits') {
    count.byLine[fit.line] = (count.byLine[fit.line] ?? 0) + 1;
    if (fit.length * 2 >= limit || name.startsWith('path')) return 'fits';
    count.short++;
    return 'short';
  }
  count.unfilled++;
  if (fit.why === 'too-long' && (count.leastOverrun === 0 || fit.overrun < count.leastOverrun))
    count.leastOverrun = fit.overrun;
  return 'unfilled';
}

/** A line that would fill a field in `fits` of the `of` groups in which it is unfilled now. */
export type Cure = { line: string; fits: number; of: number };

const CURES = 3;
const ALWAYS = ['@keyword', '@theme', '@group', '@branch', '@place'];

/**
 * Lines to add under those of a field, the one that fills most of the groups first, and of two the longer one; each fills
 * some that those before it do not. They are the field's own lines with words taken off, and bare tokens.
 */
export function curesOf(
  sources: readonly string[],
  field: Pick<CompiledPattern['fields'][AdField], 'style'>,
  unfilled: readonly TokenValues[],
  limit: number,
  writing: TextRules,
): Cure[] {
  const candidates = [...new Set([...sources.flatMap(shortened), ...ALWAYS])]
    .filter((line) => !sources.includes(line))
    .flatMap((line) => {
      const compiled = compileLines([line], field.style);
      if (compiled.lines.length === 0) return [];
      const fitting = new Set<number>();
      let length = 0;
      unfilled.forEach((values, at) => {
        const fit = fitLine(compiled, values, limit, writing);
        if (fit.status !== 'fits') return;
        fitting.add(at);
        length += fit.length;
      });
      return fitting.size === 0 ? [] : [{ line, fitting, length: length / fitting.size }];
    })
    .sort((a, b) => b.fitting.size - a.fitting.size || b.length - a.length);
  const cures: Cure[] = [];
  const cured = new Set<number>();
  for (const { line, fitting } of candidates) {
    if (cures.length === CURES) break;
    if (cures.length > 0 && ![...fitting].some((at) => !cured.has(at))) continue;
    for (const at of fitting) cured.add(at);
    cures.push({ line, fits: fitting.size, of: unfilled.length });
  }
  return cures;
}

/** A line with words off its end, or its start, one after another; tokens with brackets count as one word. */
function shortened(source: string): string[] {
  const words = source.match(/@[a-z]+\([^)]*\)\S*|\S+/gi) ?? [];
  const lines: string[] = [];
  for (let count = words.length - 1; count > 0; count--) {
    lines.push(trimmed(words.slice(0, count)));
    lines.push(trimmed(words.slice(words.length - count)));
  }
  const hasToken = source.includes('@');
  return lines.filter((line) => line !== '' && line.includes('@') === hasToken);
}

/** Without what can't stand at an end: marks, and little words. */
const LOOSE =
  /^(?:[\s,;:–—|&-]+|(?:in|at|from|for|to|of|and|or|the|a|an|with|on|by)\s+)+|(?:[\s,;:–—|&-]+|\s+(?:in|at|from|for|to|of|and|or|the|a|an|with|on|by))+$/gi;
const trimmed = (words: readonly string[]) => words.join(' ').replace(LOOSE, '').trim();
