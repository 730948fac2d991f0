import { linesOf } from '@sprig/core/text';

/** The lines of what was typed, trimmed, without empty ones. */
export const filledLines = (typed: string): string[] =>
  linesOf(typed)
    .map((line) => line.trim())
    .filter(Boolean);
