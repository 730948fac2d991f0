import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type Remote, wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { usePlanId, usePlanState } from '../data/plan.ts';
import { computed } from '../data/question.ts';
import { useFacts } from '../plan/use-facts.ts';
import type { Learned, PoolWorker } from './worker.ts';

type Open = { plan: number; worker: Remote<PoolWorker>; thread: Worker };
let open: Open | null = null;

/** The plan's worker: one at a time, kept while the plan is open. */
export function poolWorker(plan: number): Remote<PoolWorker> {
  if (open?.plan === plan) return open.worker;
  open?.thread.terminate();
  const thread = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
  open = { plan, thread, worker: wrap<PoolWorker>(thread) };
  return open.worker;
}

/** The pool at the plan's newest revision; the older one stays in use while it is fetched. */
export function usePool(): {
  worker: Remote<PoolWorker>;
  revision: number;
  /** Of which told, estimated and made-up figures what is asked of the worker is. */
  figures: string;
  learned: Learned | null;
  length: number;
  ready: boolean;
} {
  const plan = usePlanId();
  const { data: state } = usePlanState(plan);
  const facts = useFacts(plan).value;
  const worker = poolWorker(plan);
  const { data } = useQuery({
    ...computed(plan, ['pool', state?.revision ?? 0], () => worker.refresh(plan)),
    enabled: state !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });
  // What is told is learned before what hangs on it is built.
  const { data: learned = null } = useQuery({
    ...computed(plan, ['learned', state?.builtRevision ?? 0, facts?.market], () =>
      worker.learn(plan, facts?.market === 'stand-in'),
    ),
    enabled: state !== undefined && facts !== undefined && data !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });
  const revision = data?.revision ?? 0;
  return {
    worker,
    revision,
    figures: `${revision}.${learned?.changes ?? 0}`,
    learned,
    length: data?.length ?? 0,
    ready: data !== undefined,
  };
}

/**
 * Asks the worker again whenever `key` changes, only for the newest while it is busy; the older answer stays until
 * the newer is there.
 */
export function useWorked<T>(
  ask: () => Promise<T>,
  key: string,
  turns: SerialQueue = inTurn,
): { data: T | undefined; error: string | null; busy: boolean } {
  const [answer, setAnswer] = useState<{ key: string; data?: T; error: string | null }>({
    key: '',
    error: null,
  });
  const question = useRef(ask);
  question.current = ask;
  useEffect(() => {
    let wanted = true;
    turns
      .ask(() => (wanted ? question.current() : Promise.reject(NOT_WANTED)))
      .then(
        (data) => wanted && setAnswer({ key, data, error: null }),
        (error: unknown) =>
          wanted &&
          setAnswer((old) => ({
            ...old,
            key,
            error: error instanceof Error ? error.message : String(error),
          })),
      );
    return () => {
      wanted = false;
    };
  }, [key, turns]);
  return { data: answer.data, error: answer.error, busy: answer.key !== key };
}

const NOT_WANTED = Symbol('not wanted any more');

/** One question at a time: those that are not wanted any more when their turn comes are never asked. */
export class SerialQueue {
  private last: Promise<unknown> = Promise.resolve();

  ask<T>(question: () => Promise<T>): Promise<T> {
    const turn = this.last.then(() => question());
    this.last = turn.catch(() => null);
    return turn;
  }
}

const inTurn = new SerialQueue();

/** A worker of its own for what takes long, so that the plan's worker stays free for what is typed. */
export function openSideWorker(): { worker: Remote<PoolWorker>; close: () => void } {
  const thread = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
  return { worker: wrap<PoolWorker>(thread), close: () => thread.terminate() };
}
