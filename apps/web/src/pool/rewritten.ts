import { type Rewriting, rewriter } from '@sprig/core/gather';
import { languagePack } from '@sprig/core/text';
import type { PoolStore } from './pool-store.ts';
import type { Rewrites } from './worker-answers.ts';

/** What a rewriting makes of keywords: each that changes, and the words of a pattern that can't be read. */
export function rewritten(
  store: PoolStore,
  ids: readonly number[],
  rewriting: Rewriting,
  language: string,
): Rewrites {
  const made = rewriter(rewriting, languagePack(language));
  if (made.status === 'problem') return { words: made.words };
  const edits = ids.flatMap((id) => {
    const row = store.rowById(id);
    if (row === undefined) return [];
    const before = store.text(row);
    const after = made.rewrite(before);
    return before === after ? [] : [{ id, before, after }];
  });
  return { edits };
}
