import {
  type AdText,
  editPattern,
  type FieldEdit,
  holdTexts,
  makePattern,
  orderPatterns,
  type ReviewState,
  removePattern,
  reviewAds,
} from '@sprig/contracts';
import { type AdField, type AdPattern, adFields } from '@sprig/core/write';
import { useMemo } from 'react';
import { toast } from 'sonner';
import { call } from '../../data/call.ts';
import type { Document } from '../../data/document.ts';
import { runChange } from '../../data/run-change.ts';
import { counted } from '../../kit/format.ts';
import type { Patterns } from './use-writing.ts';

/** What Write changes beside a pattern's own fields; a refusal is told in its words. */
export function useWriteActions(plan: number, document: Document<Patterns>) {
  const { edit } = document;
  return useMemo(() => {
    const params = { plan };
    const run = <T>(work: () => Promise<T>, said = '') => runChange(plan, work, () => said);
    return {
      make: async (body: AdPattern, behind: number | null): Promise<number | null> =>
        (await run(() => call(makePattern, { params, body: { body, behind } })))?.id ?? null,
      /** Puts another pattern's form, name and lines in the place of one's own, in one change. */
      rewrite: async (id: number, before: AdPattern, after: AdPattern): Promise<number | null> => {
        const edits: FieldEdit[] = [
          { at: 'name', before: before.name, after: after.name },
          { at: 'form', before: before.form, after: after.form },
          ...adFields.map((field) => ({
            at: `fields.${field}`,
            before: before.fields[field],
            after: after.fields[field],
          })),
        ].filter((edit) => JSON.stringify(edit.before) !== JSON.stringify(edit.after));
        const done = await run(
          () => call(editPattern, { params: { ...params, pattern: id }, body: { edits } }),
          `Started from ${after.name}. Ctrl+Z takes it back.`,
        );
        return done && id;
      },
      remove: (pattern: number) => run(() => call(removePattern, { params: { ...params, pattern } })),
      order: (patterns: number[]) => run(() => call(orderPatterns, { params, body: { patterns } })),
      status: async (pattern: number, status: AdPattern['status']) => {
        const words = await edit(`patterns.${pattern}.status`, status);
        if (words) toast.error(words);
      },
      texts: (texts: [string, AdText, string][]) =>
        run(
          () => call(holdTexts, { params, body: { texts } }),
          `Wrote ${counted(texts.length, 'text')} by hand. Ctrl+Z takes it back.`,
        ),
      review: (
        keys: string[],
        state: ReviewState,
        reason: string,
        fields: AdField[],
        outlet: string | null,
      ) => run(() => call(reviewAds, { params, body: { keys, state, reason, fields, outlet } })),
    };
  }, [plan, edit]);
}

export type WriteActions = ReturnType<typeof useWriteActions>;
