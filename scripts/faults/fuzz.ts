import { Mutations } from './mutate.ts';
import { type Reader, readers } from './readers.ts';

export type Fuzzed = {
  tries: number;
  byReader: Record<string, { tries: number; slowestMs: number }>;
  /** What broke a promise, with what makes it again. */
  failures: string[];
};

/** Gives every reader its share of so many mutated inputs. */
export async function fuzz(tries: number, seed: number, given?: readonly Reader[]): Promise<Fuzzed> {
  const all = given ?? (await readers());
  const done: Fuzzed = { tries: 0, byReader: {}, failures: [] };
  for (const { name, samples, read, mutate } of all) {
    const told = { tries: 0, slowestMs: 0 };
    done.byReader[name] = told;
    const mutations = new Mutations(seed + name.length);
    for (let n = 0; n < Math.ceil(tries / all.length); n++) {
      const isOwn = mutate && mutations.pick([true, true, false]);
      const bytes = isOwn ? mutate(mutations) : mutations.bytes(samples);
      const start = performance.now();
      try {
        await read(bytes);
      } catch (error) {
        done.failures.push(`${name}, seed ${seed}, try ${n}: ${(error as Error).message}`);
      }
      told.tries++;
      done.tries++;
      told.slowestMs = Math.max(told.slowestMs, performance.now() - start);
    }
  }
  return done;
}
