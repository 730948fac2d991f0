import { notifyManager, QueryClient } from '@tanstack/react-query';

// What is shown at once is to be there, and focused, before the next key: a timer would let a fast typist overtake it.
notifyManager.setScheduler(queueMicrotask);

export const queryClient = new QueryClient({
  defaultOptions: { queries: { staleTime: 30_000, retry: 1, refetchOnWindowFocus: false } },
});
