import { useEffect, useMemo, useState } from 'react';

/**
 * Tells what comes into an address from elsewhere (a way back, a link) from what was written there by oneself: that arrives
 * a moment later, when it may be said otherwise here already, and what is skipped on the way never arrives.
 */
export class UrlState {
  private readonly onTheWay: string[] = [];

  constructor(private last: string) {}

  wrote(text: string): void {
    this.onTheWay.push(text);
  }

  /** Whether what the address says now was not written here. */
  isNews(text: string): boolean {
    if (text === this.last) return false;
    this.last = text;
    const own = this.onTheWay.indexOf(text);
    this.onTheWay.splice(0, own < 0 ? this.onTheWay.length : own + 1);
    return own < 0;
  }
}

/** A text that is written here at once and into the address a moment later, and follows the address where that changes by itself. */
export function useUrlText(address: string): [text: string, write: (text: string) => void] {
  const [text, setText] = useState(address);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what comes later is news or not
  const followed = useMemo(() => new UrlState(address), []);
  useEffect(() => {
    if (followed.isNews(address)) setText(address);
  }, [followed, address]);
  const write = useMemo(
    () => (next: string) => {
      followed.wrote(next);
      setText(next);
    },
    [followed],
  );
  return [text, write];
}
