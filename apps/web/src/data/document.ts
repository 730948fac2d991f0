import type { Endpoint, FieldEdit, Question } from '@sprig/contracts';
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useMemo, useRef, useState } from 'react';
import type { z } from 'zod';
import { CallFailure, call, readBetweenWrites, untilSaved, wordsOf } from './call.ts';
import { questionsOf } from './query-key.ts';

type Reading<T> = {
  plan: number;
  /** The endpoint whose answer the document is made of. */
  of: Question;
  read: () => Promise<T>;
  /** The call that keeps an edit; a function, made once, where it hangs on what is edited. */
  write: Endpoint | ((plan: number, edit: FieldEdit) => Promise<unknown>);
};

export type Document<T> = {
  /** What is kept, with what is being typed on top. */
  value: T | undefined;
  /** What is kept, without it. */
  kept: T | undefined;
  /** Shows the effect of a value that is still being typed; null takes it away. */
  draft: (at: string, value: unknown) => void;
  undraft: () => void;
  /** Keeps a value. On failure it answers the words to show, and what was typed stays with the field. */
  edit: (at: string, after: unknown) => Promise<string | null>;
};

export const valueAt = (document: unknown, at: string): unknown =>
  at
    .split('.')
    .reduce<unknown>((value, step) => (value as Record<string, unknown> | undefined)?.[step], document);

/** A copy of the document with one value changed. */
export function withValue<T>(document: T, at: string, value: unknown): T {
  const copy = structuredClone(document);
  const steps = at.split('.');
  const last = steps.pop() ?? '';
  const holder = steps.reduce<unknown>((inner, step) => (inner as Record<string, unknown>)[step], copy);
  (holder as Record<string, unknown>)[last] = value;
  return copy;
}

/**
 * A document of the plan that is edited in place: kept at once, one edit after another, each saying what it
 * replaces, so that two windows never write over each other unseen.
 */
export function useDocument<T>({ plan, of, read, write }: Reading<T>): Document<T> {
  const client = useQueryClient();
  const key = useMemo(() => [...questionsOf(of, plan), 'document'], [plan, of]);
  const { data } = useQuery({
    queryKey: key,
    queryFn: () => readBetweenWrites(read),
    meta: { reads: of.reads },
    placeholderData: keepPreviousData,
  });
  const [typing, setTyping] = useState<{ at: string; value: unknown } | null>(null);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  /** What stood there when a value began to be typed: what came there since, whoever types has not seen. */
  const seen = useRef<{ at: string; value: unknown } | null>(null);
  const value = useMemo(
    () => (data && typing ? withValue(data, typing.at, typing.value) : data),
    [data, typing],
  );
  const edit = useCallback(
    (at: string, after: unknown) => {
      const run = queue.current.then(async () => {
        const current = client.getQueryData<T>(key);
        const before = valueAt(current, at);
        const begun = seen.current?.at === at ? seen.current : null;
        const isSame = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
        if (begun && !isSame(before, begun.value) && !isSame(before, after)) {
          seen.current = { at, value: before };
          return `This was changed meanwhile. There now: ${JSON.stringify(before)}. Enter puts yours in its place, Esc leaves it.`;
        }
        if (begun) seen.current = null;
        setTyping((now) => (now?.at === at ? null : now));
        if (current === undefined || isSame(before, after)) return null;
        client.setQueryData(key, withValue(current, at, after));
        return sendEdit(write, plan, { at, before, after }).catch((error: unknown) => {
          client.setQueryData(key, current);
          void client.invalidateQueries({ queryKey: key });
          return refusalWords(error);
        });
      });
      queue.current = run;
      return untilSaved(run);
    },
    [client, key, plan, write],
  );
  const draft = useCallback(
    (at: string, typed: unknown) => {
      if (seen.current?.at !== at) seen.current = { at, value: valueAt(client.getQueryData<T>(key), at) };
      setTyping({ at, value: typed });
    },
    [client, key],
  );
  const undraft = useCallback(() => {
    seen.current = null;
    setTyping(null);
  }, []);
  return { value, kept: data, draft, undraft, edit };
}

async function sendEdit(write: Reading<unknown>['write'], plan: number, edit: FieldEdit): Promise<null> {
  if (typeof write === 'function') {
    await write(plan, edit);
    return null;
  }
  await call(write, { params: { plan } as z.input<typeof write.params>, body: { edits: [edit] } });
  return null;
}

function refusalWords(error: unknown): string {
  const words = wordsOf(error);
  if (!(error instanceof CallFailure) || error.failure.code !== 'conflict') return words;
  return `${words} There now: ${JSON.stringify(error.failure.current)}.`;
}
