import { useEffect } from 'react';

/**
 * Loads code some milliseconds after the screen is there. What fails then is asked for again, and told, when it is
 * needed. `load` must stay the same between renders.
 */
export function usePreload(load: () => Promise<unknown>, afterMs: number): void {
  useEffect(() => {
    const settled = setTimeout(() => void load().catch(() => {}), afterMs);
    return () => clearTimeout(settled);
  }, [load, afterMs]);
}
