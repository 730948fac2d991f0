import type { FunnelStage } from '@sprig/core/text';
import { useCallback, useMemo } from 'react';
import { counted } from '../../../kit/format.ts';
import { useSelection } from '../../../kit/table/selection.ts';
import type { Scope } from '../../../pool/sorting.ts';
import { useWorked } from '../../../pool/use-pool.ts';
import { stageKeys } from '../SortedTable.tsx';
import type { Dropped } from '../ThemeMap.tsx';
import { pathTo, type ThemeNode } from '../theme-tree.ts';
import type { Place } from './use-place.ts';
import type { Sifting } from './use-sift.ts';
import type { Sorted } from './use-sorted.ts';

const noIds = new Uint32Array();

/** The keywords in the table, which of them are selected, and what is done with them by hand. */
export function useChosen(
  { pool, sort, actions, stamp, summary, tree }: Sorted,
  { open, justRest, scope, restScope }: Place,
  { isSifting, answer }: Sifting,
  onMove: (keywords: number[]) => void,
) {
  const selection = useSelection<number>();
  const tableScope: Scope = open || justRest ? scope : restScope;
  const { data: ids = noIds, busy } = useWorked(
    async () => (summary ? pool.worker.sortedIds(tableScope) : noIds),
    `ids ${stamp} ${JSON.stringify(tableScope)} ${summary ? 1 : 0}`,
  );
  const shown = isSifting ? (answer?.ids ?? noIds) : ids;
  const held = useMemo(() => new Map(sort?.placed.map(({ keyword, theme }) => [keyword, theme])), [sort]);
  const setStage = (keywords: number[], stage: FunnelStage | null) => {
    const what = stage === null ? 'Let go of the stage of' : 'Set the stage of';
    if (keywords.length > 0)
      void actions.stage(keywords, stage, `${what} ${counted(keywords.length, 'keyword')}.`);
  };
  const letGo = useCallback(
    (keywords: number[]) =>
      void actions.place(keywords, null, `Let go of ${counted(keywords.length, 'keyword')}.`),
    [actions],
  );
  const move = (keywords: number[]) => {
    if (keywords.length > 0) onMove(keywords);
  };
  /** A theme or keywords that were dragged onto a theme, or to where none is. */
  const drop = (dropped: Dropped, onto: ThemeNode | null) => {
    const target = onto ?? open;
    if ('theme' in dropped) {
      const isWithinItself = onto !== null && pathTo(tree, onto.id).some(({ id }) => id === dropped.theme);
      if (!isWithinItself) void actions.move([dropped.theme], target?.id ?? null, null);
      return;
    }
    const keywords = selection.has(dropped.keyword) ? selection.listIn(shown) : [dropped.keyword];
    void actions.place(keywords, target?.id ?? 0, movedWords(keywords.length, target?.name ?? null));
    selection.clear();
  };
  const keys: Record<string, (keywords: number[]) => void> = {
    m: move,
    l: letGo,
    w: (keywords) => setStage(keywords, null),
  };
  for (const [key, stage] of Object.entries(stageKeys)) keys[key] = (keywords) => setStage(keywords, stage);
  return {
    selection,
    shown,
    busy,
    held,
    keys,
    move,
    letGo,
    setStage,
    drop,
    list: () => selection.listIn(shown),
  };
}

/** `theme`: where they went; null where they are out of all themes. */
export const movedWords = (keywords: number, theme: string | null): string => {
  const words = counted(keywords, 'keyword');
  return theme === null ? `${words} are out of all themes.` : `Moved ${words} to ${theme}.`;
};

export type Chosen = ReturnType<typeof useChosen>;
