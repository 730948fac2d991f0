import { useEffect, useRef, useState } from 'react';
import { openSideWorker } from './use-pool.ts';

/** A worker that begins when it is first asked, and ends with the view. */
export function useSideWorker() {
  const open = useRef<ReturnType<typeof openSideWorker> | null>(null);
  useEffect(
    () => () => {
      open.current?.close();
      open.current = null;
    },
    [],
  );
  const [ask] = useState(() => () => {
    open.current ??= openSideWorker();
    return open.current.worker;
  });
  return ask;
}
