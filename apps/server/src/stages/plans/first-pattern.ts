import { isDeepStrictEqual } from 'node:util';
import { type AdPattern, patternOf } from '@sprig/core/write';

/** The ad pattern that a new plan starts with: it says the keyword, and the rest is to be written. */
export const firstPattern = (): AdPattern =>
  patternOf({ headline1: ['@keyword'] }, 'title', { name: 'Plain ad' });

/** Whether a pattern is still as a new plan has it. */
export const isFirstPattern = (pattern: AdPattern): boolean => isDeepStrictEqual(pattern, firstPattern());
