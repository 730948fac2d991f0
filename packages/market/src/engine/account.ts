import type { RowKind } from '@sprig/core/ship';

/** A row as an account has it: what the sheets said of it, by heading. */
export type AccountRow = { kind: RowKind; campaign: string; group: string; said: Record<string, string> };

/** What a simulated engine keeps for one advertiser. `day` and `budgetChanges`: how many budgets changed on that day. */
export type Account = {
  rows: Map<string, AccountRow>;
  day: string;
  budgetChanges: number;
};

export const emptyAccount = (): Account => ({ rows: new Map(), day: '', budgetChanges: 0 });

export const packAccount = ({ rows, day, budgetChanges }: Account): string =>
  JSON.stringify({ rows: [...rows], day, budgetChanges });

export function unpackAccount(text: string): Account {
  const { rows, day, budgetChanges } = JSON.parse(text);
  return { rows: new Map(rows), day, budgetChanges };
}
