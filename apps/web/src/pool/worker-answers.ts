import type { Estimate, Factor, MeasureModel, Quality } from '@sprig/core/figures';
import type { LineProblem, ListLayout, Reading, SetAside } from '@sprig/core/gather';

/** What was understood of a list, in the numbers and samples that the screen shows. */
export type ReadSummary = {
  layout: ListLayout;
  counts: Reading['counts'];
  keywords: number;
  negatives: number;
  alreadyThere: number;
  withSearches: number;
  withCpc: number;
  problems: LineProblem[];
  problemCount: number;
  /** The first lines that were set aside, headings left out, and how many there are. */
  setAside: SetAside[];
  setAsideCount: number;
  sample: { line: number; text: string; asked: number; searches: number | null; cpc: number | null }[];
};

/** How good estimates of a measure are, from how many told keywords. */
export type EstimatesAbout = { told: number; quality: Quality };

export type Learned = { changes: number; searches: EstimatesAbout | null; cpc: EstimatesAbout | null };

export type EstimateSaid = Estimate & { factors: Factor[] };

export const aboutOf = (model: MeasureModel | null | undefined): EstimatesAbout | null =>
  model ? { told: model.told, quality: model.quality } : null;

export const SHOWN_PROBLEMS = 500;

export const SAMPLE = 200;

const utf8 = new TextDecoder('utf-8', { fatal: true });

export const isUtf8 = (bytes: Uint8Array) => {
  try {
    utf8.decode(bytes);
    return true;
  } catch {
    return false;
  }
};

export type Rewrites = { words: string } | { edits: { id: number; before: string; after: string }[] };
