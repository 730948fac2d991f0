import type { AdSheetRow } from '@sprig/core/sheets';
import { adName } from '@sprig/core/write';
import type { Transaction } from 'sequelize';
import { execute } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';

const AT_ONCE = 5_000;
type Named = { group: string; name: string; ad: string };

/** Keeps what ads are called as they ship, so that a report that comes back later is known by it. */
export class ShippedAds {
  private waiting: Named[] = [];

  constructor(
    private readonly caller: PlanCaller,
    private readonly writing: Transaction,
    private readonly outlet: string,
  ) {}

  add(group: string, ads: readonly AdSheetRow[], keys: readonly string[]): void {
    const named = new Map<string, string>();
    ads.forEach(({ texts }, at) => {
      const name = adName(texts);
      // Which of two that are called alike is meant can't be told.
      named.set(name, named.has(name) ? '' : (keys[at] ?? ''));
    });
    for (const [name, ad] of named) if (name !== '') this.waiting.push({ group, name, ad });
  }

  /** Writes what waits where that is much, or `all` of it. */
  async settle(all = false): Promise<void> {
    if (this.waiting.length === 0 || (!all && this.waiting.length < AT_ONCE)) return;
    const { plan, workspace, database } = this.caller;
    const ads = this.waiting;
    this.waiting = [];
    await execute(
      database,
      `insert into shipped_ads (plan_id, outlet, workspace_id, group_key, name, ad)
       select $1, $2, $3, r."group", r.name, r.ad from jsonb_to_recordset($4::jsonb) as r("group" text, name text, ad text)
       on conflict (plan_id, outlet, group_key, name) do update set ad = excluded.ad where shipped_ads.ad <> excluded.ad`,
      [plan, this.outlet, workspace, JSON.stringify(ads)],
      { transaction: this.writing },
    );
  }
}
