import { setTimeout as delay } from 'node:timers/promises';
import { SetupFailure } from './stop-with.mjs';

/** More than so many ends within this time, and starting it again helps nobody. */
const MOST_ENDS = 5;
const WITHIN_MS = 600_000;
const FIRST_WAIT_MS = 500;

/**
 * Starts something, and starts it again where it ends by itself: a few times, told each time. `start` answers how to stop
 * it, and a promise of its end. `gaveUp` fails where it ends too often.
 */
export async function keepRunning(name, start) {
  let running = await start();
  let isStopping = false;
  const ends = [];
  const noteEnd = (how) => {
    const now = performance.now();
    ends.push(now);
    while (ends[0] < now - WITHIN_MS) ends.shift();
    if (ends.length > MOST_ENDS)
      throw new SetupFailure(
        `${name} ended ${ends.length} times within ten minutes, and is not started again. What is printed above says why.`,
      );
    console.error(`${name} ended (${how}). It is started again (${ends.length} of ${MOST_ENDS}).`);
    return FIRST_WAIT_MS * 2 ** (ends.length - 1);
  };
  const watch = async () => {
    for (;;) {
      let wait = 0;
      if (running) {
        const how = await running.exited;
        if (isStopping) return;
        running = null;
        wait = noteEnd(how);
      }
      await delay(wait);
      if (isStopping) return;
      try {
        running = await start();
        console.error(`${name} runs again.`);
      } catch (error) {
        if (!(error instanceof SetupFailure)) throw error;
        await delay(noteEnd(error.message));
      }
      if (isStopping) return running?.stop();
    }
  };
  const gaveUp = watch();
  gaveUp.catch(() => {});
  return {
    gaveUp,
    stop: async () => {
      isStopping = true;
      await running?.stop();
    },
  };
}
