import { useCallback, useEffect, useRef, useState } from 'react';
import type { ReviewSummary } from '../../pool/pruning.ts';

export type Verdict = 'kept' | 'blocked';
/** `storedAt`: what was being asked when the verdict was stored; null while it is on its way. */
type Judged = { verdict: Verdict; storedAt: string | null };

/**
 * Words judged a moment ago. They wait here, out of the undecided, until a review that knows of the verdict is there:
 * a word must not come back under the next key press.
 */
export function useJudged(question: string, busy: boolean, review: ReviewSummary | undefined) {
  const [judged, setJudged] = useState<ReadonlyMap<string, Judged>>(new Map());
  const asked = useRef(question);
  asked.current = question;

  const judge = useCallback((text: string, verdict: Verdict, work: Promise<boolean>) => {
    const own: Judged = { verdict, storedAt: null };
    setJudged((old) => new Map(old).set(text, own));
    void work.then((done) =>
      setJudged((old) => {
        // A review that knows of it was there before: from then on the word may be taken back.
        if (old.get(text) !== own) return old;
        const next = new Map(old);
        if (done) next.set(text, { verdict, storedAt: asked.current });
        else next.delete(text);
        return next;
      }),
    );
  }, []);
  useEffect(() => {
    if (busy || !review) return;
    const undecided = new Set(review.undecided.map(({ text }) => text));
    setJudged((old) => {
      const waits = ([text, { storedAt }]: [string, Judged]) =>
        undecided.has(text) && (storedAt === null || storedAt === question);
      const next = [...old].filter(waits);
      return next.length === old.size ? old : new Map(next);
    });
  }, [busy, review, question]);

  const pending = new Map([...judged].map(([text, { verdict }]) => [text, verdict]));
  return { pending, judge };
}
