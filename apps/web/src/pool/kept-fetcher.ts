import { readKeptColumn, urlOf } from '@sprig/contracts';
import type { KeptKind } from './kept-columns.ts';
import type { PoolStore } from './pool-store.ts';

/** Fetches columns that were kept as they are. */
export class KeptFetcher {
  constructor(private readonly store: PoolStore) {}

  private keptAt = new Map<string, number>();

  /** Fetches columns that were kept as they are, each once a revision, and answers what stands in them. */
  async load(plan: number, headings: string[]): Promise<Record<string, KeptKind>> {
    for (const heading of headings) {
      if (this.keptAt.get(heading) === this.store.revision) continue;
      const answer = await fetch(urlOf(readKeptColumn, { params: { plan }, query: { heading } }));
      if (!answer.ok) throw new Error(`The column ${heading} could not be fetched. Try again in a moment.`);
      const { ids, texts } = readKeptColumn.answer.parse(await answer.json());
      this.store.takeKeptColumn(heading, ids, texts);
      this.keptAt.set(heading, this.store.revision);
    }
    return Object.fromEntries(headings.map((heading) => [heading, this.store.keptKind(heading)]));
  }
}
