import type { ColumnRole } from '@sprig/core/gather';

export const roleChoices: { value: ColumnRole; words: string }[] = [
  { value: 'keyword', words: 'keyword' },
  { value: 'searches', words: 'monthly searches' },
  { value: 'cpc', words: 'CPC' },
  { value: 'competition', words: 'competition' },
  { value: 'match-type', words: 'match type' },
  { value: 'extra', words: 'kept as it is' },
  { value: 'skip', words: 'left out' },
];

export const fileProblems = {
  'empty-file': 'This file is empty. Choose one that has a keyword on each line.',
  'binary-file':
    'This is no text: it may be a picture or a program. Save the list as CSV or as plain text and choose that.',
  'no-workbook': 'This is no workbook that can be read. Save the list as xlsx or CSV and choose that.',
  'too-large':
    'This workbook unpacks to more than a list may weigh. Save its sheet as CSV and bring that in.',
} as const;
