import type { LookAlikeClass, ReadyFilter } from '@sprig/core/prune';

export const classNames: Record<LookAlikeClass, { name: string; example: string }> = {
  text: { name: 'same text', example: 'Mug, mug' },
  joined: { name: 'hyphen or space', example: 'tea pot, teapot' },
  number: { name: 'singular or plural', example: 'mug, mugs' },
  order: { name: 'word order', example: 'mug red, red mug' },
  function: { name: 'little words', example: 'mug tea, mug for tea' },
  spelling: { name: 'likely misspelling', example: 'teapot, teapott' },
};

export const filterNames: Record<ReadyFilter, { name: string; about: string }> = {
  'low-volume': { name: 'Low volume', about: 'searched too seldom to be worth an ad group' },
  'too-long': { name: 'Too long', about: 'longer than the outlet takes' },
  'not-allowed': { name: 'Characters', about: 'with a character that a keyword may not hold' },
  rival: { name: 'Rivals', about: 'that name a brand which may not be used' },
  'other-script': { name: 'Other scripts', about: 'with letters of another script' },
  'other-language': { name: 'Other languages', about: 'with words of another language' },
  question: { name: 'Questions', about: 'asked as a question' },
};
