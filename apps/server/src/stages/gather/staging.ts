import {
  figuresOf,
  type LineProblem,
  type ListCounts,
  noCounts,
  type ReadNegative,
  type RowSink,
  type SaidKeyword,
  type SetAside,
} from '@sprig/core/gather';
import { bitOf, type MatchType, negativeTypeOf } from '@sprig/core/match';
import { TextSet } from '@sprig/core/text';
import { copyIntoTemporary, copyLine } from '../../db/copy.ts';
import { keywords, lineProblems, mentions } from '../../db/tables/gather.ts';
import { type Column, columnsOf, pick, shapeOf } from '../../db/tables/index.ts';
import { negatives } from '../../db/tables/prune.ts';
import type { Scratch } from '../../plan/change/index.ts';

const SAID: readonly Column[] = [
  ...pick(mentions, ['line']),
  ...pick(keywords, ['text', 'norm']),
  ...columnsOf(mentions, (_, name) => !['source_id', 'keyword_id', 'line', 'told_of'].includes(name)),
];
const NEGATIVES: readonly Column[] = pick(negatives, ['text', 'norm', 'match_type']);
const PROBLEMS: readonly Column[] = columnsOf(lineProblems, (_, name) => !['id', 'source_id'].includes(name));

/** The tables of what was read, each with its columns. */
const TABLES = {
  incoming: SAID,
  repeats: SAID,
  incoming_negatives: NEGATIVES,
  incoming_problems: PROBLEMS,
};
type Table = keyof typeof TABLES;
const tables = Object.keys(TABLES) as Table[];

/**
 * What a list says, on its way into the pool: kept in tables of the transaction as it is read, so that memory does not
 * grow with the list. A keyword said for the first time goes to `incoming`, one said before to `repeats`.
 */
export class Staging implements RowSink {
  readonly counts: ListCounts = noCounts();
  keywords = 0;
  private readonly met = new TextSet();
  private readonly metNegatives = new TextSet();
  private readonly waiting: Record<Table, string[]> = {
    incoming: [],
    repeats: [],
    incoming_negatives: [],
    incoming_problems: [],
  };

  private constructor(private readonly scratch: Scratch) {}

  static async open(scratch: Scratch): Promise<Staging> {
    await scratch.derive(`set local work_mem = '64MB'`);
    for (const name of tables) await scratch.temporary(name, `n serial, ${shapeOf(TABLES[name])}`);
    return new Staging(scratch);
  }

  keyword(said: SaidKeyword): void {
    const { line, text: given, norm, type, marks, extra } = said;
    const { searches, searchesAbout, cpc, cpcAbout, competition } = figuresOf(said);
    const asked = type ? bitOf(type) : 0;
    const values = [
      line,
      given,
      norm,
      asked,
      marks,
      searches,
      searchesAbout,
      cpc,
      cpcAbout,
      competition,
      extra,
    ];
    const again = this.met.metBefore(norm);
    if (!again) this.keywords++;
    this.waiting[again ? 'repeats' : 'incoming'].push(copyLine(SAID, values));
  }

  negative({ text: given, norm, type }: ReadNegative): void {
    if (this.metNegatives.metBefore(`${type ?? ''}:${norm}`)) {
      this.counts.repeated++;
      return;
    }
    this.waiting.incoming_negatives.push(copyLine(NEGATIVES, [given, norm, negativeTypeOf(type)]));
  }

  problem({ line, raw, code, at, character, kept }: LineProblem): void {
    if (!kept) this.counts.lines++;
    this.waiting.incoming_problems.push(copyLine(PROBLEMS, [line, raw, code, at, character ?? null, kept]));
  }

  /** Kept with what is wrong, so that it can be looked at and taken in later. A heading is no line of the list. */
  setAside({ line, raw, why }: SetAside): void {
    this.counts.lines++;
    if (why !== 'header')
      this.waiting.incoming_problems.push(copyLine(PROBLEMS, [line, raw, why, 1, null, false]));
  }

  noted(type: MatchType | null): void {
    this.counts.lines++;
    this.counts.byNotation[type ?? 'plain']++;
  }

  /** Writes what was read since the last time. */
  async flush(): Promise<void> {
    for (const name of tables) {
      const lines = this.waiting[name];
      if (lines.length === 0) continue;
      this.waiting[name] = [];
      const names = TABLES[name].map((column) => column.name);
      await copyIntoTemporary(this.scratch.transaction, name, names, lines);
    }
  }

  /**
   * Writes the rest and joins what was said again with what was said first: match types and marks are everyone's, each
   * figure is the first that there is.
   */
  async finish(): Promise<void> {
    await this.flush();
    const [again] = await this.scratch.rows<{ rows: number }>(
      'select count(*)::int as rows from repeats where $1 > 0',
    );
    if (!again || again.rows === 0) return;
    await this.takeStrangers();
    await this.countRepeats();
    await this.joinRepeats();
  }

  /** Texts that only share a hash with another: said for the first time after all. */
  private async takeStrangers() {
    const names = SAID.map(({ name }) => name).join(', ');
    await this.scratch.derive(
      `with strangers as (
         select distinct on (norm) * from repeats r where not exists (select from incoming i where i.norm = r.norm) order by norm, n),
       gone as (delete from repeats where n in (select n from strangers))
       insert into incoming (${names}) select ${names} from strangers`,
    );
  }

  private async countRepeats() {
    const bits = (set: string) => `bit_count((${set})::int::bit(32))`;
    const [found] = await this.scratch.rows<{ rows: number; more: number }>(
      `select coalesce(sum(rows), 0)::int as rows, coalesce(sum(${bits('i.asked | r.asked')} - (${bits('i.asked')})), 0)::int as more
       from (select norm, count(*) as rows, bit_or(asked) as asked from repeats group by norm) r join incoming i on i.norm = r.norm
       where $1 > 0`,
    );
    this.counts.askedAgain += found?.more ?? 0;
    this.counts.repeated += (found?.rows ?? 0) - (found?.more ?? 0);
  }

  private async joinRepeats() {
    const first = (field: string) =>
      `(array_agg(${field} order by n) filter (where ${field} is not null))[1] as ${field}`;
    const about = (field: string) =>
      `(array_agg(${field}_about order by n) filter (where ${field} is not null))[1] as ${field}_about`;
    await this.scratch.derive(
      `update incoming i set asked = i.asked | r.asked,
         searches = coalesce(i.searches, r.searches), searches_about = case when i.searches is null then coalesce(r.searches_about, false) else i.searches_about end,
         cpc = coalesce(i.cpc, r.cpc), cpc_about = case when i.cpc is null then coalesce(r.cpc_about, false) else i.cpc_about end,
         competition = coalesce(i.competition, r.competition), extra = coalesce(i.extra, r.extra)
       from (select norm, bit_or(asked) as asked, ${first('searches')}, ${about('searches')}, ${first('cpc')}, ${about('cpc')},
               ${first('competition')}, ${first('extra')} from repeats group by norm) r
       where r.norm = i.norm`,
    );
    await this.scratch.derive(
      `update incoming i set marks = r.marks
       from (select i.norm, array_agg(distinct mark order by mark) as marks from incoming i
               join repeats r on r.norm = i.norm and r.marks <> '{}', unnest(i.marks || r.marks) mark group by i.norm) r
       where r.norm = i.norm`,
    );
  }
}
