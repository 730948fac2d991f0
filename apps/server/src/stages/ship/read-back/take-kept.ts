import { type ReadBack, type TakeResult, takeResult } from '@sprig/contracts';
import type { MatchType } from '@sprig/core/match';
import { joinCells } from '@sprig/core/sheets';
import { execute } from '../../../db/connect.ts';
import { findOne, patchRows } from '../../../db/rows.ts';
import type { Change } from '../../../plan/change/index.ts';
import type { JobContext } from '../../../platform/jobs/context.ts';
import type { NamedGroup } from './places.ts';
import type { StagedRow } from './staged-body.ts';

/** What this job did before its process died, if it had got so far. */
export async function resultOf({ caller, id: job }: JobContext, id: string): Promise<TakeResult | null> {
  const row = await findOne(caller, 'read_backs', { columns: ['result'], where: { id, taken_by: job } });
  return row ? takeResult.parse(row.result) : null;
}

/** The sheets wait no more. */
export async function close(
  { caller, id: job }: JobContext,
  { transaction }: Change,
  id: string,
  result: TakeResult,
) {
  await execute(caller.database, 'delete from read_back_rows where read_back_id = $1', [id], { transaction });
  await patchRows(caller, 'read_backs', { id }, { taken_by: job, result }, transaction);
}

export const nameOf = ({ files }: ReadBack): string => {
  const [first] = files;
  return files.length > 1 ? `${first?.name ?? ''} and ${files.length - 1} more` : (first?.name ?? 'sheets');
};

export const added = (rows: readonly StagedRow[]): StagedRow[] =>
  rows.filter(({ change }) => change === 'added');

/** The ad groups that rows stand in, with the match types of their keywords. */
export function namedGroups(rows: readonly StagedRow[]): Iterable<NamedGroup> {
  const groups = new Map<string, { campaign: string; group: string; types: Set<MatchType> }>();
  for (const { row } of rows) {
    if (!row || !('group' in row) || row.group === '') continue;
    const at = joinCells([row.campaign, row.group]);
    const there = groups.get(at) ?? { campaign: row.campaign, group: row.group, types: new Set<MatchType>() };
    groups.set(at, there);
    if (row.kind === 'keyword') there.types.add(row.type);
  }
  return groups.values();
}
