import { redoChange, undoChange } from '@sprig/contracts';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { CallFailure, call, wordsOf, writesAnswered } from '../data/call.ts';
import { readChanged } from '../data/changed.ts';

/** Undo and redo of the user's own changes. Where somebody else has changed the same since, it asks. */
export function useSteps(plan: number): { undo: () => void; redo: () => void } {
  const step = useCallback(
    async (endpoint: typeof undoChange, word: string, force: boolean) => {
      try {
        await writesAnswered();
        const { label } = await call(endpoint, { params: { plan }, body: { force } });
        await readChanged(plan);
        toast(`${word}: ${label}`);
      } catch (error) {
        if (error instanceof CallFailure && error.failure.at === 'force')
          toast.warning(error.message, {
            action: { label: 'Step back all the same', onClick: () => void step(endpoint, word, true) },
            duration: 12_000,
          });
        else toast.error(wordsOf(error));
      }
    },
    [plan],
  );
  return {
    undo: useCallback(() => void step(undoChange, 'Undone', false), [step]),
    redo: useCallback(() => void step(redoChange, 'Done again', false), [step]),
  };
}
