import { useCallback } from 'react';
import { useSearchParams } from 'react-router';
import { withParams } from '../../../kit/address.ts';
import type { Scope } from '../../../pool/sorting.ts';
import { pathTo, type ThemeTree } from '../theme-tree.ts';
import { views } from '../WhereAmI.tsx';

/** Which theme is open in which view, as the address says. */
export function usePlace(tree: ThemeTree) {
  const [params, setParams] = useSearchParams();
  const go = useCallback(
    (change: Record<string, string>) => setParams((old) => withParams(old, change), { flushSync: true }),
    [setParams],
  );
  const open = tree.byId.get(Number(params.get('open'))) ?? null;
  const view = views.find((one) => one === params.get('view')) ?? 'map';
  const justRest = params.get('rest') === '1';
  const scope: Scope = open
    ? { kind: 'theme', theme: open.id, own: justRest }
    : { kind: justRest ? 'unplaced' : 'all' };
  /** What is in none of the themes there. */
  const restScope: Scope = open ? { kind: 'theme', theme: open.id, own: true } : { kind: 'unplaced' };
  return {
    params,
    go,
    open,
    path: pathTo(tree, open?.id ?? null),
    view,
    justRest,
    scope,
    restScope,
    where: open?.name ?? (justRest ? 'the unplaced' : 'the pool'),
  };
}

export type Place = ReturnType<typeof usePlace>;
