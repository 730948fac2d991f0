import { listWorth, type PlanWorth, readWorth, type WorthItem } from '@sprig/contracts';
import { inOrder } from '@sprig/core/next';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../data/call.ts';
import { fetchAgain } from '../../data/fetch-again.ts';
import { queryClient } from '../../data/query-client.ts';
import { questionsOf } from '../../data/query-key.ts';
import { question } from '../../data/question.ts';
import { count, counted } from '../../kit/format.ts';
import { stakeText, worthWords } from '../../plan/worth-words.ts';

const SHOWN = 8;
const key = { queryKey: questionsOf(listWorth, null) };

/** What is worth doing over all plans; those in which something has changed are looked through one after the other. */
export function WorthOfPlans() {
  const { data } = useQuery({ ...question(listWorth), staleTime: 0 });
  const plans = data?.plans ?? [];
  const { waiting, failed } = useLookingThrough(plans);
  const all = inOrder(
    plans.flatMap(({ plan, name, open }) => (open ?? []).map((one) => ({ ...one, plan, name }))),
  );
  if (all.length === 0 && waiting === 0 && failed === 0) return null;
  const others = all.length - SHOWN;
  return (
    <section aria-label="Worth doing" className="mb-5 shrink-0">
      <h2 className="mb-1 flex items-baseline gap-2 font-semibold">
        Worth doing
        <span className="font-normal text-[12.5px] text-faint">
          with what is at stake over the last days that reports tell
        </span>
        {waiting > 0 && (
          <span className="font-normal text-[12.5px] text-faint">
            {counted(waiting, 'plan')} being looked through …
          </span>
        )}
        {failed > 0 && (
          <span className="font-normal text-[12.5px] text-error">
            {counted(failed, 'plan')} could not be looked through: open it to see why.
          </span>
        )}
      </h2>
      <ul className="divide-y divide-base-300 border-hair border-y">
        {all.slice(0, SHOWN).map((one) => (
          <Line key={`${one.plan} ${one.code} ${one.account}`} worth={one} plan={one.plan} name={one.name} />
        ))}
      </ul>
      {others > 0 && (
        <p className="mt-1 text-[12.5px] text-faint">{count(others)} more in the plans themselves.</p>
      )}
    </section>
  );
}

function Line({ worth, plan, name }: { worth: WorthItem; plan: number; name: string }) {
  const { said, why, to } = worthWords[worth.code];
  return (
    <li>
      <Link
        to={`/plans/${plan}/${to}`}
        title={why}
        className="grid grid-cols-[1fr_14rem_6rem] items-center gap-3 px-2 py-1.5 hover:bg-base-200"
      >
        <span className="truncate">{said(worth.count)}</span>
        <span className="truncate text-faint">{name}</span>
        <b className="text-right">{stakeText(worth)}</b>
      </Link>
    </li>
  );
}

/**
 * Looks through plans in which something has changed, each once, one at a time; what was found is shown as it comes. Answers how
 * many are left, and how many could not be looked through.
 */
function useLookingThrough(plans: readonly PlanWorth[]): { waiting: number; failed: number } {
  const [tried, setTried] = useState<ReadonlyMap<number, 'done' | 'failed'>>(new Map());
  const left = plans.filter(({ plan, isOld }) => isOld && !tried.has(plan));
  const next = left[0]?.plan ?? null;
  useEffect(() => {
    if (next === null) return;
    let isLeft = false;
    void (async () => {
      const how = await call(readWorth, { params: { plan: next } }).then(
        () => 'done' as const,
        () => 'failed' as const,
      );
      if (isLeft) return;
      await fetchAgain(queryClient, key);
      setTried((before) => new Map(before).set(next, how));
    })();
    return () => {
      isLeft = true;
    };
  }, [next]);
  return { waiting: left.length, failed: [...tried.values()].filter((how) => how === 'failed').length };
}
