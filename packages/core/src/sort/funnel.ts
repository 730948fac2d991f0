import { uint32At } from '../access/index.ts';
import type { FunnelStage } from '../text/index.ts';
import type { Placing } from './placing.ts';
import type { Signals } from './stages.ts';
import type { Theme } from './theme.ts';

/** How close to buying the searcher of a keyword is, and what says so. */
export type StageOf = { stage: FunnelStage; from: 'hand' | 'words' | 'theme' } | null;

/** A keyword's stage: by hand, else by its signal words, else that of its theme or of the next above that has one. */
export function stageOfRow(
  row: number,
  signals: Signals,
  held: ReadonlyMap<number, FunnelStage>,
  placing: Placing,
  themes: ReadonlyMap<number, Theme>,
): StageOf {
  const byHand = held.get(row);
  if (byHand) return { stage: byHand, from: 'hand' };
  const byWords = signals.stageOf(row);
  if (byWords) return { stage: byWords, from: 'words' };
  let theme = themes.get(uint32At(placing, row));
  for (let depth = 0; theme && depth < themes.size; depth++) {
    if (theme.stage) return { stage: theme.stage, from: 'theme' };
    theme = theme.parent === null ? undefined : themes.get(theme.parent);
  }
  return null;
}
