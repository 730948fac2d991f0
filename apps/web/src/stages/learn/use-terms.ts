import { judgeTerms, readTermRows, readTerms, type TermList, type TermRow } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { counted } from '../../kit/format.ts';
import { useNumberedRows } from './use-numbered-rows.ts';

/** Search terms of one list, and its rows as they come into view. */
export function useTerms(plan: number, list: TermList, like: string) {
  const { data, error, isPlaceholderData } = useQuery({
    ...question(readTerms, { params: { plan }, body: { list, like } }),
    placeholderData: keepPreviousData,
  });
  const page = useCallback(
    (rows: number[]) => call(readTermRows, { params: { plan }, body: { rows } }),
    [plan],
  );
  const source = useNumberedRows<TermRow>({
    order: data?.order,
    version: String(data?.stamp),
    loading: data === undefined,
    page,
  });
  return { answer: data, source, error, isOld: isPlaceholderData };
}

const DONE = {
  own: ['has an ad group of its own', 'have ad groups of their own'],
  into: ['went into its ad group', 'went into their ad groups'],
  block: ['is blocked', 'are blocked'],
  leave: ['is left', 'are left'],
} as const;

export const useJudging = () =>
  useWrite(judgeTerms, {
    said: ({ judged, refused }, { body }) => {
      const done = `${counted(judged, 'search term')} ${DONE[body?.judgement.kind ?? 'leave'][judged === 1 ? 0 : 1]}. Ctrl+Z takes it back.`;
      if (refused.length === 0) return done;
      const others = refused.length > 1 ? ` and ${refused.length - 1} more` : '';
      return `${done} Left out: “${refused[0]}”${others}, which can’t be a keyword, or has no ad group here.`;
    },
  });
