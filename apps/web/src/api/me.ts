import { editPreferences, type Preferences, preferencesSchema, readMe } from '@sprig/contracts';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { call } from './call.ts';

const key = ['me'];
const first: Preferences = preferencesSchema.parse({});

/** The user's own preferences, shown at once and kept on the server. */
export function usePreferences() {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: key,
    queryFn: () => call(readMe),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const set = useCallback(
    async (change: Partial<Preferences>) => {
      client.setQueryData(
        key,
        (me: typeof data) => me && { ...me, preferences: { ...me.preferences, ...change } },
      );
      client.setQueryData(key, await call(editPreferences, { body: change }));
    },
    [client],
  );
  return {
    preferences: data?.preferences ?? first,
    isKnown: data !== undefined,
    name: data?.name ?? '',
    set,
  };
}
