import { type PlanState, type ResultsBy, readResults } from '@sprig/contracts';
import type { ResultFigure } from '@sprig/core/learn';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { z } from 'zod';
import { call } from '../../data/call.ts';
import { usePreferences } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { figureOrder } from './result-words.ts';

/** What came of a row: in the order of `resultFigures`, amounts in the account's currency. */
export type Results = { figures: readonly (number | null)[]; currency: string };
/** A row with what came of it; without where nothing is told. */
export type WithResults = { results?: Results | undefined };

/** The figures of results that are to stand beside what is worked on, as they are read. None where no report came home. */
export function useResultFigures({ counts }: Pick<PlanState, 'counts'>): readonly ResultFigure[] {
  const { resultColumns } = usePreferences().preferences;
  return useMemo(
    () => (counts.reports === 0 ? [] : figureOrder.filter((figure) => resultColumns.includes(figure))),
    [counts.reports, resultColumns],
  );
}

/** Keys are asked of at most so many at once. */
export const MOST_ASKED = 2_000;

/** Rows with their results; as they are where none are shown. */
export async function withResults<Row extends object>(
  plan: number,
  by: ResultsBy,
  rows: readonly Row[],
  keyOf: (row: Row) => string,
  isShown: boolean,
): Promise<(Row & WithResults)[]> {
  if (!isShown) return rows.map((row) => ({ ...row, results: undefined }));
  const keys = [...new Set(rows.map(keyOf))];
  const known = new Map<string, Results>();
  for (let from = 0; from < keys.length; from += MOST_ASKED) {
    const body = { by, keys: keys.slice(from, from + MOST_ASKED) };
    for (const [key, own] of byKey(await call(readResults, { params: { plan }, body }))) known.set(key, own);
  }
  return rows.map((row) => ({ ...row, results: known.get(keyOf(row)) }));
}

const none: readonly string[] = [];

/** Results of a few keys. */
export function useResults(plan: PlanState, by: ResultsBy, keys: readonly string[] = none) {
  const figures = useResultFigures(plan);
  const { data } = useQuery({
    ...question(readResults, { params: { plan: plan.id }, body: { by, keys: [...keys] } }),
    enabled: figures.length > 0 && keys.length > 0,
  });
  const of = useMemo(() => (data ? byKey(data) : new Map<string, Results>()), [data]);
  return { figures, of };
}

function byKey({ about, rows }: z.output<(typeof readResults)['answer']>): Map<string, Results> {
  const currency = about.account?.currency ?? '';
  return new Map(rows.map(({ key, figures }) => [key, { figures, currency }]));
}
