import type { QueryClient } from '@tanstack/react-query';

/**
 * Has all that is under a key fetched again, and waits for what is shown. What is on its way for the first time is asked once more when it has
 * come: it may have been read before what this is called for, and the library would take it for new.
 */
export function fetchAgain(client: QueryClient, queryKey: readonly unknown[]): Promise<void> {
  for (const query of client.getQueryCache().findAll({ queryKey })) {
    if (query.state.data !== undefined || query.state.fetchStatus === 'idle' || awaited.has(query)) continue;
    awaited.add(query);
    const again = () => {
      awaited.delete(query);
      void client.invalidateQueries({ queryKey: query.queryKey, exact: true });
    };
    query.promise?.then(again, again);
  }
  return client.invalidateQueries({ queryKey });
}

const awaited = new WeakSet<object>();
