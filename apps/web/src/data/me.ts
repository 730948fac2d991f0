import { editPreferences, type Preferences, preferencesSchema, readMe } from '@sprig/contracts';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from './call.ts';
import { question } from './question.ts';

const me = question(readMe);
const first: Preferences = preferencesSchema.parse({});

/** The user's own preferences, shown at once and kept on the server. */
export function usePreferences() {
  const client = useQueryClient();
  const { data } = useQuery({
    ...me,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const set = useCallback(
    async (change: Partial<Preferences>) => {
      client.setQueryData(
        me.queryKey,
        (kept) => kept && { ...kept, preferences: { ...kept.preferences, ...change } },
      );
      try {
        client.setQueryData(me.queryKey, await call(editPreferences, { body: change }));
      } catch (error) {
        // What could not be kept is not shown as if it were.
        void client.invalidateQueries({ queryKey: me.queryKey });
        throw error;
      }
    },
    [client],
  );
  /** `set` that says what it did, and why where it could not. */
  const setAloud = useCallback(
    (change: Partial<Preferences>, done?: string) =>
      void set(change).then(
        () => done !== undefined && toast(done),
        (error: unknown) => toast.error(wordsOf(error)),
      ),
    [set],
  );
  return {
    preferences: data?.preferences ?? first,
    isKnown: data !== undefined,
    name: data?.name ?? '',
    set,
    setAloud,
  };
}

/** The widths of a table's columns that were dragged, kept for the user. */
export function useWidths(table: string): {
  of: Record<string, number>;
  set: (widths: Record<string, number>) => void;
} {
  const { preferences, setAloud } = usePreferences();
  const { columnWidths } = preferences;
  return {
    of: columnWidths[table] ?? none,
    set: (widths) => setAloud({ columnWidths: { ...columnWidths, [table]: widths } }),
  };
}

const none: Record<string, number> = {};

/** Who is signed in; null: it is not known yet. */
export const useMe = () => useQuery({ ...me, staleTime: Number.POSITIVE_INFINITY }).data ?? null;
