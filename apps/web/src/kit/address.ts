/** The address's parameters with some changed; an empty text takes one away. */
export function withParams(old: URLSearchParams, change: Record<string, string>): URLSearchParams {
  const next = new URLSearchParams(old);
  for (const [name, value] of Object.entries(change)) {
    if (value === '') next.delete(name);
    else next.set(name, value);
  }
  return next;
}
