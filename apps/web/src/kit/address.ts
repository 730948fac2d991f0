import { useCallback, useEffect, useRef, useState } from 'react';
import { useLocation, useNavigation, useSearchParams } from 'react-router';

/** The address's parameters with some changed; an empty text takes one away. */
export function withParams(old: URLSearchParams, change: Record<string, string>): URLSearchParams {
  const next = new URLSearchParams(old);
  for (const [name, value] of Object.entries(change)) {
    if (value === '') next.delete(name);
    else next.set(name, value);
  }
  return next;
}

/** Whether it changes with each key: the way back does not go letter by letter. */
export const isTyped = (change: Record<string, string>): boolean => 'filter' in change;

/**
 * The address's parameters, and how to change them. What is set shows at once: the address itself follows
 * a moment later, and a ticked box would jump back in between.
 */
export function useAddress({ replace = false } = {}) {
  const [params, setParams] = useSearchParams();
  const [ahead, setAhead] = useState({ from: params, next: params });
  const shown = ahead.from === params ? ahead.next : params;
  // What ends later, such as keeping something, changes the address as it is by then.
  const now = useRef({ params, shown });
  now.current = { params, shown };
  // What ends when its screen has been left, or while the next one is loaded, does not lead back to it.
  const { pathname } = useLocation();
  const { location: coming } = useNavigation();
  const isLeaving = useRef(false);
  isLeaving.current = coming !== undefined && coming.pathname !== pathname;
  const isThere = useRef(true);
  useEffect(() => {
    isThere.current = true;
    return () => {
      isThere.current = false;
    };
  }, []);
  const set = useCallback(
    (change: Record<string, string>, { replace: instead = replace || isTyped(change) } = {}) => {
      if (!isThere.current || isLeaving.current) return;
      const { params: from, shown: before } = now.current;
      const next = withParams(before, change);
      now.current = { params: from, shown: next };
      setAhead({ from, next });
      setParams(next, { replace: instead });
    },
    [setParams, replace],
  );
  return [shown, set] as const;
}
