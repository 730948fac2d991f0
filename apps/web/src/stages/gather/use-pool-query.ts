import { useCallback, useMemo } from 'react';
import { z } from 'zod';
import { useAddress } from '../../kit/address.ts';
import type { KeptSift } from '../../pool/kept-columns.ts';
import { originKinds, type PoolQuery, type PoolSort, poolStates } from '../../pool/pool-store.ts';

const sorts: readonly PoolSort[] = ['made', 'text', 'searches', 'cpc', 'competition'];
const states = [...poolStates, 'all'] as const;
const number = (text: string | null) =>
  text === null || text === '' || Number.isNaN(Number(text)) ? null : Number(text);

const sortIn = (text: string | null): PoolSort =>
  text?.startsWith('kept:') ? (text as PoolSort) : (sorts.find((sort) => sort === text) ?? 'searches');

const keptSifts = z.array(
  z.object({
    heading: z.string(),
    from: z.number().nullable(),
    to: z.number().nullable(),
    words: z.string(),
  }),
);

function inAddress(name: string, value: unknown): string {
  if (name === 'down') return value ? '' : 'no';
  if (Array.isArray(value)) return value.length === 0 ? '' : JSON.stringify(value);
  return String(value ?? '');
}

/** A link that was cut short sifts by none. */
function keptIn(text: string | null): KeptSift[] {
  try {
    return keptSifts.parse(JSON.parse(text ?? '[]'));
  } catch {
    return [];
  }
}

/** The pool's filter and order, kept in the address: Back works, and a link can be sent. */
export function usePoolQuery() {
  const [params, set] = useAddress();
  const query = useMemo<PoolQuery>(
    () => ({
      filter: params.get('filter') ?? '',
      sort: sortIn(params.get('sort')),
      down: params.get('down') !== 'no',
      state: states.find((state) => state === params.get('state')) ?? 'in',
      source: number(params.get('source')),
      from: number(params.get('from')),
      to: number(params.get('to')),
      cpcFrom: number(params.get('cpcFrom')),
      cpcTo: number(params.get('cpcTo')),
      competitionFrom: number(params.get('competitionFrom')),
      competitionTo: number(params.get('competitionTo')),
      origin: originKinds.find((kind) => kind === params.get('origin')) ?? 'all',
      kept: keptIn(params.get('kept')),
    }),
    [params],
  );
  const setQuery = useCallback(
    (change: Partial<PoolQuery>) =>
      set(Object.fromEntries(Object.entries(change).map(([name, value]) => [name, inAddress(name, value)])), {
        replace: 'filter' in change,
      }),
    [set],
  );
  /** Columns that were kept as they are, by their headings. */
  const named = params.get('columns') ?? '';
  const keptColumns = useMemo(() => named.split('\n').filter(Boolean), [named]);
  const setKeptColumns = useCallback(
    (headings: readonly string[]) => set({ columns: headings.join('\n') }),
    [set],
  );
  return { query, setQuery, keptColumns, setKeptColumns };
}
