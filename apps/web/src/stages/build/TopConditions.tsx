import type { Grouping } from '@sprig/core/build';
import { decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { TextChip } from '../../kit/chips.tsx';
import { money } from '../../kit/format.ts';
import { readMoneyOrNone } from '../../kit/read-typed.ts';
import { readCount } from './rule-words.ts';

/** What makes a keyword a top one: searches, its place in the theme, its CPC; open ones do not count. */
export function TopConditions({
  grouping,
  currency,
  onKeep,
}: {
  grouping: Grouping;
  currency: string;
  onKeep: (grouping: Grouping) => Promise<string | null>;
}) {
  const { searchesFrom, first, cpcFrom } = grouping;
  return (
    <>
      (top: from{' '}
      <TextChip
        label="Searches of top keywords"
        value={searchesFrom === null ? '' : String(searchesFrom)}
        shown={searchesFrom ?? 'any'}
        read={readCount(0, 1_000_000_000)}
        onKeep={(value) => onKeep({ ...grouping, searchesFrom: value as number | null })}
        width={6}
      />{' '}
      searches, the first{' '}
      <TextChip
        label="First of each theme"
        value={first === null ? '' : String(first)}
        shown={first ?? 'any number'}
        read={readCount(1, 100_000)}
        onKeep={(value) => onKeep({ ...grouping, first: value as number | null })}
        width={6}
      />{' '}
      of a theme, a CPC from{' '}
      <TextChip
        label="CPC of top keywords"
        value={cpcFrom === null ? '' : decimalFromMicros(cpcFrom, decimalsOf(currency))}
        shown={cpcFrom === null ? 'any' : money(cpcFrom, currency)}
        read={readMoneyOrNone}
        onKeep={(value) => onKeep({ ...grouping, cpcFrom: value as Grouping['cpcFrom'] })}
        width={6}
      />
      )
    </>
  );
}
