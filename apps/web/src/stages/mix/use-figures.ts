import { useEffect, useState } from 'react';
import type { MixFigures, MixSummary } from '../../pool/mixing.ts';
import type { usePool } from '../../pool/use-pool.ts';

/** What is known of what the recipe makes, as it is looked at; what was known of the recipe before stays until then. */
export function useFigures(
  worker: ReturnType<typeof usePool>['worker'],
  summary: MixSummary | undefined,
): { figures: MixFigures | null; error: string | null } {
  const [state, setState] = useState<{ figures: MixFigures | null; error: string | null }>({
    figures: null,
    error: null,
  });
  useEffect(() => {
    if (!summary) return;
    let wanted = true;
    const ask = async () => {
      for (let isDone = false; !isDone && wanted; ) {
        const figures = await worker.mixFigures();
        isDone = figures.asked >= figures.of;
        if (wanted) setState({ figures, error: null });
      }
    };
    ask().catch((error: unknown) => {
      if (wanted)
        setState((old) => ({ ...old, error: error instanceof Error ? error.message : String(error) }));
    });
    return () => {
      wanted = false;
    };
  }, [worker, summary]);
  return state;
}
