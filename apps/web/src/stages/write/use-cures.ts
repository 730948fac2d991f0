import { type AdField, adFields } from '@sprig/core/write';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { useWorked } from '../../pool/use-pool.ts';
import type { WritingState } from './use-writing.ts';

type Counts = { fields: Partial<Record<AdField, { unfilled: number }>> } | undefined;

/** Lines that would fit most of what does not fit in the chosen pattern, and how to add one. */
export function useCures({ pool, fit, document, chosen, asked }: WritingState, counts: Counts) {
  const kept = document.kept?.patterns[chosen];
  const misfits = fit?.chosen.misfits ?? 0;
  const worst = worstField(counts);
  const { data: cures = null } = useWorked(
    async () =>
      worst && document.value === document.kept
        ? { field: worst, list: await pool.worker.cures(chosen, worst) }
        : null,
    `cures:${asked}:${worst}:${misfits}`,
  );
  const cure = useCallback(
    async (at: number) => {
      const line = cures?.list[at]?.line;
      if (!cures || !line || !kept) return;
      const field = cures.field as AdField;
      const words = await document.edit(`patterns.${chosen}.fields.${field}.lines`, [
        ...kept.fields[field].lines,
        line,
      ]);
      if (words) toast.error(words);
    },
    [cures, kept, document, chosen],
  );
  return { cures, cure };
}

/** The field that is unfilled most often. */
function worstField(counts: Counts): AdField | null {
  let worst: AdField | null = null;
  for (const name of adFields) {
    const now = counts?.fields[name]?.unfilled ?? 0;
    if (now > 0 && now > (worst ? (counts?.fields[worst]?.unfilled ?? 0) : 0)) worst = name;
  }
  return worst;
}
