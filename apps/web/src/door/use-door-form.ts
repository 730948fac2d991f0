import type { Endpoint } from '@sprig/contracts';
import { type FormEvent, useState } from 'react';
import type { z } from 'zod';
import { CallFailure, call, wordsOf } from '../data/call.ts';

type Refusal = { at: string; words: string };

/** A form that is sent once at a time; what is refused is told at its field, and stays as it was typed. */
export function useDoorForm<
  P extends z.ZodType,
  Q extends z.ZodType,
  B extends z.ZodType,
  A extends z.ZodType,
>(endpoint: Endpoint<P, Q, B, A>, done: (answer: z.output<A>) => unknown) {
  const [isBusy, setBusy] = useState(false);
  const [refusal, setRefusal] = useState<Refusal | null>(null);
  const send = async (body: z.input<B>) => {
    if (isBusy) return;
    setBusy(true);
    setRefusal(null);
    try {
      const answer = await call(endpoint, ...([{ body }] as never));
      await done(answer);
    } catch (error) {
      const at = error instanceof CallFailure ? (error.failure.at ?? '') : '';
      setRefusal({ at, words: wordsOf(error) });
    }
    setBusy(false);
  };
  return {
    isBusy,
    send,
    submit: (body: () => z.input<B>) => (event: FormEvent) => {
      event.preventDefault();
      void send(body());
    },
    /** What was said of a field; '' is what was said of none of `fields`. */
    refusalAt: (at: string, fields: readonly string[] = []): string | null =>
      refusal && (at === '' ? !fields.includes(refusal.at) : refusal.at === at) ? refusal.words : null,
  };
}
