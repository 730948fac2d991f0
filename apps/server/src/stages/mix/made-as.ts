import type { Change } from '../../plan/change/index.ts';

/** The text that a recipe's mention `m` of the keyword `k` was made as: a renamed keyword keeps it beside its own. */
export const MADE_AS = `coalesce(m.extra->>'Made as', k.norm)`;

/** To be called before keywords are renamed by hand, so that their recipes know them again. */
export const noteMadeAs = (change: Change, ids: readonly number[]): Promise<void> =>
  change.derive(
    `update mentions m set extra = coalesce(m.extra, '{}') || jsonb_build_object('Made as', k.norm)
     from keywords k, sources s where m.plan_id = $1 and m.keyword_id = any($2::int[]) and m.extra->>'Made as' is null
       and k.plan_id = $1 and k.id = m.keyword_id and s.plan_id = $1 and s.id = m.source_id and s.kind = 'recipe'`,
    [ids],
  );
