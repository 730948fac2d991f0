import {
  type Brief,
  dayIn,
  type Facts,
  factsOf,
  type HandPlaced,
  type SettingSet,
  type SortSettings,
  sortSettingsSchema,
  themeBody,
  usualSortSettings,
} from '@sprig/contracts';
import type { NumberedPattern } from '@sprig/core/ads';
import { type Copied, type Hold, type Layout, layoutOn } from '@sprig/core/build';
import type { RefusedText } from '@sprig/core/findings';
import type { NegativeKeyword } from '@sprig/core/match';
import type { Outlet } from '@sprig/core/outlets';
import type { Theme } from '@sprig/core/sort';
import { type AddressRule, type ExtraBody, textsOfExtra } from '@sprig/core/write';
import type { Transaction } from 'sequelize';
import { select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { addressRuleFrom, patternsOf } from '../ad-inputs.ts';
import { chosenOutlets } from '../outlets.ts';
import { settingSetsOf } from '../setting-sets.ts';

/** A negative of one campaign or ad group, by its key. */
export type PlacedNegative = NegativeKeyword & { place: string };

/** Everything that a plan is made of but for its keywords, as it stood at one revision. */
export type Inputs = {
  revision: number;
  brief: Omit<Brief, 'archived'>;
  facts: Facts;
  layout: Layout;
  patterns: NumberedPattern[];
  address: AddressRule;
  /** The day that it is in the plan's time zone: what is built holds for it. */
  day: string;
  refused: RefusedText[];
  /** Where extras are shown, by key. */
  extrasAt: Set<string>;
  phonesAt: Set<string>;
  /** What extras say, each once. */
  extraTexts: string[];
  /** Those that the plan ships to. */
  outlets: Outlet[];
  holds: Hold[];
  themes: Theme[];
  placed: HandPlaced[];
  sortSettings: SortSettings;
  copies: Copied[];
  settingSets: SettingSet[];
  sources: Map<number, string>;
  /** Those of the plan that may stand against a keyword of it: not the ones that took their keywords out of the pool. */
  negatives: NegativeKeyword[];
  placedNegatives: PlacedNegative[];
  /** Fences that are not to be made. */
  fencesOut: Pick<PlacedNegative, 'place' | 'norm' | 'type'>[];
  /** Of shared lists that are for some campaigns only. */
  listedNegatives: (NegativeKeyword & { campaigns: string[] })[];
};

type Head = Omit<Brief, 'archived'> & {
  revision: number;
  layout: Layout;
  address: unknown;
  facts: unknown;
  sort: unknown;
};

/** Reads a plan's inputs within a transaction that sees one moment of the database. */
export class InputReader {
  constructor(
    private readonly caller: PlanCaller,
    private readonly transaction: Transaction,
  ) {}

  async inputs(): Promise<Inputs> {
    const [head] = await this.rows<Head>(
      `select p.revision, b.name, b.currency, b.language, b.site, l.body as layout, a.body as address, f.body as facts,
         s.body as sort
       from plans p join briefs b on b.plan_id = p.id join layouts l on l.plan_id = p.id
       left join address_rules a on a.plan_id = p.id left join facts f on f.plan_id = p.id
       left join sort_settings s on s.plan_id = p.id where p.id = $1`,
    );
    if (!head) throw notFound('plan');
    const { revision, layout, address, facts: body, sort, ...brief } = head;
    const facts = factsOf(body);
    const today = dayIn(facts.timeZone, new Date());
    const settings = sortSettingsSchema.safeParse(sort);
    return {
      revision,
      brief,
      facts,
      day: today,
      layout: layoutOn(layout, today),
      patterns: await patternsOf((sql) => this.rows(sql)),
      address: addressRuleFrom(address),
      ...(await this.ofAds()),
      outlets: (await chosenOutlets(this.caller, this.transaction)).map(({ outlet }) => outlet),
      sortSettings: settings.success ? settings.data : usualSortSettings,
      holds: await this.rows<Hold>(
        'select row_key as "rowKey", field, outlet, value from holds where plan_id = $1 order by id',
      ),
      themes: await this.themes(),
      placed: await this.rows<HandPlaced>(
        'select keyword_id as keyword, theme_id as theme, stage from placed_by_hand where plan_id = $1 order by keyword_id',
      ),
      copies: (
        await this.rows<{ id: number; of: string; body: Omit<Copied, 'id' | 'of'> }>(
          'select id, of, body from copies where plan_id = $1 order by id',
        )
      ).map(({ id, of, body }) => ({ id, of, ...body })),
      settingSets: await settingSetsOf((sql) => this.rows(sql)),
      sources: new Map(
        (
          await this.rows<{ id: number; name: string }>(
            'select id, name from sources where plan_id = $1 order by id',
          )
        ).map(({ id, name }) => [id, name]),
      ),
      ...(await this.negatives()),
    };
  }

  private async ofAds(): Promise<Pick<Inputs, 'refused' | 'extrasAt' | 'phonesAt' | 'extraTexts'>> {
    const refused = await this.rows<RefusedText>(
      `select distinct on (text, outlet) text, outlet, reason from ad_reviews, unnest(texts) as text
       where plan_id = $1 and state = 'refused' order by text, outlet, id desc`,
    );
    const extras = await this.rows<{ at: string[]; body: ExtraBody; status: string }>(
      `select at, body, coalesce(status, 'enabled') as status from extras where plan_id = $1 order by id`,
    );
    const running = extras.filter(({ status }) => status === 'enabled');
    const phones = running.filter(({ body }) => body.kind === 'phone');
    return {
      refused,
      extrasAt: new Set(running.flatMap(({ at }) => at)),
      phonesAt: new Set(phones.flatMap(({ at }) => at)),
      extraTexts: [...new Set(extras.flatMap(({ body }) => textsOfExtra(body)))],
    };
  }

  private async negatives() {
    return {
      negatives: await this.rows<NegativeKeyword>(
        `select id, norm, match_type as type from negatives where plan_id = $1 and reason = 'hand' order by id`,
      ),
      placedNegatives: await this.rows<PlacedNegative>(
        `select id, place, norm, match_type as type from placed_negatives where plan_id = $1 order by id`,
      ),
      fencesOut: await this.rows<Inputs['fencesOut'][number]>(
        `select place, norm, match_type as type from fences_out where plan_id = $1 order by id`,
      ),
      listedNegatives: await this.rows<NegativeKeyword & { campaigns: string[] }>(
        `select n.id, n.norm, n.match_type as type, a.campaigns from attached_lists a join shared_negatives n
           on n.workspace_id = a.workspace_id and n.list_id = a.list_id
         where a.plan_id = $1 and a.campaigns is not null order by n.id`,
      ),
    };
  }

  private async themes(): Promise<Theme[]> {
    const rows = await this.rows<{ id: number; parent: number | null; body: unknown }>(
      'select id, parent_id as parent, body from themes where plan_id = $1 order by position, id',
    );
    return rows.map(({ id, parent, body }) => ({ id, parent, ...themeBody.parse(body) }));
  }

  rows<T extends object>(sql: string, bind: unknown[] = []): Promise<T[]> {
    return select<T>(this.caller.database, sql, [this.caller.plan, ...bind], {
      transaction: this.transaction,
    });
  }
}
