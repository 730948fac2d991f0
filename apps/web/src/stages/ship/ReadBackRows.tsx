import {
  chooseReadBackRows,
  listReadBackRows,
  type ReadBack,
  type ReadBackFilter,
  type ReadBackRow,
} from '@sprig/contracts';
import { type RowKind, rowKinds } from '@sprig/core/outlets';
import { mergeKinds } from '@sprig/core/sheets';
import { type InfiniteData, useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { readChanged } from '../../data/changed.ts';
import { queryClient } from '../../data/query-client.ts';
import { question } from '../../data/question.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { count, counted } from '../../kit/format.ts';
import { mergeWords } from './read-back-words.ts';
import { kindWords, valueWords } from './ship-words.ts';

type Page = { total: number; left: number; rows: ReadBackRow[] };
type Pages = InfiniteData<Page, number>;

/** The pages with rows taken or left: those with these numbers, or all. */
function withTaken({ pages, pageParams }: Pages, which: readonly number[] | null, taken: boolean): Pages {
  const rows = new Set(which);
  const isMeant = ({ n }: ReadBackRow) => which === null || rows.has(n);
  const changed = pages.flatMap((page) =>
    page.rows.filter((row) => isMeant(row) && row.taken !== taken),
  ).length;
  const left = ({ total, left: before }: Page) => {
    if (which === null) return taken ? 0 : total;
    return before + (taken ? -changed : changed);
  };
  return {
    pageParams,
    pages: pages.map((page) => ({
      ...page,
      left: left(page),
      rows: page.rows.map((row) => (isMeant(row) ? { ...row, taken } : row)),
    })),
  };
}

type Props = { plan: number; readBack: ReadBack; missing: boolean };

/** Each difference with its place, what the plan says and what the sheet says, and whether it is taken. */
export function ReadBackRows({ plan, readBack, missing }: Props) {
  const [filter, setFilter] = useState<ReadBackFilter>({});
  const { queryKey, meta } = question(listReadBackRows, {
    params: { plan, readBack: readBack.id },
    query: filter,
  });
  const { data, fetchNextPage, hasNextPage } = useInfiniteQuery({
    queryKey: [...queryKey],
    meta,
    queryFn: ({ pageParam }) =>
      call(listReadBackRows, {
        params: { plan, readBack: readBack.id },
        query: { ...filter, from: pageParam },
      }),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const shown = pages.reduce((sum, { rows }) => sum + rows.length, 0);
      return shown < last.total ? shown : undefined;
    },
  });
  const [first] = data?.pages ?? [];
  const rows = data?.pages.flatMap((page) => page.rows) ?? [];
  const choose = async (which: ReadBackFilter & { rows?: number[] }, taken: boolean) => {
    // Shown at once; what the server keeps follows.
    queryClient.setQueryData<Pages>([...queryKey], (old) => old && withTaken(old, which.rows ?? null, taken));
    try {
      await call(chooseReadBackRows, {
        params: { plan, readBack: readBack.id },
        body: { ...which, taken },
      });
      await readChanged(plan);
    } catch (error) {
      toast.error(wordsOf(error));
    }
  };
  return (
    <section aria-label="Differences" className="flex min-h-0 min-w-0 flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-2 border-hair border-b px-4 py-1.5 text-[13px]">
        <ChoiceChip
          label="Kind of rows"
          value={filter.kind ?? 'all'}
          choices={[
            { value: 'all', words: 'all rows' },
            ...rowKinds.map((kind) => ({ value: kind, words: `${kindWords[kind]}s` })),
          ]}
          onChoose={(kind) => setFilter(withOnly(filter, 'kind', kind))}
        />
        that
        <ChoiceChip
          label="Which differences"
          value={filter.change ?? 'all'}
          choices={[
            { value: 'all', words: 'differ in any way' },
            ...mergeKinds.map((change) => ({ value: change, words: changeChoice[change] })),
          ]}
          onChoose={(change) => setFilter(withOnly(filter, 'change', change))}
        />
        <span className="text-faint" role="status">
          {first && `${count(first.total)}${first.left > 0 ? `, ${count(first.left)} left out` : ''}`}
        </span>
        {first && first.total > 0 && (
          <span className="ml-auto flex gap-1">
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => void choose(filter, true)}>
              Take all
            </button>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => void choose(filter, false)}>
              Leave all
            </button>
          </span>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="group" aria-label="Rows that differ">
        {first && rows.length === 0 && (
          <p className="px-4 py-3 text-faint">The sheets say what the plan says.</p>
        )}
        <ul>
          {rows.map((row) => (
            <Difference
              key={row.n}
              row={row}
              isWanted={missing || row.change !== 'missing'}
              onTaken={(taken) => void choose({ rows: [row.n] }, taken)}
            />
          ))}
        </ul>
        {hasNextPage && (
          <button type="button" className="btn btn-ghost btn-sm m-3" onClick={() => void fetchNextPage()}>
            Show {counted((first?.total ?? 0) - rows.length, 'more row')}
          </button>
        )}
      </div>
    </section>
  );
}

const changeChoice: Record<ReadBackRow['change'], string> = {
  added: 'are new',
  changed: 'say something else',
  removed: 'are gone there',
  missing: 'only the plan has',
};

const withOnly = (filter: ReadBackFilter, name: keyof ReadBackFilter, value: string): ReadBackFilter => {
  const { [name]: _, ...rest } = filter;
  return value === 'all' ? rest : { ...rest, [name]: value as RowKind };
};

/** What a new row brings, in one line. */
const saidIn = (fields: ReadBackRow['fields']): string =>
  fields.map(({ value, after }) => `${valueWords(value)} ${after}`).join(' · ');

/** One row: where it is, and each field before and after. */
function Difference({
  row,
  isWanted,
  onTaken,
}: {
  row: ReadBackRow;
  isWanted: boolean;
  onTaken: (taken: boolean) => void;
}) {
  const { kind, change, campaign, group, text, fields, file, line, taken } = row;
  const place = [kind === 'campaign' ? '' : campaign || 'all campaigns', kind === 'group' ? '' : group]
    .filter((part) => part !== '')
    .join(' › ');
  return (
    <li className="flex items-start gap-2.5 border-base-200 border-b px-4 py-1 text-[13px]">
      <input
        type="checkbox"
        className="checkbox checkbox-xs mt-1"
        aria-label={`Take ${kindWords[kind]} ${text}`}
        checked={taken && isWanted}
        disabled={!isWanted}
        onChange={({ target }) => onTaken(target.checked)}
      />
      <div className={`min-w-0 flex-1 ${taken && isWanted ? '' : 'text-faint'}`}>
        <p className="truncate">
          <span className="text-faint">{kindWords[kind]}</span> <b className="font-semibold">{text}</b>{' '}
          <span className="text-faint">{place === '' ? '' : `in ${place}`}</span>
        </p>
        {change === 'added' && fields.length > 0 && (
          <p className="truncate text-[12.5px] text-faint" title={saidIn(fields)}>
            {saidIn(fields)}
          </p>
        )}
        {(change === 'added' ? [] : fields).map(({ value, before, after }) => (
          <p key={value} className="break-words text-[12.5px]">
            <span className="text-faint">{valueWords(value)}</span>{' '}
            <span className="line-through decoration-1 opacity-75">{before || 'none'}</span> →{' '}
            <span>{after || 'none'}</span>
          </p>
        ))}
      </div>
      <span className="shrink-0 text-[12px] text-faint" title={file === '' ? '' : `${file}, line ${line}`}>
        {mergeWords[change]}
        {line > 0 && `, line ${count(line)}`}
      </span>
    </li>
  );
}
