import {
  actOnVerdicts,
  type JudgedBy,
  readVerdictRows,
  readVerdicts,
  type VerdictList,
  type VerdictRow,
} from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { counted } from '../../kit/format.ts';
import type { RowSource } from '../../kit/table/row-source.ts';

const none: number[] = [];
/** Rows are asked for at most so many at a time. */
const PAGE = 1_000;

/** Verdicts of one list, and its rows as they come into view. */
export function useVerdicts(plan: number, by: JudgedBy, list: VerdictList) {
  const { data, error, isPlaceholderData } = useQuery({
    ...question(readVerdicts, { params: { plan }, body: { by, list } }),
    placeholderData: keepPreviousData,
  });
  const fetchPage = useCallback(
    async (asked: number[]) => {
      const rows: VerdictRow[] = [];
      for (let from = 0; from < asked.length; from += PAGE)
        rows.push(
          ...(
            await call(readVerdictRows, {
              params: { plan },
              body: { by, rows: asked.slice(from, from + PAGE) },
            })
          ).rows,
        );
      return rows;
    },
    [plan, by],
  );
  const source = useMemo<RowSource<VerdictRow, number>>(
    () => ({
      ids: data?.order ?? none,
      version: `${by} ${data?.stamp}`,
      loading: data === undefined,
      fetchPage,
      fetchAll: fetchPage,
      keyOf: ({ n }) => n,
    }),
    [data, by, fetchPage],
  );
  return { answer: data, source, error, isOld: isPlaceholderData };
}

export const useActing = () =>
  useWrite(actOnVerdicts, {
    refusals: 'here',
    said: ({ changed }, { body }) =>
      body?.act.kind === 'seen'
        ? `${counted(changed, 'verdict')} rest until their day.`
        : `${counted(changed, 'change')} made. Ctrl+Z takes ${changed === 1 ? 'it' : 'them'} back.`,
  });
