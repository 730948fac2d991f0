import { readKeptColumn, readResultColumn, urlOf } from '@sprig/contracts';
import type { ResultFigure } from '@sprig/core/learn';
import { figureText, typedNumber } from '../plan/results/result-words.ts';
import type { KeptKind } from './kept-columns.ts';
import type { PoolStore } from './pool-store.ts';
import { figureOfHeading } from './result-headings.ts';

/** Fetches columns that were kept as they are. */
export class KeptFetcher {
  constructor(private readonly store: PoolStore) {}

  private keptAt = new Map<string, number>();

  /** Fetches columns that were kept as they are, each once a revision, and answers what stands in them. */
  async load(plan: number, headings: string[]): Promise<Record<string, KeptKind>> {
    for (const heading of headings) {
      if (this.keptAt.get(heading) === this.store.revision) continue;
      const figure = figureOfHeading(heading);
      if (figure !== null) {
        await this.loadResults(plan, heading, figure);
        continue;
      }
      const answer = await fetch(urlOf(readKeptColumn, { params: { plan }, query: { heading } }));
      if (!answer.ok) throw new Error(`The column ${heading} could not be fetched. Try again in a moment.`);
      const { ids, texts } = readKeptColumn.answer.parse(await answer.json());
      this.store.takeKeptColumn(heading, ids, texts);
      this.keptAt.set(heading, this.store.revision);
    }
    return Object.fromEntries(headings.map((heading) => [heading, this.store.keptKind(heading)]));
  }

  private async loadResults(plan: number, heading: string, figure: ResultFigure) {
    const answer = await fetch(urlOf(readResultColumn, { params: { plan }, query: { figure } }));
    if (!answer.ok) throw new Error('Results could not be fetched. Try again in a moment.');
    const { currency, ids, values } = readResultColumn.answer.parse(await answer.json());
    this.store.takeNumbers(
      heading,
      ids,
      values.map((value) => typedNumber(figure, value)),
      values.map((value) => figureText(figure, value, currency ?? '')),
    );
    this.keptAt.set(heading, this.store.revision);
  }
}
