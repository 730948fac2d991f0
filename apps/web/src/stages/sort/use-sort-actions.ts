import * as api from '@sprig/contracts';
import type { FunnelStage } from '@sprig/core/text';
import { useCallback, useMemo } from 'react';
import { call } from '../../data/call.ts';
import { refusalOf, runChange } from '../../data/run-change.ts';

/** What can be done with themes and placed keywords. Each answers whether it was done; a refusal is shown. */
export function useSortActions(plan: number) {
  const done = useCallback(
    <T>(work: () => Promise<T>, words?: (result: T) => string) => runChange(plan, work, words),
    [plan],
  );
  const params = useMemo(() => ({ plan }), [plan]);
  return useMemo(
    () => ({
      make: (parent: number | null, themes: api.NewTheme[], instead = false, words?: () => string) =>
        done(() => call(api.makeThemes, { params, body: { parent, themes, instead } }), words),
      proposeOnServer: (parent: number | null, instead: boolean) =>
        done(
          () => call(api.proposeThemes, { params, body: { parent, instead } }),
          () => 'The server works the themes out.',
        ),
      /** Answers the words of a refusal, for the field to show. */
      edit: async (
        theme: api.ThemeRow,
        at: keyof api.ThemeBody,
        after: api.ThemeBody[keyof api.ThemeBody],
      ): Promise<string | null> => {
        if (JSON.stringify(theme[at]) === JSON.stringify(after)) return null;
        return refusalOf(plan, () =>
          call(api.editTheme, {
            params: { plan, theme: theme.id },
            body: { edits: [{ at, before: theme[at], after }] },
          }),
        );
      },
      move: (ids: number[], parent: number | null, before: number | null) =>
        done(() => call(api.moveThemes, { params, body: { ids, parent, before } })),
      remove: (ids: number[], words: string) =>
        done(
          () => call(api.removeThemes, { params, body: { ids } }),
          () => words,
        ),
      place: (keywords: number[], theme: number | null, words: string) =>
        done(
          () => call(api.placeByHand, { params, body: { keywords, theme } }),
          () => words,
        ),
      stage: (keywords: number[], stage: FunnelStage | null, words: string) =>
        done(
          () => call(api.stageByHand, { params, body: { keywords, stage } }),
          () => words,
        ),
      setting: (before: api.SortSettings, at: keyof api.SortSettings, after: unknown) =>
        done(() =>
          call(api.editSortSettings, { params, body: { edits: [{ at, before: before[at], after }] } }),
        ),
      seen: (keyword: number) => done(() => call(api.lookedAtSort, { params, body: { keyword } })),
    }),
    [plan, params, done],
  );
}

export type SortActions = ReturnType<typeof useSortActions>;
