import { addressRuleSchema, patternFrom } from '@sprig/contracts';
import type { NumberedPattern } from '@sprig/core/ads';
import { type AddressRule, usualAddressRule } from '@sprig/core/write';

type Rows = <T extends object>(sql: string) => Promise<T[]>;

/** The plan's ad patterns in their order; `$1` is the plan. */
export async function patternsOf(rows: Rows): Promise<NumberedPattern[]> {
  const found = await rows<{ id: number; body: unknown }>(
    'select id, body from ad_patterns where plan_id = $1 order by coalesce(position, 0), id',
  );
  return found.map(({ id, body }) => ({ id, body: patternFrom(body) }));
}

export function addressRuleFrom(body: unknown): AddressRule {
  const read = addressRuleSchema.safeParse(body);
  return read.success ? read.data : usualAddressRule();
}
