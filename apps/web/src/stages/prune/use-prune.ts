import {
  addNegatives,
  attachShared,
  foldKeywords,
  keepWords,
  listNegatives,
  listShared,
  listVerdicts,
  makeShared,
  type Negative,
  placeNegatives,
  removeFromShared,
  removeNegatives,
  renameShared,
  type SharedList,
  setApart,
  setCut,
  setReason,
} from '@sprig/contracts';
import type { NegativeKeyword, NegativeType } from '@sprig/core/match';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { refusalOf, runChange } from '../../data/run-change.ts';

const none: never[] = [];

export function useNegatives(plan: number): Negative[] {
  const { data } = useQuery({
    ...question(listNegatives, { params: { plan } }),
    select: ({ negatives }) => negatives,
    placeholderData: keepPreviousData,
  });
  return data ?? none;
}

export function useKeptWords(plan: number): string[] {
  const { data } = useQuery({
    ...question(listVerdicts, { params: { plan } }),
    select: ({ kept }) => kept,
    placeholderData: keepPreviousData,
  });
  return data ?? none;
}

export function useShared(plan: number): SharedList[] {
  const { data } = useQuery({
    ...question(listShared, { params: { plan } }),
    select: ({ lists }) => lists,
    placeholderData: keepPreviousData,
  });
  return data ?? none;
}

/** Everything that blocks the pool's keywords; shared ones carry minus their id, as the pool tells them. */
export const useBlocking = (
  negatives: readonly Negative[],
  lists: readonly SharedList[],
): NegativeKeyword[] =>
  useMemo(
    () => [
      ...negatives.filter(({ reason }) => reason === 'block'),
      ...lists
        .filter(({ attached }) => attached)
        .flatMap(({ negatives: shared }) => shared.map(({ id, norm, type }) => ({ id: -id, norm, type }))),
    ],
    [negatives, lists],
  );

/** The plan, or a shared list that it then attaches. */
export type BlockPlace = { list?: number };

/** What Prune does to the plan. Each shows what it did, and answers whether it was done. */
export function usePruneActions(plan: number) {
  return useMemo(() => {
    const done = async (work: () => Promise<object>, words?: string): Promise<boolean> =>
      (await runChange(plan, work, () => (words ? `${words} Ctrl+Z takes it back.` : ''))) !== null;
    const params = { plan };
    return {
      keep: (words: string[]) => done(() => call(keepWords, { params, body: { words, keep: true } })),
      askAgain: (words: string[]) => done(() => call(keepWords, { params, body: { words, keep: false } })),
      add: (
        negatives: { text: string; type: NegativeType }[],
        reason: 'hand' | 'block',
        place: BlockPlace,
        words?: string,
      ) => done(() => call(addNegatives, { params, body: { negatives, reason, ...place } }), words),
      /** In one campaign: they keep its searches out, and take nothing out of the pool. */
      place: (campaign: string, negatives: { text: string; type: NegativeType }[], words: string) =>
        done(() => call(placeNegatives, { params, body: { places: [campaign], negatives } }), words),
      remove: (ids: number[], words?: string) =>
        done(() => call(removeNegatives, { params, body: { ids } }), words),
      setReason: (ids: number[], reason: 'hand' | 'block', words?: string) =>
        done(() => call(setReason, { params, body: { ids, reason } }), words),
      fold: (folds: { keeper: number; others: number[] }[], words?: string) =>
        done(() => call(foldKeywords, { params, body: { folds } }), words),
      apart: (ids: number[], apart: boolean, words?: string) =>
        done(() => call(setApart, { params, body: { ids, apart } }), words),
      cut: (ids: number[], words?: string) =>
        done(() => call(setCut, { params, body: { ids, cut: true } }), words),
      attach: (list: number, attach: boolean, words?: string) =>
        done(() => call(attachShared, { params: { plan, list }, body: { attach } }), words),
      /** Answers the words of a refusal, or null: it is shown where the name is typed. */
      renameList: (list: number, before: string, name: string): Promise<string | null> =>
        refusalOf(plan, () => call(renameShared, { params: { plan, list }, body: { name, before } })),
      makeList: (name: string) => done(() => call(makeShared, { params, body: { name } })),
      removeShared: (list: number, ids: number[], words?: string) =>
        done(() => call(removeFromShared, { params: { plan, list }, body: { ids } }), words),
    };
  }, [plan]);
}

export type PruneActions = ReturnType<typeof usePruneActions>;
