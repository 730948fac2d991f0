import { notifyManager, QueryClient } from '@tanstack/react-query';

// What is shown at once is to be there, and focused, before the next key: a timer would let a fast typist overtake it.
notifyManager.setScheduler(queueMicrotask);

/** What is refused for who one is would be refused again. */
const isFinal = (error: unknown): boolean =>
  ['signed-out', 'forbidden', 'not-found'].includes(
    (error as { failure?: { code?: string } }).failure?.code ?? '',
  );

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      retry: (times, error) => times < 1 && !isFinal(error),
      refetchOnWindowFocus: false,
    },
  },
});
