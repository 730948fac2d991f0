import { NegativeIndex, type NegativeKeyword } from '@sprig/core/match';
import type { Change } from '../../plan/change/index.ts';

const PAGE = 20_000;
const LAST_ID = 2_147_483_647;

/**
 * Brings up to date which keywords are blocked, and by which negative: by the plan's own that block and by those of its
 * attached shared lists. Only keywords from `first` to `last` are looked at. Each change is logged.
 */
export const refreshBlocks = (change: Change, first = 1, last = LAST_ID): Promise<number> =>
  eachBlock(change, first, last, async (rows) => {
    await change.updateEach('keywords', rows, ['blocked_by']);
  });

/** Finds what blocks keywords that came without a line in the log of their own, from `first` on. */
export const blockQuietly = (change: Change, first: number): Promise<number> =>
  eachBlock(change, first, LAST_ID, (rows) =>
    change.derive(
      `update keywords k set blocked_by = r.blocked_by, changed_revision = $2
       from jsonb_to_recordset($3::jsonb) as r(id int, blocked_by int) where k.plan_id = $1 and k.id = r.id`,
      [change.revision, JSON.stringify(rows)],
    ),
  );

type Block = { id: number; blocked_by: number | null };

async function eachBlock(
  change: Change,
  first: number,
  last: number,
  keep: (rows: Block[]) => Promise<void>,
): Promise<number> {
  const negatives = await blockingNegatives(change);
  const [any] = await change.rows<{ blocked: boolean }>(
    'select exists (select from keywords where plan_id = $1 and blocked_by is not null) as blocked',
  );
  if (negatives.length === 0 && !any?.blocked) return 0;
  const index = new NegativeIndex(negatives);
  let blocked = 0;
  for (let after = first - 1; ; ) {
    const page = await change.rows<{ id: number; norm: string; blocked_by: number | null }>(
      `select id, norm, blocked_by from keywords where plan_id = $1 and id > $2 and id <= $3 order by id limit ${PAGE}`,
      [after, last],
    );
    const rows = page.flatMap(({ id, norm, blocked_by }) => {
      const by = index.blocking(norm) ?? null;
      return by === blocked_by ? [] : [{ id, blocked_by: by }];
    });
    blocked += rows.filter(({ blocked_by }) => blocked_by !== null).length;
    if (rows.length > 0) await keep(rows);
    if (page.length < PAGE) return blocked;
    after = page.at(-1)?.id ?? after;
  }
}

/** Shared ones carry minus their id, so that both kinds can stand in one column. */
const blockingNegatives = (change: Change): Promise<NegativeKeyword[]> =>
  change.rows<NegativeKeyword>(
    `select id, norm, match_type as type from negatives where plan_id = $1 and reason = 'block'
     union all
     select -s.id, s.norm, s.match_type from attached_lists a
       join shared_negatives s on s.workspace_id = a.workspace_id and s.list_id = a.list_id where a.campaigns is null and a.plan_id = $1
     order by 1 desc`,
  );
