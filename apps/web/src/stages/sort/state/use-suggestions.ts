import * as api from '@sprig/contracts';
import type { Suggestion } from '@sprig/core/sort';
import { useCallback, useState } from 'react';
import { counted } from '../../../kit/format.ts';
import { useWorked } from '../../../pool/use-pool.ts';
import type { useSide } from '../use-side.ts';
import type { Place } from './use-place.ts';
import type { Sorted } from './use-sorted.ts';

/** Groups that show themselves in what has no theme yet, and those within one of them that is looked into. */
export function useSuggestions(
  { stamp, summary, sort, actions }: Sorted,
  { open, restScope }: Pick<Place, 'open' | 'restScope'>,
  side: ReturnType<typeof useSide>,
) {
  const [within, setWithin] = useState<Suggestion[]>([]);
  const inside = within.at(-1) ?? null;
  const { data: list, busy } = useWorked(
    async () => (summary ? (await side.ready()).suggestions(restScope, inside?.at ?? null) : undefined),
    `suggest ${stamp} ${JSON.stringify(restScope)} ${inside?.at ?? ''} ${summary ? 1 : 0}`,
    side.turns,
  );
  const take = (suggestion: Suggestion, name: string) => {
    void actions.make(
      open?.id ?? null,
      [api.newThemeOf(name, suggestion.sift)],
      false,
      () => `Took ${name}: ${counted(suggestion.keywords, 'keyword')}.`,
    );
  };
  const dismiss = async (suggestion: Suggestion) => {
    if (!sort) return;
    const sentence = await (await side.ready()).sentenceOfSuggestion(restScope, suggestion.at);
    await actions.setting(sort.settings, 'dismissed', [...sort.settings.dismissed, sentence]);
  };
  const leave = useCallback(() => setWithin([]), []);
  return {
    list,
    busy,
    inside,
    take,
    dismiss,
    lookInside: (suggestion: Suggestion) => setWithin([...within, suggestion]),
    back: () => setWithin(within.slice(0, -1)),
    leave,
  };
}
