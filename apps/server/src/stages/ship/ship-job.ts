import { factsOf, type ShipResult } from '@sprig/contracts';
import type { Layout } from '@sprig/core/build';
import { type MatchType, matchTypes } from '@sprig/core/match';
import { asMicros, decimalsOf } from '@sprig/core/money';
import {
  campaignSettings,
  incrementOf,
  type Outlet,
  plainOutlet,
  projectRow,
  type SheetRow,
  sheetKinds,
} from '@sprig/core/ship';
import { type AdField, adFields } from '@sprig/core/write';
import { Transaction } from 'sequelize';
import { z } from 'zod';
import { execute, select } from '../../database/connect.ts';
import { SprigFailure } from '../../failure.ts';
import type { JobContext } from '../../jobs/context.ts';
import { rebuild } from '../../rebuild/index.ts';
import { SheetSink } from './sheet-sink.ts';

const shipInput = z.object({
  outlet: z.literal('plain'),
  format: z.enum(['csv', 'tsv']),
  sheets: z.array(z.enum(sheetKinds)),
});

/** Groups whose rows are in memory at once. */
const PAGE = 2_000;
/** Sheet sets of a plan that are kept to be fetched again. */
const KEPT = 5;

type GroupRow = { key: string; campaign: string; part: number; name: string; bid: number };
type KeywordRow = {
  group_key: string;
  text: string;
  type: number;
  marks: number[];
  base: number;
  steps: number[];
  held_bid: number | null;
};
type AdRow = { group_key: string; texts: string[]; final_url: string };
type Head = {
  revision: number;
  built: number;
  currency: string;
  layout: Layout;
  blockers: number;
  facts: unknown;
};

/** Writes the sheets of a plan at one moment of the database; all of them are kept, or none. */
export async function shipJob(context: JobContext): Promise<ShipResult> {
  const { caller } = context;
  const input = shipInput.parse(context.input);
  await bringUpToDate(context);
  return caller.database.transaction(
    { isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ },
    async (transaction) => {
      const shipment = new Shipment(context, transaction, plainOutlet);
      return shipment.write(input.sheets, input.format);
    },
  );
}

async function bringUpToDate({ caller }: JobContext) {
  const [plan] = await select<{ stale: boolean }>(
    caller.database,
    'select built_revision < revision as stale from plans where id = $1',
    [caller.plan],
  );
  if (plan?.stale) await rebuild(caller);
}

class Shipment {
  private sinks: SheetSink[] = [];

  constructor(
    private readonly context: JobContext,
    private readonly transaction: Transaction,
    private readonly outlet: Outlet,
  ) {}

  async write(sheets: readonly string[], format: 'csv' | 'tsv'): Promise<ShipResult> {
    const head = await this.head();
    if (head.blockers > 0)
      throw new SprigFailure('blocked', 'Blockers stand in the way. Mend them first: nothing was written.');
    const { caller, id } = this.context;
    await this.run('delete from sheet_sets where id = $1', [id]);
    await this.run(
      'insert into sheet_sets (id, workspace_id, plan_id, actor_id, outlet, revision) values ($1, $2, $3, $4, $5, $6)',
      [id, caller.workspace, caller.plan, caller.actor, this.outlet.key, head.built],
    );
    const decimals = decimalsOf(head.currency);
    this.sinks = this.outlet.sheets
      .filter(({ kind }) => sheets.includes(kind))
      .map((profile) => new SheetSink(caller, this.transaction, id, profile, this.outlet, format, decimals));
    await this.writeRows(head);
    const files = [];
    for (const sink of this.sinks) files.push(await sink.done());
    await this.run(
      `delete from sheet_sets where id in (select id from sheet_sets where plan_id = $1 order by created_at desc offset ${KEPT})`,
      [caller.plan],
    );
    return { sheetSet: id, revision: head.built, files };
  }

  private async head(): Promise<Head> {
    const [head] = await this.rows<Head>(
      `select p.revision, p.built_revision as built, b.currency, l.body as layout, (select body from facts f where f.plan_id = p.id) as facts,
         (select count(*) from findings f where f.plan_id = p.id and f.outlet = $2 and f.severity = 'blocker')::int as blockers
       from plans p join briefs b on b.plan_id = p.id join layouts l on l.plan_id = p.id where p.id = $1`,
      [this.outlet.key],
    );
    if (!head) throw new SprigFailure('not-found', 'There is no such plan.');
    return head;
  }

  /** A campaign stands before what it contains, an ad group before its keywords and its ad. */
  private async writeRows(head: Head) {
    const groups = await this.rows<GroupRow>(
      'select key, campaign, part, name, bid from outlet_groups where plan_id = $1 and outlet = $2 order by part, position',
      [this.outlet.key],
    );
    const negatives = await this.rows<{ norm: string; type: MatchType }>(
      `select norm, match_type as type from (
         select norm, match_type, 0 as shared, id from negatives where plan_id = $1
         union all
         select n.norm, n.match_type, 1, n.id from attached_lists a
           join shared_negatives n on n.workspace_id = a.workspace_id and n.list_id = a.list_id where a.plan_id = $1) all_of_them
       group by norm, match_type order by min(shared), min(id)`,
    );
    let part = 0;
    for (let from = 0; from < groups.length; from += PAGE) {
      const page = groups.slice(from, from + PAGE);
      const [rows, ads] = await this.pageOf(page.map(({ key }) => key));
      for (const group of page) {
        if (group.part !== part) await this.writeCampaign(group.campaign, head, negatives);
        part = group.part;
        await this.writeGroup(group, rows.get(group.key) ?? [], ads.get(group.key) ?? [], head);
      }
      await this.context.progress('writing sheets', from + page.length, groups.length);
    }
  }

  private async pageOf(keys: string[]) {
    const rows = await this.rows<KeywordRow>(
      'select group_key, text, type, marks, base, steps, held_bid from keyword_rows where plan_id = $1 and group_key = any($2::text[]) order by position, type',
      [keys],
    );
    const ads = await this.rows<AdRow>(
      `select group_key, texts, final_url from ads where plan_id = $1 and outlet = $3
         and key = any(select k || '/a1' from unnest($2::text[]) k) order by position, key`,
      [keys, this.outlet.key],
    );
    return [byGroup(rows), byGroup(ads)] as const;
  }

  private async writeCampaign(
    campaign: string,
    { layout, facts }: Head,
    negatives: readonly { norm: string; type: MatchType }[],
  ) {
    const settings = campaignSettings(factsOf(facts));
    await this.emit({ kind: 'campaign', campaign, dailyBudget: layout.dailyBudget, settings });
    for (const { norm, type } of negatives) await this.emit({ kind: 'negative', campaign, text: norm, type });
  }

  private async writeGroup(
    group: GroupRow,
    rows: readonly KeywordRow[],
    ads: readonly AdRow[],
    { layout, currency }: Head,
  ) {
    const { campaign, name } = group;
    const increment = incrementOf(this.outlet, currency);
    await this.emit({ kind: 'group', campaign, group: name, bid: asMicros(group.bid) });
    for (const row of rows) {
      const built = {
        key: '',
        groupKey: row.group_key,
        text: row.text,
        type: matchTypes[row.type] as MatchType,
        marks: row.marks,
        base: asMicros(row.base),
        steps: row.steps,
        heldBid: row.held_bid === null ? null : asMicros(row.held_bid),
      };
      await this.emit(projectRow(built, { campaign, name }, layout, increment));
    }
    for (const ad of ads) {
      const texts = Object.fromEntries(adFields.map((field, at) => [field, ad.texts[at] ?? ''])) as Record<
        AdField,
        string
      >;
      await this.emit({ kind: 'ad', campaign, group: name, texts, finalUrl: ad.final_url });
    }
  }

  private async emit(row: SheetRow) {
    for (const sink of this.sinks) if (sink.takes(row.kind)) await sink.add(row);
  }

  private rows<T extends object>(sql: string, bind: unknown[] = []): Promise<T[]> {
    const { database, plan } = this.context.caller;
    return select<T>(database, sql, [plan, ...bind], { transaction: this.transaction });
  }

  private run(sql: string, bind: unknown[]): Promise<void> {
    return execute(this.context.caller.database, sql, bind, { transaction: this.transaction });
  }
}

function byGroup<T extends { group_key: string }>(rows: readonly T[]): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const row of rows) {
    const list = groups.get(row.group_key);
    if (list) list.push(row);
    else groups.set(row.group_key, [row]);
  }
  return groups;
}
