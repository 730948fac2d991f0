import { type Brief, type Facts, factsOf } from '@sprig/contracts';
import { type BuildKeyword, type Hold, type Layout, typesFor } from '@sprig/core/build';
import { countIn, type NegativeKeyword } from '@sprig/core/match';
import type { AdPattern } from '@sprig/core/write';
import type { Transaction } from 'sequelize';
import type { PlanCaller } from '../caller.ts';
import { select } from '../database/connect.ts';
import { notFound } from '../failure.ts';

export type InputKeyword = BuildKeyword & { searches: number | null };

/** Everything that groups, rows and ads are made of but for the keywords, as it stood at one revision. */
export type Inputs = {
  revision: number;
  brief: Omit<Brief, 'archived'>;
  facts: Facts;
  layout: Layout;
  pattern: AdPattern;
  holds: Hold[];
  /** Those that may stand against a keyword of the plan: not the ones that took their keywords out of the pool. */
  negatives: NegativeKeyword[];
};

/** The keywords that are built, by id, with the size of their groups and the campaign part these stood in before. */
export type Frame = { ids: Uint32Array; rows: Uint8Array; partsBefore: Uint32Array };

const IS_IN = 'not cut and folded_into is null and blocked_by is null';
const FRAME_PAGE = 50_000;

/** Reads a plan's inputs within a transaction that sees one moment of the database. */
export class InputReader {
  constructor(
    private readonly caller: PlanCaller,
    private readonly transaction: Transaction,
    private readonly outlet: string,
  ) {}

  async inputs(): Promise<Inputs> {
    const [head] = await this.rows<
      Omit<Brief, 'archived'> & { revision: number; layout: Layout; pattern: AdPattern; facts: unknown }
    >(
      `select p.revision, b.name, b.currency, b.language, b.site, l.body as layout, a.body as pattern, f.body as facts
       from plans p join briefs b on b.plan_id = p.id join layouts l on l.plan_id = p.id
       join ad_patterns a on a.plan_id = p.id left join facts f on f.plan_id = p.id where p.id = $1`,
    );
    if (!head) throw notFound('plan');
    const holds = await this.rows<Hold>(
      'select row_key as "rowKey", field, outlet, value from holds where plan_id = $1 order by id',
    );
    const negatives = await this.rows<NegativeKeyword>(
      `select id, norm, match_type as type from negatives where plan_id = $1 and reason = 'hand' order by id`,
    );
    const { revision, layout, pattern, facts, ...brief } = head;
    return { revision, brief, facts: factsOf(facts), layout, pattern, holds, negatives };
  }

  async frame(layout: Layout): Promise<Frame> {
    const ids: number[] = [];
    const rows: number[] = [];
    for await (const page of this.byPages<{ id: number; asked: number }>(
      `select id, asked from keywords where plan_id = $1 and id > $2 and ${IS_IN} order by id limit ${FRAME_PAGE}`,
      ({ id }) => id,
    ))
      for (const { id, asked } of page) {
        ids.push(id);
        rows.push(countIn(typesFor(layout, asked)));
      }
    return {
      ids: Uint32Array.from(ids),
      rows: Uint8Array.from(rows),
      partsBefore: await this.partsBefore(ids),
    };
  }

  private async partsBefore(ids: readonly number[]): Promise<Uint32Array> {
    const parts = new Uint32Array(ids.length);
    let at = 0;
    for await (const page of this.byPages<{ position: number; part: number }>(
      `select position, part from outlet_groups where plan_id = $1 and outlet = $3 and position > $2
       order by position limit ${FRAME_PAGE}`,
      ({ position }) => position,
      [this.outlet],
    ))
      for (const { position, part } of page) {
        while (at < ids.length && (ids[at] as number) < position) at++;
        if (ids[at] === position) parts[at] = part;
      }
    return parts;
  }

  /** The keywords that are built with ids above `after`, at most `limit` of them. */
  keywords(after: number, limit: number): Promise<InputKeyword[]> {
    return this.rows<InputKeyword>(
      `select id, text, norm, asked, marks, cpc, searches from keywords
       where plan_id = $1 and id > $2 and ${IS_IN} order by id limit $3`,
      [after, limit],
    );
  }

  private async *byPages<T extends object>(sql: string, idOf: (row: T) => number, bind: unknown[] = []) {
    for (let last = 0; ; ) {
      const page = await this.rows<T>(sql, [last, ...bind]);
      if (page.length > 0) yield page;
      if (page.length < FRAME_PAGE) return;
      last = idOf(page.at(-1) as T);
    }
  }

  private rows<T extends object>(sql: string, bind: unknown[] = []): Promise<T[]> {
    return select<T>(this.caller.database, sql, [this.caller.plan, ...bind], {
      transaction: this.transaction,
    });
  }
}
