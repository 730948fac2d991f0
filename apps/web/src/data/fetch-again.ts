import type { ReadKind } from '@sprig/contracts';
import type { QueryClient, QueryFilters } from '@tanstack/react-query';
import { hangsOn, isAbout } from './query-key.ts';

/**
 * Has answers fetched again, and waits for what is shown. What is on its way for the first time is asked once more when it has
 * come: it may have been read before what this is called for, and the library would take it for new.
 */
export function fetchAgain(client: QueryClient, which: QueryFilters): Promise<void> {
  for (const query of client.getQueryCache().findAll(which)) {
    if (query.state.data !== undefined || query.state.fetchStatus === 'idle' || awaited.has(query)) continue;
    awaited.add(query);
    const again = () => {
      awaited.delete(query);
      void client.invalidateQueries({ queryKey: query.queryKey, exact: true });
    };
    query.promise?.then(again, again);
  }
  return client.invalidateQueries(which);
}

/** Has fetched again what hangs on changes of a plan. */
export function fetchChanged(client: QueryClient, plan: number, kinds: ReadonlySet<ReadKind>): Promise<void> {
  return fetchAgain(client, { predicate: (query) => isAbout(query, plan) && hangsOn(query, kinds) });
}

const awaited = new WeakSet<object>();
