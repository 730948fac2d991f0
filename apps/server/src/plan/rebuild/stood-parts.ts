import { partOfKey } from '@sprig/core/build';
import type { StoodPart } from '@sprig/core/plan';

/** Asks the database about the plan, which is bound as `$1`. */
export type Rows = <T extends object>(sql: string, bind: unknown[]) => Promise<T[]>;

const unitOf = (key: string): string => key.replace(/(?:p\d+)?(?:l\d+)?$/, '');

/**
 * The parts that keywords stand in, of those of the ad groups' units that are split; most are whole and need not be asked
 * about.
 */
export async function stoodParts(
  rows: Rows,
  groups: readonly string[],
): Promise<(StoodPart & { keywords: number[] })[]> {
  const split = new Set(groups.filter((key) => partOfKey(key) > 1).map(unitOf));
  if (split.size === 0) return [];
  const members = await rows<{ group_key: string; keywords: number[] }>(
    `select group_key, array_agg(distinct keyword_id) as keywords from keyword_rows
     where plan_id = $1 and group_key = any($2::text[]) group by group_key`,
    [groups.filter((key) => split.has(unitOf(key)))],
  );
  return members.map(({ group_key, keywords }) => ({
    unit: unitOf(group_key),
    part: partOfKey(group_key),
    keywords,
  }));
}
