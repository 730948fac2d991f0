import { readTerm, type Sift, siftProblems, tidySift } from '@sprig/core/sort';

/** The group of terms that is being typed into: one of `has`, the next one, or `not`. */
export type Slot = number | 'not';
export type Typing = { slot: Slot; text: string } | null;

/** The terms of a slot. */
export const termsIn = (sift: Sift, slot: Slot): readonly string[] =>
  slot === 'not' ? sift.not : (sift.has[slot] ?? []);

function withTerms(sift: Sift, slot: Slot, terms: readonly string[]): Sift {
  if (slot === 'not') return tidySift({ ...sift, not: [...terms] });
  const has = sift.has.slice();
  has[slot] = [...terms];
  return tidySift({ ...sift, has });
}

export const addTerm = (sift: Sift, slot: Slot, term: string): Sift =>
  withTerms(sift, slot, [...termsIn(sift, slot), term]);

export const removeTerm = (sift: Sift, slot: Slot, term: string): Sift =>
  withTerms(
    sift,
    slot,
    termsIn(sift, slot).filter((one) => one !== term),
  );

/** The sift with what is being typed, where that can be read as a term already. */
export function withTyping(sift: Sift, typing: Typing): Sift {
  if (!typing || 'problem' in readTerm(typing.text)) return sift;
  const added = addTerm(sift, typing.slot, typing.text);
  return siftProblems(added).length > 0 ? sift : added;
}

/** Why what is being typed is no term; null where it is one, or nothing yet. */
export function typingProblem(typing: Typing) {
  if (!typing || typing.text.trim() === '' || typing.text.trim() === '=') return null;
  const read = readTerm(typing.text);
  return 'problem' in read ? ({ code: 'term', typed: typing.text, why: read.problem } as const) : null;
}
