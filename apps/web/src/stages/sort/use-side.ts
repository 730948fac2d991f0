import { useEffect, useMemo, useRef } from 'react';
import type { SortInput } from '../../pool/sorting.ts';
import { openSideWorker, SerialQueue } from '../../pool/use-pool.ts';

type Side = ReturnType<typeof openSideWorker>;

/** A worker beside the plan's for suggestions and the whole plan: a keystroke never waits for them. */
export function useSide(plan: number, input: SortInput | null) {
  const open = useRef<Side | null>(null);
  const placed = useRef<{ revision: number; input: SortInput | null }>({ revision: -1, input: null });
  const newest = useRef(input);
  newest.current = input;
  useEffect(
    () => () => {
      open.current?.close();
      open.current = null;
      placed.current = { revision: -1, input: null };
    },
    [],
  );
  return useMemo(
    () => ({
      turns: new SerialQueue(),
      /** The worker, with the pool and the themes as they are now. */
      ready: async () => {
        open.current ??= openSideWorker();
        const { worker } = open.current;
        const { revision } = await worker.refresh(plan);
        const wanted = newest.current;
        if (wanted && (placed.current.input !== wanted || placed.current.revision !== revision)) {
          await worker.prepareSort(wanted);
          placed.current = { revision, input: wanted };
        }
        return worker;
      },
    }),
    [plan],
  );
}
