import type { MatrixView as View } from '@sprig/core/mix';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { withParams } from '../../kit/address.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted } from '../../kit/format.ts';
import { type usePool, useWorked } from '../../pool/use-pool.ts';
import { MatrixGrid } from './MatrixGrid.tsx';
import type { MixCounts } from './use-counts.ts';

type Worker = ReturnType<typeof usePool>['worker'];

type Props = {
  worker: Worker;
  /** Changes with everything that the worker's answers hang on. */
  stamp: string;
  counts: MixCounts;
  /** What each list's entries are called, as far as one can be chosen. */
  entries: readonly { id: number; entries: readonly string[] }[];
  /** Lists that stand in a pattern, in the order in which they first do. */
  used: readonly number[];
  onCut: (texts: string[], cut: boolean) => Promise<void>;
};

/** Values that no entry has: a comma can't stand in a keyword. */
const ANY = '';
const LEFT_OUT = ',';

/** Two lists against each other: what each pair of entries is searched, to be cut and put back by hand or key. */
export function MatrixView({ worker, stamp, counts, entries, used, onCut }: Props) {
  const [params, setParams] = useSearchParams();
  const pick = (name: string, but: number | null, fallback: number | undefined) => {
    const wanted = Number(params.get(name));
    return used.includes(wanted) && wanted !== but ? wanted : (fallback ?? null);
  };
  const rows = pick('rows', null, used[0]);
  const columns = pick(
    'columns',
    rows,
    used.find((list) => list !== rows),
  );
  const order = params.get('first') === 'searches' ? 'searches' : 'list';
  const others = used.filter((list) => list !== rows && list !== columns);
  const entriesOf = (list: number) => entries.find(({ id }) => id === list)?.entries ?? [];
  const restOf = (list: number) => params.get(`with-${list}`) ?? ANY;
  const viewKey = JSON.stringify({
    rows,
    columns,
    rest: others.flatMap((list): { list: number; entry: number | null }[] => {
      const wanted = restOf(list);
      const entry = entriesOf(list).indexOf(wanted);
      if (wanted === LEFT_OUT) return [{ list, entry: null }];
      return wanted === ANY || entry < 0 ? [] : [{ list, entry }];
    }),
  });
  const view = useMemo<View | null>(
    () => (rows === null || columns === null ? null : (JSON.parse(viewKey) as View)),
    [rows, columns, viewKey],
  );
  const { data: matrix } = useWorked(
    async () => (view ? await worker.mixMatrix(view) : null),
    `${stamp}:${viewKey}`,
  );
  const nameOf = (list: number) => counts.lists.find(({ id }) => id === list)?.name ?? '';
  if (!view || rows === null || columns === null)
    return (
      <div className="grid flex-1 place-items-center p-6">
        <Empty title="A matrix needs two lists">
          Put two lists into one pattern, and every pair of their words stands here with its searches.
        </Empty>
      </div>
    );
  const choice = (name: string, label: string, value: number, but: number | null) => (
    <ChoiceChip
      label={label}
      value={String(value)}
      choices={used
        .filter((list) => list !== but)
        .map((list) => ({ value: String(list), words: nameOf(list) }))}
      onChoose={(chosen) => setParams((old) => withParams(old, { [name]: chosen }), { replace: true })}
    />
  );
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-1.5 px-4 py-1 leading-8">
        Searches of {choice('rows', 'Rows of the matrix', rows, null)} against{' '}
        {choice('columns', 'Columns of the matrix', columns, rows)}
        {others.map((list) => (
          <span key={list}>
            , with {nameOf(list)}{' '}
            <ChoiceChip
              label={`Entry of ${nameOf(list)}`}
              value={restOf(list)}
              choices={[
                { value: ANY, words: 'any' },
                ...entriesOf(list).map((entry) => ({ value: entry, words: entry })),
                { value: LEFT_OUT, words: 'left out' },
              ]}
              onChoose={(chosen) =>
                setParams((old) => withParams(old, { [`with-${list}`]: chosen }), {
                  replace: true,
                })
              }
            />
          </span>
        ))}
        ,{' '}
        <ChoiceChip
          label="Order of the matrix"
          value={order}
          choices={[
            { value: 'list', words: 'in the order of the lists' },
            { value: 'searches', words: 'the most searched first' },
          ]}
          onChoose={(chosen) =>
            setParams((old) => withParams(old, { first: chosen === 'list' ? '' : chosen }), { replace: true })
          }
        />
        .
        {matrix && matrix.elsewhere > 0 && (
          <span
            className="text-faint"
            title={`${counted(matrix.elsewhere, 'combination')} of patterns without both lists`}
          >
            {count(matrix.elsewhere)} elsewhere
          </span>
        )}
      </div>
      {matrix && (
        <MatrixGrid
          matrix={matrix}
          label={`${nameOf(rows)} against ${nameOf(columns)}`}
          bySearches={order === 'searches'}
          onToggle={async (row, column, cut) => onCut(await worker.inMatrix(view, row, column, !cut), cut)}
        />
      )}
    </div>
  );
}
