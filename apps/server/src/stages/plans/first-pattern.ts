import type { AdPattern } from '@sprig/core/write';

/** The ad pattern that a new plan starts with: it says the keyword and falls back where that is too long. */
export function firstPattern(): AdPattern {
  const field = (style: 'title' | 'sentence' | 'lower', ...lines: string[]) => ({ lines, style });
  return {
    name: 'Plain ad',
    fields: {
      headline1: field('title', '@keyword'),
      headline2: field('title'),
      headline3: field('title'),
      description1: field('sentence'),
      description2: field('sentence'),
      path1: field('lower'),
      path2: field('lower'),
    },
    finalUrl: '@site',
  };
}
