import type { AboutKey } from '@sprig/contracts';
import { useSyncExternalStore } from 'react';

/** What notes are about, as one reads it. */
export type Subject = AboutKey & { name: string };

/** `about`: null, those of the whole plan. */
type Open = { about: Subject | null };

let open: Open | null = null;
const listeners = new Set<() => void>();

function put(next: Open | null): void {
  open = next;
  for (const tell of listeners) tell();
}

/** Shows the notes of the plan, or those about something, with a new one to be written. */
export const openNotes = (about: Subject | null = null): void => put({ about });
export const closeNotes = (): void => put(null);
/** Shows them, or puts them away where they are shown. */
export const turnNotes = (): void => put(open ? null : { about: null });

export const useOpenNotes = (): Open | null =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => void listeners.delete(tell);
    },
    () => open,
  );
