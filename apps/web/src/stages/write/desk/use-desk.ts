import {
  DESK_PAGE,
  type DeskGroup,
  type DeskOnly,
  type DeskState,
  handOver,
  judgeAds,
  listDesk,
  type Moved,
  type PlanState,
} from '@sprig/contracts';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import type { z } from 'zod';
import { call, writesAnswered } from '../../../data/call.ts';
import { fetchAgain } from '../../../data/fetch-again.ts';
import { stateOf } from '../../../data/plan.ts';
import { queryClient } from '../../../data/query-client.ts';
import { questionsOf } from '../../../data/query-key.ts';
import { useWrite } from '../../../data/use-write.ts';
import { counted } from '../../../kit/format.ts';

/** The ad groups of the desk, a page after another. */
export function useDesk(plan: number, only: DeskOnly, filter: string) {
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    queryKey: [...questionsOf(listDesk, plan), only, filter],
    queryFn: ({ pageParam }) =>
      call(listDesk, { params: { plan }, query: { only, filter, from: pageParam } }),
    initialPageParam: 0,
    getNextPageParam: ({ total }, pages) =>
      pages.length * DESK_PAGE < total ? pages.length * DESK_PAGE : null,
    meta: { reads: listDesk.reads },
    placeholderData: (old) => old,
  });
  const groups = useMemo(() => data?.pages.flatMap((page) => page.groups) ?? [], [data]);
  return { page: data?.pages[0], groups, error, hasNextPage, fetchNextPage, isFetchingNextPage };
}

const DONE: Record<DeskState, string> = {
  handed: 'Handed over',
  accepted: 'Accepted',
  back: 'Sent back',
  open: 'Open again',
};

/** `isJudged`: it is said by who may accept. `onMoved`: is called where it was done. */
export type Move = {
  state: DeskState;
  reason?: string;
  isJudged: boolean;
  onMoved?: (() => void) | undefined;
};
/** `revision`: what has to be built first; null: that is not known yet. */
type Waiting = { of: string | { only: DeskOnly; filter: string }; move: Move; revision: number | null };
type Which = z.input<typeof handOver.body>['which'];

function saidOf(state: DeskState, { moved, left }: Moved): string {
  const rest =
    left > 0
      ? ` ${counted(left, 'ad group')} stayed as ${left === 1 ? 'it is' : 'they are'}: without ads, with ads that don’t fit, or changed meanwhile.`
      : '';
  return `${DONE[state]}: the ads of ${counted(moved, 'ad group')}.${rest}`;
}

/**
 * Hands over and judges. What was typed a moment ago is built first: what is handed over is what stands there. `builtRevision`: the
 * build that the list of ad groups is of.
 */
export function useMoves(plan: PlanState, builtRevision: number | undefined, groups: readonly DeskGroup[]) {
  const { write: hand, isBusy: isHanding } = useWrite(handOver);
  const { write: judge, isBusy: isJudging } = useWrite(judgeAds);
  const [waiting, setWaiting] = useState<Waiting | null>(null);
  const send = useCallback(
    async (which: Which, { state, reason = '', isJudged, onMoved }: Move) => {
      const told = { params: { plan: plan.id } };
      const answer =
        isJudged && state !== 'handed'
          ? await judge({ ...told, body: { which, state, reason } })
          : await hand({ ...told, body: { which, state: state === 'handed' ? state : 'open' } });
      if (answer) toast(saidOf(state, answer));
      if (answer && answer.moved > 0) onMoved?.();
    },
    [plan.id, judge, hand],
  );
  useEffect(() => {
    if (waiting?.revision == null || builtRevision === undefined || builtRevision < waiting.revision) return;
    setWaiting(null);
    const { of, move } = waiting;
    if (typeof of !== 'string') return void send({ all: of }, move);
    const group = groups.find(({ key }) => key === of);
    if (group) void send({ groups: [{ key: group.key, stamp: group.stamp }] }, move);
    else toast.error('The ad group is not in the list any more. Nothing was handed over.');
  }, [waiting, builtRevision, groups, send]);
  /** What was typed last may still be on its way: what it has made of the plan is what has to be built. */
  const wait = async (of: Waiting['of'], move: Move) => {
    setWaiting({ of, move, revision: null });
    await writesAnswered();
    const { queryKey } = stateOf(plan.id);
    await fetchAgain(queryClient, { queryKey });
    setWaiting({ of, move, revision: queryClient.getQueryData(queryKey)?.revision ?? plan.revision });
  };
  return {
    isBusy: isHanding || isJudging || waiting !== null,
    isWaiting: waiting !== null,
    /** Of one ad group. */
    one: ({ key }: DeskGroup, move: Move) => void wait(key, move),
    /** Of all that the list has. */
    all: (only: DeskOnly, filter: string, move: Move) => void wait({ only, filter }, move),
  };
}
