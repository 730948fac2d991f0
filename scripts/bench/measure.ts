/** The median of several runs, in milliseconds, with the garbage of one kept out of the next. */
export async function median(runs: number, work: () => unknown): Promise<number> {
  const times: number[] = [];
  for (let run = 0; run < runs; run++) {
    (globalThis as { gc?: () => void }).gc?.();
    const start = performance.now();
    await work();
    times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)] as number;
}

/** `most`: how many times its floor it may take. */
export type Entry = { name: string; ms: number; floor: string; floorMs: number; most?: number };
