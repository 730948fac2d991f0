import { act, renderHook } from '@testing-library/react';
import { describe, expect, test } from 'vitest';
import type { ReviewSummary } from '../../pool/pruning.ts';
import { awaited } from '../../testing/rendered.tsx';
import { useJudged } from './use-judged.ts';

const reviewOf = (...words: string[]): ReviewSummary =>
  ({ undecided: words.map((text) => ({ text, keywords: 1, searches: 1 })) }) as ReviewSummary;
type Asked = { question: string; busy: boolean; review: ReviewSummary };

function judging(first: Asked) {
  const { result, rerender } = renderHook(
    ({ question, busy, review }: Asked) => useJudged(question, busy, review),
    { initialProps: first },
  );
  return {
    ask: (next: Asked) => rerender(next),
    judge: (text: string, work: Promise<boolean>) => act(() => result.current.judge(text, 'blocked', work)),
    pending: () => [...result.current.pending.keys()],
  };
}

describe('a word that was judged a moment ago', () => {
  const before = { question: 'q1', busy: false, review: reviewOf('amber', 'birch') };
  const behind = { question: 'q2', busy: false, review: reviewOf('birch') };

  test('stays out of the undecided until a review knows of it', async () => {
    const stored = awaited<boolean>();
    const { ask, judge, pending } = judging(before);
    judge('amber', stored.promise);
    expect(pending()).toEqual(['amber']);
    ask({ ...before, busy: true, question: 'q2' });
    expect(pending()).toEqual(['amber']);
    ask(behind);
    expect(pending()).toEqual([]);
    await act(async () => stored.answer(true));
    expect(pending()).toEqual([]);
  });

  test('comes back when its verdict is taken back, also where the answer to it comes later than that', async () => {
    const stored = awaited<boolean>();
    const { ask, judge, pending } = judging(before);
    judge('amber', stored.promise);
    ask(behind);
    // Unblocked: the review has it again, and only then is the first answer through.
    ask({ question: 'q3', busy: false, review: reviewOf('amber', 'birch') });
    await act(async () => stored.answer(true));
    ask({ question: 'q3', busy: false, review: reviewOf('amber', 'birch') });
    expect(pending()).toEqual([]);
  });

  test('comes back at once where it was refused', async () => {
    const stored = awaited<boolean>();
    const { judge, pending } = judging(before);
    judge('amber', stored.promise);
    await act(async () => stored.answer(false));
    expect(pending()).toEqual([]);
  });

  test('waits for the review that is asked after it was stored', async () => {
    const { ask, judge, pending } = judging(before);
    await act(async () => {});
    judge('amber', Promise.resolve(true));
    await act(async () => {});
    // The same question still: its review was made before.
    ask({ ...before, review: reviewOf('amber', 'birch') });
    expect(pending()).toEqual(['amber']);
    ask({ question: 'q2', busy: false, review: reviewOf('amber', 'birch') });
    expect(pending()).toEqual([]);
  });
});
