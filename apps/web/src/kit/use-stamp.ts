import { useRef } from 'react';

/** A number that changes whenever the value is another one. */
export function useStamp(value: unknown): number {
  const last = useRef({ value, stamp: 0 });
  if (last.current.value !== value) last.current = { value, stamp: last.current.stamp + 1 };
  return last.current.stamp;
}
