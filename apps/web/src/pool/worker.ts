import {
  casingList,
  type Facts,
  framesOf,
  type HeldValue,
  joinPools,
  mixFigures,
  type Negative,
  type SharedList,
  unpackPool,
} from '@sprig/contracts';
import { type BuildYield, buildPlan, buildYield, type Hold, type Layout } from '@sprig/core/build';
import {
  type Encoding,
  guessEncoding,
  type LineProblem,
  type ListLayout,
  type Reading,
  type ReadOptions,
  type Rewriting,
  readList,
  rewriter,
} from '@sprig/core/gather';
import type { NegativeKeyword, NegativeType } from '@sprig/core/match';
import type { MatrixView } from '@sprig/core/mix';
import type { Micros } from '@sprig/core/money';
import type { LookAlikeClass, ReadyFilter } from '@sprig/core/prune';
import { type Outlet, type ProjectedAd, project, tokensOf } from '@sprig/core/ship';
import type { Sift } from '@sprig/core/sort';
import { casingOf, languagePack } from '@sprig/core/text';
import {
  type AdPattern,
  adFields,
  compilePattern,
  countFits,
  type FitCounts,
  unfilledFields,
  type Writing,
} from '@sprig/core/write';
import { expose, transfer } from 'comlink';
import { type MixFigures, type MixFilter, Mixing, type MixQuestion } from './mixing.ts';
import { type PoolOrder, type PoolQuery, type PoolRow, PoolStore } from './pool-store.ts';
import { type PruneInput, Pruning, type ReviewKind } from './pruning.ts';
import { type Scope, type SortInput, Sorting } from './sorting.ts';
import { openWorkbook, type Workbook } from './workbook.ts';

/** What was understood of a list, in the numbers and samples that the screen shows. */
export type ReadSummary = {
  layout: ListLayout;
  counts: Reading['counts'];
  keywords: number;
  negatives: number;
  alreadyThere: number;
  withSearches: number;
  withCpc: number;
  problems: LineProblem[];
  problemCount: number;
  titles: number;
  totals: number;
  sample: { line: number; text: string; asked: number; searches: number | null; cpc: number | null }[];
};

export type WriteInput = {
  pattern: AdPattern;
  layout: Layout;
  holds: HeldValue[];
  currency: string;
  language: string;
  site: string;
  facts: Facts;
  outlet: Outlet;
};

/** A group as Write goes through them. */
export type WrittenGroup = {
  key: string;
  keyword: string;
  name: string;
  searches: number | null;
  misfit: boolean;
  ad: ProjectedAd;
};

type Fitted = { input: WriteInput; rows: Uint32Array; names: string[] | null; misfits: Set<number> };

const SHOWN_PROBLEMS = 500;
const SAMPLE = 200;

const utf8 = new TextDecoder('utf-8', { fatal: true });
const isUtf8 = (bytes: Uint8Array) => {
  try {
    utf8.decode(bytes);
    return true;
  } catch {
    return false;
  }
};

export type Rewrites = { words: string } | { edits: { id: number; before: string; after: string }[] };

/** What the screens ask of the worker: everything that is worked out as one types. */
class PoolWorker {
  private readonly store = new PoolStore();
  private order: Uint32Array = new Uint32Array();
  private fitted: Fitted | null = null;

  /** Brings the pool up to date with the server; answers the revision it stands at. */
  async refresh(plan: number): Promise<{ revision: number; length: number }> {
    const answer = await fetch(`/api/plans/${plan}/pool?since=${this.store.revision}`);
    if (!answer.ok) throw new Error('The pool could not be fetched. Try again in a moment.');
    const frames = framesOf(new Uint8Array(await answer.arrayBuffer()));
    const columns = joinPools(frames.map((frame) => unpackPool(frame, codec)));
    if (!columns.delta || columns.revision > this.store.revision) this.store.take(columns);
    return { revision: this.store.revision, length: this.store.length };
  }

  query(query: PoolQuery): PoolOrder {
    const order = this.store.order(query);
    return transfer(order, [order.ids.buffer]);
  }

  sources() {
    const sets = this.store.sourceSets();
    return { totals: this.store.sourceTotals(sets), sets };
  }

  /** What a rewriting makes of keywords: each that changes, and the words of a pattern that can't be read. */
  rewrite(ids: number[], rewriting: Rewriting, language: string): Rewrites {
    const made = rewriter(rewriting, languagePack(language));
    if (made.status === 'problem') return { words: made.words };
    const edits = ids.flatMap((id) => {
      const row = this.store.rowById(id);
      if (row === undefined) return [];
      const before = this.store.text(row);
      const after = made.rewrite(before);
      return before === after ? [] : [{ id, before, after }];
    });
    return { edits };
  }

  private pruning: Promise<Pruning> | null = null;

  /** Ordinary words weigh more than all the rest: they are fetched when Prune is first opened. */
  private prune(): Promise<Pruning> {
    this.pruning ??= import('@sprig/core/english').then(
      ({ commonWords }) => new Pruning(this.store, (word) => commonWords.has(word)),
    );
    return this.pruning;
  }

  async lookAlikes(input: PruneInput, classes: LookAlikeClass[]) {
    return (await this.prune()).lookAlikes(input, classes);
  }

  async alikeGroups(from: number, to: number) {
    return (await this.prune()).alikeGroups(from, to);
  }

  async allFolds() {
    return (await this.prune()).allFolds();
  }

  async review(input: PruneInput, kind: ReviewKind, kept: string[], blocking: NegativeKeyword[]) {
    return (await this.prune()).reviewSummary(input, kind, kept, blocking);
  }

  async blockEffect(text: string, type: NegativeType, held: number[]) {
    return (await this.prune()).blockEffect(text, type, held);
  }

  async context(text: string) {
    return (await this.prune()).context(text);
  }

  async filters(input: PruneInput) {
    return (await this.prune()).filters(input);
  }

  async filterIds(input: PruneInput, name: ReadyFilter) {
    return (await this.prune()).filterIds(input, name);
  }

  async negativeEffects(negatives: Negative[]) {
    return (await this.prune()).negativeEffects(negatives);
  }

  async listEffect(list: Pick<SharedList, 'negatives'>) {
    return (await this.prune()).listEffect(list);
  }

  private readonly mixing = new Mixing(this.store);

  mix(question: MixQuestion) {
    return this.mixing.mix(question);
  }

  /** Asks the market about the next combinations, and answers what is known by then. */
  async mixFigures(plan: number): Promise<MixFigures> {
    const texts = this.mixing.wanting();
    if (texts.length > 0) {
      const answer = await fetch(`/api/plans/${plan}/mix/figures`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ texts }),
      });
      if (!answer.ok) throw new Error('The market does not answer. Try again in a moment.');
      this.mixing.tell(texts, mixFigures.answer.parse(await answer.json()));
    }
    return this.mixing.figures();
  }

  mixMatrix(view: MatrixView) {
    return this.mixing.matrix(view);
  }

  inMatrix(view: MatrixView, row: number | null, column: number | null, isCut: boolean) {
    return this.mixing.inMatrix(view, row, column, isCut);
  }

  mixUnder(searches: number) {
    return this.mixing.under(searches);
  }

  mixList(filter: MixFilter) {
    const places = this.mixing.list(filter);
    return transfer(places, [places.buffer]);
  }

  mixPage(places: number[]) {
    return this.mixing.page(places);
  }

  mixTexts(places: number[]) {
    return this.mixing.texts(places);
  }

  private readonly sorting = new Sorting(this.store);

  sort(input: SortInput) {
    return this.sorting.place(input);
  }

  /** The same without the sums, for a worker that only proposes. */
  prepareSort(input: SortInput): void {
    this.sorting.prepare(input);
  }

  sift(sift: Sift, scope: Scope, typing: string) {
    const answer = this.sorting.sift(sift, scope, typing);
    return transfer(answer, [answer.ids.buffer]);
  }

  sortedIds(scope: Scope) {
    const ids = this.sorting.ids(scope);
    return transfer(ids, [ids.buffer]);
  }

  /** Rows of the pool with where they stand. */
  sortedPage(ids: number[]) {
    const places = new Map(this.sorting.places(ids).map((place) => [place.id, place]));
    return this.store.page(ids).map((row) => ({
      ...row,
      theme: places.get(row.id)?.theme ?? 0,
      stage: places.get(row.id)?.stage ?? null,
    }));
  }

  contests() {
    return this.sorting.contests();
  }

  suggestions(scope: Scope, inside: number | null) {
    return this.sorting.suggestions(scope, inside);
  }

  sentenceOfSuggestion(scope: Scope, at: number) {
    return this.sorting.sentenceOfSuggestion(scope, at);
  }

  wholePlan(scope: Scope) {
    return this.sorting.wholePlan(scope);
  }

  branchThemes(scope: Scope, branches: number[]) {
    return this.sorting.branchThemes(scope, branches);
  }

  private workbook: Workbook | null = null;

  /** Opens an xlsx file and answers the names of its sheets; the newest one opened is the one that is read. */
  async openWorkbook(
    bytes: Uint8Array,
  ): Promise<{ sheets: string[] } | { problem: 'no-workbook' | 'too-large' }> {
    const book = await openWorkbook(bytes);
    if ('problem' in book) return book;
    this.workbook = book;
    return { sheets: book.sheets };
  }

  sheetText(sheet: number): string {
    return this.workbook?.textOf(sheet) ?? '';
  }

  page(ids: number[]): PoolRow[] {
    return this.store.page(ids);
  }

  buildYield(layout: Layout, increment: Micros): BuildYield {
    const { store } = this;
    return buildYield(
      {
        length: store.length,
        isIn: store.isIn,
        askedOf: store.asked,
        searchesOf: store.searches,
        cpcOf: store.cpc,
      },
      layout,
      increment,
    );
  }

  /** Reads a pasted list. */
  readText(text: string, options: ReadOptions): ReadSummary {
    return this.summary(readList(text, options));
  }

  /** Reads a file; answers why not where it is no text. */
  readFile(bytes: Uint8Array, options: ReadOptions): ReadSummary | { problem: 'empty-file' | 'binary-file' } {
    const guess = guessEncoding(bytes, isUtf8);
    if (guess.status === 'problem') return { problem: guess.code };
    const text = new TextDecoder(guess.encoding satisfies Encoding).decode(bytes.subarray(guess.bomLength));
    return this.summary(readList(text, options));
  }

  private summary({ layout, counts, keywords, negatives, problems, setAside }: Reading): ReadSummary {
    const norms = new Set<string>();
    for (let row = 0; row < this.store.length; row++) norms.add(this.store.norm(row));
    return {
      layout,
      counts,
      keywords: keywords.length,
      negatives: negatives.length,
      alreadyThere: keywords.filter(({ norm }) => norms.has(norm)).length,
      withSearches: keywords.filter(({ searches }) => searches !== null).length,
      withCpc: keywords.filter(({ cpc }) => cpc !== null).length,
      problems: problems.slice(0, SHOWN_PROBLEMS),
      problemCount: problems.length,
      titles: setAside.filter(({ why }) => why === 'title').length,
      totals: setAside.filter(({ why }) => why === 'totals').length,
      sample: keywords.slice(0, SAMPLE).map(({ line, text, asked, searches, cpc }) => ({
        line,
        text,
        asked,
        searches: searches?.value ?? null,
        cpc: cpc?.value ?? null,
      })),
    };
  }

  /** Fits the pattern in every group, and orders them: those that do not fit first, then by searches. */
  fit(input: WriteInput): FitCounts & { order: Uint32Array } {
    const rows = this.store.inRows();
    const held = new Set(
      input.holds.filter(({ rowKey }) => rowKey.includes('/a')).map(({ keywordId }) => keywordId),
    );
    const byRule = Array.from(rows.keys()).filter((place) => !held.has(this.store.id(rows[place] as number)));
    this.fitted = { input, rows, names: this.namesFor(input, rows), misfits: new Set() };
    const counts = countFits(
      compilePattern(input.pattern),
      byRule.length,
      (at) => this.valuesAt(byRule[at] as number),
      input.outlet.ad,
      writingOf(input),
    );
    for (const at of counts.misfitPlaces) this.fitted.misfits.add(byRule[at] as number);
    this.countHeld(
      counts,
      Array.from(rows.keys()).filter((place) => held.has(this.store.id(rows[place] as number))),
    );
    const { misfits } = this.fitted;
    const order = Uint32Array.from(rows.keys()).sort(
      (a, b) =>
        Number(misfits.has(b)) - Number(misfits.has(a)) ||
        this.store.searches(rows[b] as number) - this.store.searches(rows[a] as number) ||
        a - b,
    );
    this.order = order.slice();
    return { ...counts, misfitPlaces: [], order };
  }

  /** Groups whose ad carries something held are fitted with it, one by one. */
  private countHeld(counts: FitCounts, places: readonly number[]) {
    for (const [at, { ad }] of this.adsAt(places).entries()) {
      const unfilled = unfilledFields(ad.fit);
      counts.groups++;
      if (unfilled.length === 0) continue;
      counts.misfits++;
      this.fitted?.misfits.add(places[at] as number);
      for (const field of unfilled) if (field !== 'finalUrl') counts.fields[field].unfilled++;
    }
  }

  /** Group names are worked out only where the pattern says them. */
  private namesFor(input: WriteInput, rows: Uint32Array): string[] | null {
    const { pattern, layout } = input;
    const lines = [pattern.finalUrl, ...adFields.flatMap((field) => pattern.fields[field].lines)];
    if (!lines.some((line) => /@group/i.test(line))) return null;
    const keywords = Array.from(rows, (row) => this.buildKeyword(row));
    return buildPlan({ keywords, layout, holds: holdsOf(input), ...writingOf(input) }).groups.map(
      ({ name }) => name,
    );
  }

  private buildKeyword(row: number) {
    const { store } = this;
    return {
      id: store.id(row),
      text: store.text(row),
      norm: store.norm(row),
      asked: 0,
      marks: [],
      cpc: null,
    };
  }

  private valuesAt(place: number) {
    const fitted = this.fitted as Fitted;
    const norm = this.store.norm(fitted.rows[place] as number);
    return tokensOf({ keyword: norm, name: fitted.names?.[place] ?? norm }, fitted.input.site);
  }

  /** The ads of the groups at these places of the order, with what is held on top. */
  ads(from: number, to: number): WrittenGroup[] {
    return this.adsAt([...this.order.subarray(from, to)]);
  }

  private adsAt(places: readonly number[]): WrittenGroup[] {
    const { fitted, store } = this;
    if (!fitted || places.length === 0) return [];
    const { input, rows, names, misfits } = fitted;
    const { pattern, layout, currency, site, outlet } = input;
    const keywords = places.map((place) => this.buildKeyword(rows[place] as number));
    const keyed = new Set(keywords.map(({ id }) => `k${id}`));
    const holds = holdsOf(input).filter(({ rowKey }) => keyed.has(rowKey.replace(/[:/].*$/, '')));
    const writing = writingOf(input);
    const built = buildPlan({ keywords, layout, holds, ...writing });
    const groups = built.groups.map((group, at) => ({
      ...group,
      name: names?.[places[at] as number] ?? group.name,
    }));
    const { ads } = project(
      { groups, rows: [], layout, currency, site, pattern: compilePattern(pattern), holds, writing },
      outlet,
    );
    return groups.map(({ key, keyword, name }, at) => {
      const count = store.searches(rows[places[at] as number] as number);
      return {
        key,
        keyword,
        name,
        searches: count < 0 ? null : count,
        misfit: misfits.has(places[at] as number),
        ad: ads[at] as ProjectedAd,
      };
    });
  }

  /** The place in the order of a group, by its keyword's id; -1 where it is not there. */
  placeOf(keywordId: number): number {
    const { fitted } = this;
    if (!fitted) return -1;
    const place = fitted.rows.findIndex((row) => this.store.id(row) === keywordId);
    return place < 0 ? -1 : this.order.indexOf(place);
  }
}

const holdsOf = ({ holds }: WriteInput): Hold[] =>
  holds.map(({ rowKey, field, outlet, value }) => ({ rowKey, field, outlet, value }));

const writingOf = ({ language, facts }: Pick<WriteInput, 'language' | 'facts'>): Writing => ({
  pack: languagePack(language, facts.functionWords),
  casing: casingOf(casingList(facts)),
});

const encoder = new TextEncoder();
const decoder = new TextDecoder();
const codec = {
  encode: (text: string) => encoder.encode(text),
  decode: (bytes: Uint8Array) => decoder.decode(bytes),
};

export type { PoolWorker };

expose(new PoolWorker());
