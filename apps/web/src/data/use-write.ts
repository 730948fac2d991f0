import type { Endpoint, Sent } from '@sprig/contracts';
import { useMutation } from '@tanstack/react-query';
import { useCallback } from 'react';
import { toast } from 'sonner';
import type { z } from 'zod';
import { call, wordsOf } from './call.ts';
import { noteAnew, readChanged } from './changed.ts';
import { fetchAgain } from './fetch-again.ts';
import { queryClient } from './query-client.ts';
import { planOf, workspaceKey } from './query-key.ts';

type Writing<Told, Answer> = {
  /** What is said of it once it is done; '' or undefined: nothing. */
  said?: (answer: Answer, told: Told) => string | undefined;
  /** Where a refusal is told: in a toast, or beside the field by whoever writes. */
  refusals?: 'toast' | 'here';
};

/**
 * A write by an endpoint: what it changes is read again before it counts as done. `write` answers what the server did; null:
 * it was refused, in `refusal`'s words.
 */
export function useWrite<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
  endpoint: Endpoint<P, Q, B, A>,
  { said, refusals = 'toast' }: Writing<Sent<P, Q, B>, z.output<A>> = {},
) {
  const { mutateAsync, isPending, error, reset } = useMutation({
    mutationFn: async (told: Sent<P, Q, B>) => {
      const plan = planOf(told);
      if (plan !== null) noteAnew(plan);
      const answer = await call(endpoint, ...([told] as never));
      await (plan === null ? fetchAgain(queryClient, { queryKey: workspaceKey }) : readChanged(plan));
      return answer;
    },
    onSuccess: (answer, told) => {
      const words = said?.(answer, told);
      if (words) toast(words);
    },
    onError: (refusal) => {
      if (refusals === 'toast') toast.error(wordsOf(refusal));
    },
  });
  const write = useCallback(
    (told: Sent<P, Q, B>): Promise<z.output<A> | null> => mutateAsync(told).catch(() => null),
    [mutateAsync],
  );
  return { write, isBusy: isPending, refusal: error && wordsOf(error), forget: reset };
}
