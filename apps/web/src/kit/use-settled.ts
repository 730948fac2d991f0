import { useEffect, useState } from 'react';

/** A pause in the typing, not its end: what is asked for meanwhile would be answered too late to be of use. */
const PAUSE_MS = 120;

/** What is typed, once the keys pause: for questions that a server answers. */
export function useSettled<T>(typed: T): T {
  const [settled, setSettled] = useState(typed);
  useEffect(() => {
    const pause = setTimeout(() => setSettled(typed), PAUSE_MS);
    return () => clearTimeout(pause);
  }, [typed]);
  return settled;
}
