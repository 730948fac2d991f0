import { counted } from '../../kit/format.ts';
import { useHolds } from '../../plan/use-holds.ts';
import { useBuildActions } from './use-build.ts';

/** What is done at once to many rows of a table, by their keys, and the keys of the keyboard that do it. */
export function useManyRows(plan: number, word: 'campaign' | 'ad group' | 'keyword row') {
  const { holds } = useHolds(plan);
  const actions = useBuildActions(plan);
  const heldIn = (keys: readonly string[]) => {
    const chosen = new Set(keys);
    return holds.filter(({ rowKey, outlet }) => outlet === null && chosen.has(rowKey));
  };
  const letGo = (keys: readonly string[]) => {
    const places = heldIn(keys).map(({ rowKey, field }) => ({ rowKey, field }));
    if (places.length > 0) void actions.letGo(places);
  };
  const setStatus = (status: 'paused' | 'enabled', done: string) => (keys: string[]) =>
    void actions.many(keys, 'status', status, `${done} ${counted(keys.length, word)}.`);
  return {
    actions,
    heldIn,
    letGo,
    keys: { l: letGo, p: setStatus('paused', 'Paused'), e: setStatus('enabled', 'Enabled') },
  };
}
