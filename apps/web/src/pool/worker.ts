import {
  fetchPool,
  framesOf,
  type GroupHeads,
  joinPools,
  type Negative,
  readHeads,
  type SharedList,
  unpackPool,
  urlOf,
} from '@sprig/contracts';
import type { NoEstimate } from '@sprig/core/figures';
import { decoderOf, guessEncoding, type ReadOptions, type Rewriting, readList } from '@sprig/core/gather';
import type { NegativeKeyword, NegativeType } from '@sprig/core/match';
import type { MatrixView } from '@sprig/core/mix';
import type { SaidTheme } from '@sprig/core/plan';
import type { LookAlikeClass, ReadyFilter } from '@sprig/core/prune';
import type { Sift } from '@sprig/core/sort';
import {
  type AddressRule,
  type AdField,
  type AdLimits,
  type AdPattern,
  type AdSheetReading,
  type Cure,
  readAdSheet,
  type SheetAd,
  siteWords,
} from '@sprig/core/write';
import { expose, transfer } from 'comlink';
import { type ArchiveAnswer, openArchive } from './archive.ts';
import { type BuildInput, Building, type LiveBuild } from './building.ts';
import { type FoundGaps, type IdeaRow, Ideas, type IdeasInput } from './ideas.ts';
import type { KeptKind } from './kept-columns.ts';
import { KeptFetcher } from './kept-fetcher.ts';
import { Learning } from './learning.ts';
import { type MixFigures, type MixFilter, Mixing, type MixQuestion } from './mixing.ts';
import { PatternFits, type WriteFit, type WriteGroup, type WriteInput } from './pattern-fits.ts';
import { type PoolOrder, type PoolQuery, type PoolRow, PoolStore } from './pool-store.ts';
import { type PruneInput, Pruning, type ReviewKind } from './pruning.ts';
import { summaryOf } from './read-summary.ts';
import { rewritten } from './rewritten.ts';
import { type Scope, type SortInput, Sorting } from './sorting.ts';
import { openWorkbook, type Workbook, type WorkbookProblem } from './workbook.ts';
import {
  type EstimateSaid,
  isUtf8,
  type Learned,
  type ReadSummary,
  type Rewrites,
} from './worker-answers.ts';
import { type JoinInput, wouldJoin } from './would-join.ts';

export type { EstimateSaid, EstimatesAbout, Learned, ReadSummary, Rewrites } from './worker-answers.ts';

/** What the screens ask of the worker: everything that is worked out as one types. */
class PoolWorker {
  private readonly store = new PoolStore();

  /** Brings the pool up to date with the server; answers the revision it stands at. */
  async refresh(plan: number): Promise<{ revision: number; length: number }> {
    const answer = await fetch(urlOf(fetchPool, { params: { plan }, query: { since: this.store.revision } }));
    if (!answer.ok) throw new Error('The pool could not be fetched. Try again in a moment.');
    const frames = framesOf(new Uint8Array(await answer.arrayBuffer()));
    const columns = joinPools(frames.map((frame) => unpackPool(frame, codec)));
    if (!columns.delta || columns.revision > this.store.revision) {
      this.store.take(columns);
      await this.learning.fillEstimates();
    }
    return { revision: this.store.revision, length: this.store.length };
  }

  private readonly learning = new Learning(this.store);

  learn(plan: number, usesMarket: boolean): Promise<Learned> {
    return this.learning.learn(plan, usesMarket);
  }

  untold(): string[] {
    return this.learning.untold();
  }

  estimateOf(measure: 'searches' | 'cpc', id: number): EstimateSaid | null {
    return this.learning.estimateOf(measure, id);
  }

  whyNoEstimate(measure: 'searches' | 'cpc', id: number): NoEstimate | null {
    return this.learning.whyNoEstimate(measure, id);
  }

  private readonly keptColumns = new KeptFetcher(this.store);

  loadKeptColumns(plan: number, headings: string[]): Promise<Record<string, KeptKind>> {
    return this.keptColumns.load(plan, headings);
  }

  query(query: PoolQuery): PoolOrder {
    const order = this.store.order(query);
    return transfer(order, [order.ids.buffer]);
  }

  sources() {
    const sets = this.store.sourceSets();
    return { totals: this.store.sourceTotals(sets), sets };
  }

  rewrite(ids: number[], rewriting: Rewriting, language: string): Rewrites {
    return rewritten(this.store, ids, rewriting, language);
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

  /** How many keywords could be folded, whatever look-alikes are on the screen. */
  async foldable(input: Pick<PruneInput, 'language' | 'facts'>, classes: readonly LookAlikeClass[]) {
    return (await this.prune()).foldable(input, classes);
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

  /** Looks at the next combinations, and answers what is known by then. */
  mixFigures(): MixFigures {
    this.mixing.lookAtNext();
    return this.mixing.figures();
  }

  mixMatrix(view: MatrixView) {
    return this.mixing.matrix(view);
  }

  inMatrix(view: MatrixView, row: number | null, column: number | null, isCut: boolean) {
    return this.mixing.inMatrix(view, row, column, isCut);
  }

  mixUnder(searches: number, byEstimates: boolean) {
    return this.mixing.under(searches, byEstimates);
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

  private readonly ideas = new Ideas(this.store, () => this.learning.slips);

  gaps(input: IdeasInput): FoundGaps {
    return this.ideas.gaps(input);
  }

  around(words: string[], input: IdeasInput): IdeaRow[] {
    return this.ideas.around(words, input);
  }

  completions(typed: string, input: IdeasInput): IdeaRow[] {
    return this.ideas.completions(typed, input);
  }

  poolLists(input: IdeasInput): string[][] {
    return this.ideas.lists(input);
  }

  fitting(list: string[], input: IdeasInput): string[] {
    return this.ideas.fitting(list, input);
  }

  weighed(texts: { text: string; why: string }[]): IdeaRow[] {
    return this.ideas.weighed(texts);
  }

  /** The theme that would take each text in. */
  wouldJoin(norms: string[], input: JoinInput): (string | null)[] {
    return wouldJoin(norms, input);
  }

  private readonly sorting = new Sorting(this.store);

  sort(input: SortInput) {
    return this.sorting.place(input);
  }

  /** Takes a plan's themes without working sums out, for a worker that only proposes. */
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
  async openWorkbook(bytes: Uint8Array): Promise<{ sheets: string[] } | { problem: WorkbookProblem }> {
    const book = await openWorkbook(bytes);
    if ('problem' in book) return book;
    this.workbook = book;
    return { sheets: book.sheets };
  }

  sheetText(sheet: number): string {
    return this.workbook?.textOf(sheet) ?? '';
  }

  /** The sheets and workbooks that an archive holds. */
  openArchive(bytes: Uint8Array, most: number): Promise<ArchiveAnswer> {
    return openArchive(bytes, most);
  }

  page(ids: number[]): PoolRow[] {
    return this.store.page(ids);
  }

  private readonly building = new Building(this.store, this.sorting);

  liveBuild(input: BuildInput): LiveBuild {
    return this.building.live(input);
  }

  /** Reads a pasted list. */
  readText(text: string, options: ReadOptions): ReadSummary {
    return summaryOf(this.store, readList(text, options));
  }

  /** Reads a file; answers why not where it is no text. */
  readFile(bytes: Uint8Array, options: ReadOptions): ReadSummary | { problem: 'empty-file' | 'binary-file' } {
    const guess = guessEncoding(bytes, isUtf8);
    if (guess.status === 'problem') return { problem: guess.code };
    const decoder = decoderOf(guess.encoding, (encoding) => new TextDecoder(encoding));
    const text = decoder.decode(bytes.subarray(guess.bomLength));
    return summaryOf(this.store, readList(text, options));
  }

  private heads: GroupHeads | null = null;

  /** What the ad groups are called and speak of, as they were built last. */
  private async groupHeads({ plan, builtRevision }: WriteInput): Promise<GroupHeads> {
    if (this.heads && this.heads.builtRevision >= builtRevision) return this.heads;
    const answer = await fetch(urlOf(readHeads, { params: { plan } }));
    if (!answer.ok) throw new Error('The ad groups could not be fetched. Try again in a moment.');
    this.heads = readHeads.answer.parse(await answer.json());
    return this.heads;
  }

  private readonly writing = new PatternFits();

  async fit(input: WriteInput, chosen: number, keepOrder: boolean): Promise<WriteFit> {
    this.writing.take(await this.groupHeads(input));
    return this.writing.fit(input, chosen, keepOrder);
  }

  async tryPatterns(input: WriteInput, bodies: readonly AdPattern[]) {
    this.writing.take(await this.groupHeads(input));
    return this.writing.tried(input, bodies);
  }

  writeGroups(from: number, to: number): WriteGroup[] {
    return this.writing.page(from, to);
  }

  nextMisfit(from: number): number {
    return this.writing.nextMisfit(from);
  }

  misfitsFirst(): void {
    this.writing.reorder();
  }

  writePlaceOf(key: string): number {
    return this.writing.placeOf(key);
  }

  writeGroup(key: string): WriteGroup | null {
    return this.writing.groupOf(key);
  }

  writeThemes(): ReadonlyMap<number, SaidTheme> {
    return this.writing.themes();
  }

  writeThemeNames() {
    return this.writing.themeNames();
  }

  cures(pattern: number, field: AdField): Cure[] {
    return this.writing.cures(pattern, field);
  }

  addressCounts(rule: AddressRule) {
    return this.writing.addresses(rule);
  }

  allGroups() {
    return this.writing.all();
  }

  /** Reads a sheet of ads that was pasted; the usual ad is meant where a row names none. */
  readAdSheet(text: string, ads: SheetAd[], usual: SheetAd, limits: AdLimits): AdSheetReading {
    return readAdSheet(text, this.writing.all(), ads, usual, limits);
  }

  /** The words of a site's name: by the pool's words, and by ordinary ones. */
  async siteWords(site: string): Promise<string[]> {
    const { commonWords } = await import('@sprig/core/english');
    const weights = new Map<string, number>();
    for (let row = 0; row < this.store.length; row++)
      for (const word of this.store.norm(row).split(' ')) weights.set(word, (weights.get(word) ?? 0) + 1);
    return siteWords(site, (word) => weights.get(word) ?? (commonWords.has(word) ? 1 : 0));
  }
}

const encoder = new TextEncoder();
const decoder = new TextDecoder();
const codec = {
  encode: (text: string) => encoder.encode(text),
  decode: (bytes: Uint8Array) => decoder.decode(bytes),
};

export type { PoolWorker };

expose(new PoolWorker());
