import {
  actOnVerdicts,
  type JudgedBy,
  readVerdictRows,
  readVerdicts,
  type VerdictList,
  type VerdictRow,
} from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { counted } from '../../kit/format.ts';
import { useNumberedRows } from './use-numbered-rows.ts';

/** Verdicts of one list, or of the first that asks for something, and its rows as they come into view. */
export function useVerdicts(plan: number, by: JudgedBy, list: VerdictList | null) {
  const { data, error, isPlaceholderData } = useQuery({
    ...question(readVerdicts, { params: { plan }, body: { by, list } }),
    placeholderData: keepPreviousData,
  });
  const page = useCallback(
    (rows: number[]) => call(readVerdictRows, { params: { plan }, body: { by, rows } }),
    [plan, by],
  );
  const source = useNumberedRows<VerdictRow>({
    order: data?.order,
    version: `${by} ${data?.stamp}`,
    loading: data === undefined,
    page,
  });
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
