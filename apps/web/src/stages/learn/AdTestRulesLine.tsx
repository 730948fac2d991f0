import type { Facts } from '@sprig/contracts';
import { MOST_LOOKS, usualAdTestRules } from '@sprig/core/judge';
import type { Document } from '../../data/document.ts';
import { ChoiceChip, TextChip } from '../../kit/chips.tsx';
import { readWithin } from './read-number.ts';

/** How ads are told apart, as a sentence to be typed over. */
export function AdTestRulesLine({ facts }: { facts: Document<Facts> }) {
  const rules = facts.value?.adTests ?? usualAdTestRules;
  const chip = (
    name: 'looks' | 'difference' | 'clicks',
    label: string,
    [least, most]: readonly [number, number],
    isShare = false,
  ) => (
    <TextChip
      label={label}
      value={isShare ? `${Math.round(rules[name] * 1_000) / 10}%` : String(rules[name])}
      width={6}
      read={(typed) => {
        const read = readWithin(least, most, isShare ? '15%' : '100')(typed);
        if ('words' in read) return read;
        return { value: isShare ? read.value / 100 : Math.round(read.value) };
      }}
      onKeep={(value) => facts.edit(`adTests.${name}`, value)}
    />
  );
  return (
    <p className="flex min-h-10 shrink-0 flex-wrap items-center gap-1.5 border-hair border-b px-4 py-1">
      Decided by
      <ChoiceChip
        label="What decides"
        value={rules.by}
        choices={[
          { value: 'clicks', words: 'clicks' },
          { value: 'conversions', words: 'conversions' },
        ]}
        onChoose={(by) => void facts.edit('adTests.by', by)}
      />
      for a difference of {chip('difference', 'Least difference', [1, 500], true)} or more, at a level of 5%
      over {chip('looks', 'Planned looks', [1, MOST_LOOKS])} planned looks, once each has{' '}
      {chip('clicks', 'Clicks that each needs', [1, 100_000])} clicks.
    </p>
  );
}
