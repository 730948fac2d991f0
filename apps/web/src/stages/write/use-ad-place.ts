import { useCallback, useEffect, useRef, useState } from 'react';
import type { WritingState } from './use-writing.ts';

/**
 * Which ad of the strip is in view: that of a group that is wanted by the address, the next that does not fit. `set`
 * changes the address, and must stay the same between renders.
 */
export function useAdPlace(
  { pool, fit }: WritingState,
  wanted: string | null,
  set: (change: Record<string, string>) => void,
) {
  const [place, setPlace] = useState(0);
  /** How often those that do not fit were put to the front. */
  const [ordered, setOrdered] = useState(0);
  const total = fit?.chosen.groups ?? 0;
  const { worker } = pool;
  useEffect(() => {
    if (!wanted || !fit) return;
    worker.writePlaceOf(wanted).then((found) => {
      if (found >= 0) setPlace(found);
      set({ group: '' });
    });
  }, [wanted, fit, worker, set]);
  useEffect(() => {
    if (place > 0 && place >= total && total > 0) setPlace(total - 1);
  }, [place, total]);

  const nextMisfit = useCallback(async () => {
    const next = await worker.nextMisfit(place);
    if (next >= 0) setPlace(next);
  }, [worker, place]);
  // Keys go faster than the worker: what is pressed next is of the ad that was gone to.
  const going = useRef<Promise<unknown>>(Promise.resolve());
  const misfitsFirst = useCallback(async () => {
    await worker.misfitsFirst();
    setOrdered((times) => times + 1);
    setPlace(0);
  }, [worker]);
  return { place, setPlace, ordered, nextMisfit, misfitsFirst, going };
}
