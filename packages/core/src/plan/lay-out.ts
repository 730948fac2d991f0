import { uint32At } from '../access/index.ts';
import { type BuildKeyword, buildFrame, type Frame, type FrameInput, renameFrame } from '../build/index.ts';
import { asMicros, type Micros } from '../money/index.ts';
import type { Placed } from './place.ts';
import type { LayoutRules, PlacingRules, PlanPool } from './source.ts';

const known = (value: number): number | null => (value < 0 ? null : value);
const amount = (value: number): Micros | null => (value < 0 ? null : asMicros(value));

/** The keywords that are in, by id, as they are laid out. O(pool). */
export function placedKeywords(pool: PlanPool, placed: Placed): BuildKeyword[] {
  const keywords: BuildKeyword[] = [];
  for (let row = 0; row < pool.length; row++) {
    if (!pool.isIn(row)) continue;
    keywords.push({
      id: pool.idOf(row),
      text: pool.textOf(row),
      norm: pool.normOf(row),
      asked: pool.askedOf(row),
      marks: pool.marksOf(row),
      cpc: amount(pool.cpcOf(row)),
      takenCpc: amount(pool.takenCpcOf(row)),
      searches: known(pool.searchesOf(row)),
      theme: uint32At(placed.placing, row),
      stage: placed.stageOf(row)?.stage ?? null,
      place: placed.placeOf(row),
      sources: pool.sourcesOf(row),
    });
  }
  return keywords.sort((a, b) => a.id - b.id);
}

type Rules = LayoutRules & Pick<PlacingRules, 'pack' | 'themes' | 'places'>;

const frameInput = (keywords: readonly BuildKeyword[], rules: Rules): FrameInput => ({
  keywords,
  layout: rules.layout,
  holds: rules.holds,
  pack: rules.pack,
  casing: rules.casing,
  themes: rules.themes,
  places: rules.places.map(([name = '']) => name),
  sources: rules.sources,
  copies: rules.copies,
  partBefore: rules.partBefore,
  rowsPerGroup: rules.rowsPerGroup,
});

/** Lays placed keywords out in campaigns and ad groups: the second step; `RowBuilder` makes the rows of the frame. */
export const layOut = (keywords: readonly BuildKeyword[], rules: Rules): Frame =>
  buildFrame(frameInput(keywords, rules));

/** A frame under the names of other rules, where nothing but names has changed. */
export const renamed = (frame: Frame, rules: Rules): Frame =>
  renameFrame(frame, frameInput(frame.input.keywords, rules));
