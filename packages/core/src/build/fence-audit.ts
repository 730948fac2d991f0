import { countAt, stringAt, uint32At } from '../access/index.ts';
import type { AnswerIndex } from '../match/index.ts';
import { type FencePlan, narrowestOf } from './fences.ts';

/** A keyword, in the narrowest match type of its text, whose own text can be answered by others, or not by its own ad group. */
export type AuditFailure = {
  row: number;
  /** Its own group is blocked for it. */
  ownBlocked: boolean;
  /** The groups that could have it, each once. */
  others: number[];
};

export type FenceAudit = {
  /** Keywords tried, each text in its narrowest match type, and those that only their own ad group can answer. */
  tried: number;
  kept: number;
  failures: AuditFailure[];
  /** All failures, also where only the first are listed. */
  failed: number;
};

/**
 * Tries the text of every keyword as a search, whatever match types the plan has. It says nothing of plurals and other orders, which may still
 * cross. `isBlocked` tells whether a negative in a group's scope blocks a search; `most` failures are listed.
 */
export function auditFences(
  { index, classOf, overlaps }: Pick<FencePlan, 'index' | 'classOf' | 'overlaps'>,
  isBlocked: (group: number, search: string) => boolean,
  most = Number.POSITIVE_INFINITY,
): FenceAudit {
  const audit: FenceAudit = { tried: 0, kept: 0, failures: [], failed: 0 };
  for (let text = 0; text < index.textNorms.length; text++) {
    const rows = keeperRows(index, text);
    if (rows.length === 0) continue;
    const open = openGroups(index, text, isBlocked);
    for (const row of rows) {
      const own = uint32At(index.ownerOfRow, row);
      const others = open.filter(
        (group) => group !== own && overlaps(countAt(classOf, own), countAt(classOf, group)),
      );
      const ownBlocked = !open.includes(own);
      audit.tried++;
      if (!ownBlocked && others.length === 0) {
        audit.kept++;
        continue;
      }
      audit.failed++;
      if (audit.failures.length < most) audit.failures.push({ row, ownBlocked, others });
    }
  }
  return audit;
}

function keeperRows(index: AnswerIndex, text: number): number[] {
  const narrowest = narrowestOf(index, text);
  return Array.from(index.rowsOfText(text)).filter((row) => index.typeOfRow[row] === narrowest);
}

/** The groups that can answer a text and are not blocked, each once. */
function openGroups(
  index: AnswerIndex,
  text: number,
  isBlocked: (group: number, search: string) => boolean,
): number[] {
  const search = stringAt(index.textNorms, text);
  const groups = new Set<number>();
  index.each(index.readText(text), (row) => {
    groups.add(uint32At(index.ownerOfRow, row));
  });
  return [...groups].filter((group) => !isBlocked(group, search));
}
