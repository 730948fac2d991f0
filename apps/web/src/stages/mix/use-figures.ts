import { useEffect, useState } from 'react';
import type { MixFigures, MixSummary } from '../../pool/mixing.ts';
import type { usePool } from '../../pool/use-pool.ts';

/**
 * What is known of what the recipe makes, as it is looked at; what was known of the recipe before stays until then. `looks`
 * counts the answers: what was asked of the recipe between two of them is to be asked again.
 */
export function useFigures(
  worker: Pick<ReturnType<typeof usePool>['worker'], 'mixFigures'>,
  summary: MixSummary | undefined,
): { figures: MixFigures | null; looks: number; error: string | null } {
  const [state, setState] = useState<ReturnType<typeof useFigures>>({
    figures: null,
    looks: 0,
    error: null,
  });
  useEffect(() => {
    if (!summary) return;
    let wanted = true;
    const ask = async () => {
      for (let isDone = false; !isDone && wanted; ) {
        const figures = await worker.mixFigures();
        isDone = figures.asked >= figures.of;
        if (wanted) setState(({ looks }) => ({ figures, looks: looks + 1, error: null }));
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
