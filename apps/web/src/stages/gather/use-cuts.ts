import { setCut, unfoldKeywords } from '@sprig/contracts';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { readChanged } from '../../data/changed.ts';
import { runChange } from '../../data/run-change.ts';
import { counted } from '../../kit/format.ts';
import type { usePool } from '../../pool/use-pool.ts';

type Worker = ReturnType<typeof usePool>['worker'];

/** Takes keywords out of the pool, and puts them back, each in its own way; `onDone` must stay the same between renders. */
export function useCuts(plan: number, worker: Worker, onDone: () => void) {
  const cut = useCallback(
    async (ids: number[], isCut: boolean) => {
      if (ids.length === 0) return;
      const done = await runChange(
        plan,
        () => call(setCut, { params: { plan }, body: { ids, cut: isCut } }),
        () => `${isCut ? 'Cut' : 'Put back'} ${counted(ids.length, 'keyword')}. Ctrl+Z takes it back.`,
      );
      if (done) onDone();
    },
    [plan, onDone],
  );

  const putBack = useCallback(
    async (ids: number[]) => {
      const { rows, folded } = await statesOf(worker, ids);
      try {
        if (folded.length > 0) await call(unfoldKeywords, { params: { plan }, body: { ids: folded } });
      } catch (error) {
        return void toast.error(wordsOf(error));
      }
      if (rows.length > 0) return cut(rows, false);
      await readChanged(plan);
      onDone();
      toast(
        folded.length > 0
          ? `${counted(folded.length, 'keyword')} stand for themselves again. Ctrl+Z takes it back.`
          : 'A blocked keyword comes back when the word that blocks it goes: see Negatives in Prune.',
      );
    },
    [cut, plan, worker, onDone],
  );
  return { cut, putBack };
}

/** Which of the keywords are cut and which are folded: each comes back in its own way. */
async function statesOf(worker: Worker, ids: number[]) {
  const page = await worker.page(ids);
  const of = (state: string) => page.filter((row) => row.state === state).map(({ id }) => id);
  return { rows: of('cut'), folded: of('folded') };
}
