import { useSyncExternalStore } from 'react';

let isOut = false;
const listeners = new Set<() => void>();

/** Says whether the server has told this window that nobody is signed in. */
export function setSignedOut(next: boolean): void {
  if (next === isOut) return;
  isOut = next;
  for (const tell of listeners) tell();
}

const subscribe = (tell: () => void) => {
  listeners.add(tell);
  return () => void listeners.delete(tell);
};

/** Whether what is shown was read by somebody who is signed in no more. */
export const useSignedOut = (): boolean => useSyncExternalStore(subscribe, () => isOut);
