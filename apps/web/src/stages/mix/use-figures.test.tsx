import { renderHook, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { MixFigures, MixSummary } from '../../pool/mixing.ts';
import { useFigures } from './use-figures.ts';

const summaryOf = (made: number) => ({ made }) as MixSummary;

test('each look is told, also one at which as many were looked at as before: what hangs on it is asked again', async () => {
  const answers: Partial<MixFigures>[] = [
    { asked: 40, of: 96, searches: 100 },
    { asked: 96, of: 96, searches: 300 },
    { asked: 96, of: 96, searches: 700 },
  ];
  const worker = { mixFigures: async () => answers.shift() as MixFigures };
  const { result, rerender } = renderHook(
    ({ summary }: { summary: MixSummary | undefined }) => useFigures(worker as never, summary),
    { initialProps: { summary: undefined as MixSummary | undefined } },
  );
  expect(result.current).toEqual({ figures: null, looks: 0, error: null });
  rerender({ summary: summaryOf(96) });
  await waitFor(() => expect(result.current).toMatchObject({ looks: 2, figures: { searches: 300 } }));
  // The pool came in anew: the recipe is mixed again, and as many are looked at.
  rerender({ summary: summaryOf(96) });
  await waitFor(() =>
    expect(result.current).toMatchObject({ looks: 3, figures: { asked: 96, searches: 700 } }),
  );
});
