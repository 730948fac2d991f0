import { useMemo, useState } from 'react';
import type { RowSource } from '../../kit/table/row-source.ts';

/**
 * Rows without those that were just judged: they leave at once, and not only when the server has said so. `version` is of what
 * the server told last: what it tells anew stands for itself.
 */
export function useHidden<Row>(source: RowSource<Row, number>) {
  const { version, ids } = source;
  const [hidden, setHidden] = useState<{ version: string; numbers: ReadonlySet<number> }>({
    version,
    numbers: new Set(),
  });
  const numbers = hidden.version === version ? hidden.numbers : null;
  const shown = useMemo<RowSource<Row, number>>(
    () =>
      numbers === null || numbers.size === 0
        ? source
        : { ...source, ids: Array.from(ids).filter((n) => !numbers.has(n)) },
    [source, ids, numbers],
  );
  // By what was hidden last, not by what was drawn last: keys may come faster than a picture of them.
  const hide = (more: readonly number[]) =>
    setHidden((before) => ({
      version,
      numbers: new Set([...(before.version === version ? before.numbers : []), ...more]),
    }));
  const show = (back: readonly number[]) =>
    setHidden((before) => ({
      ...before,
      numbers: new Set([...before.numbers].filter((n) => !back.includes(n))),
    }));
  return { shown, hide, show };
}
