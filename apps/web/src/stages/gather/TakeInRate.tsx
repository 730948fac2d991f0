import { asMicros, decimalFromMicros } from '@sprig/core/money';
import { TextChip } from '../../kit/chips.tsx';
import { count, counted } from '../../kit/format.ts';
import { readMoney } from '../../kit/read-typed.ts';
import type { ReadSummary } from '../../pool/worker.ts';

/** Amounts in another currency than the plan's are told, and taken at a rate. */
export function Rate({
  currency,
  found,
  rate,
  onRate,
}: {
  currency: string;
  found: string | null;
  rate: number;
  onRate: (rate: number) => void;
}) {
  if (found === null || found === currency) return null;
  const text = decimalFromMicros(asMicros(rate), 2);
  return (
    <>
      {' '}
      <span className="text-warning">Its amounts are in {found}</span>: each {found} counts as{' '}
      <TextChip
        label={`${currency} for one ${found}`}
        value={text}
        shown={`${text} ${currency}`}
        read={(typed) => {
          const read = readMoney(typed);
          if ('words' in read) return read;
          return read.value > 0 && read.value <= 1_000_000_000
            ? { value: read.value }
            : { words: 'A rate is more than nothing and at most 1000.' };
        }}
        onKeep={async (value) => {
          onRate(value as number);
          return null;
        }}
        width={8}
      />
      .
    </>
  );
}

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
