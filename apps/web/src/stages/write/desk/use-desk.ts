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
import { call } from '../../../data/call.ts';
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

/** `isJudged`: it is said by who may accept. */
export type Move = { state: DeskState; reason?: string; isJudged: boolean };
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
  const [waiting, setWaiting] = useState<{ key: string; move: Move } | null>(null);
  const isFresh = builtRevision !== undefined && builtRevision >= plan.revision;
  const send = useCallback(
    async (which: Which, { state, reason = '', isJudged }: Move) => {
      const told = { params: { plan: plan.id } };
      const answer =
        isJudged && state !== 'handed'
          ? await judge({ ...told, body: { which, state, reason } })
          : await hand({ ...told, body: { which, state: state === 'handed' ? state : 'open' } });
      if (answer) toast(saidOf(state, answer));
    },
    [plan.id, judge, hand],
  );
  useEffect(() => {
    if (!waiting || !isFresh) return;
    setWaiting(null);
    const group = groups.find(({ key }) => key === waiting.key);
    if (group) void send({ groups: [{ key: group.key, stamp: group.stamp }] }, waiting.move);
    else toast.error('The ad group is not in the list any more. Nothing was handed over.');
  }, [waiting, isFresh, groups, send]);
  return {
    isBusy: isHanding || isJudging || waiting !== null,
    isWaiting: waiting !== null,
    /** Of one ad group: at once, or when what was typed last is built. */
    one: ({ key }: DeskGroup, move: Move) => setWaiting({ key, move }),
    /** Of all that the list has. */
    all: (only: DeskOnly, filter: string, move: Move) => void send({ all: { only, filter } }, move),
  };
}
