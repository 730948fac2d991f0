import { asMicros, decimalFromMicros } from '@sprig/core/money';
import { TextChip } from '../../kit/chips.tsx';
import { readMoney } from '../../kit/read-typed.ts';

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
