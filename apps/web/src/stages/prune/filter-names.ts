import type { LookAlikeClass, ReadyFilter } from '@sprig/core/prune';

export const classNames: Record<LookAlikeClass, { name: string; example: string }> = {
  text: { name: 'same text', example: 'Kayak, kayak' },
  joined: { name: 'hyphen or space', example: 'paddle board, paddleboard' },
  number: { name: 'singular or plural', example: 'kayak, kayaks' },
  order: { name: 'word order', example: 'kayak hire, hire kayak' },
  function: { name: 'little words', example: 'kayak hire, kayak for hire' },
  spelling: { name: 'likely misspelling', example: 'kayak, kayack' },
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
