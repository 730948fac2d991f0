import { toast } from 'sonner';
import { wordsOf } from './call.ts';
import { noteAnew, readChanged } from './changed.ts';

/** Changes the plan, and has what is shown of it read again. Answers the words of a refusal, or null. */
export async function refusalOf(plan: number, work: () => Promise<unknown>): Promise<string | null> {
  try {
    noteAnew(plan);
    await work();
    await readChanged(plan);
    return null;
  } catch (error) {
    return wordsOf(error);
  }
}

/**
 * Changes the plan with a word on the screen of what was done, where there is one to say, or of the refusal. Answers what the work
 * answered; null: it was refused.
 */
export async function runChange<T>(
  plan: number,
  work: () => Promise<T>,
  said?: (answer: T) => string,
): Promise<T | null> {
  let answer: T | null = null;
  const refusal = await refusalOf(plan, async () => {
    answer = await work();
  });
  if (refusal !== null) {
    toast.error(refusal);
    return null;
  }
  const words = said?.(answer as T);
  if (words) toast(words);
  return answer;
}
