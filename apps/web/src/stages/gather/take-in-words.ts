import type { ColumnRole } from '@sprig/core/gather';
import { count, counted } from '../../kit/format.ts';
import type { ReadSummary } from '../../pool/worker.ts';

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

/** What became of figures that were read back. */
export function figuresWords({ met, alike, unmet }: { met: number; alike: number; unmet: number }): string {
  return [
    `${counted(met, 'keyword')} got their figures`,
    alike > 0 && `${count(alike)} through a look-alike`,
    unmet > 0 && `${counted(unmet, 'line')} met none and were left out`,
  ]
    .filter((part) => part !== false)
    .join(', ')
    .concat('. Ctrl+Z takes it back.');
}

export function takeInWords(summary: ReadSummary | null): string {
  if (!summary) return '';
  if (summary.keywords === 0) return counted(summary.negatives, 'negative keyword');
  return summary.negatives === 0
    ? counted(summary.keywords, 'keyword')
    : `${counted(summary.keywords, 'keyword')} and ${counted(summary.negatives, 'negative')}`;
}
