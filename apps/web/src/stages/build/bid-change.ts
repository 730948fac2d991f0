import type { aimBids } from '@sprig/contracts';
import type { BidChange } from '@sprig/core/build';
import { asMicros } from '@sprig/core/money';
import type { z } from 'zod';
import { readMoney, readPercent } from '../../kit/read-typed.ts';

export type Kind = 'set' | 'raise' | 'lower' | 'raise-by' | 'lower-by' | 'round' | 'between';
export const bidKinds: { value: Kind; words: string }[] = [
  { value: 'raise', words: 'raise them by' },
  { value: 'lower', words: 'lower them by' },
  { value: 'raise-by', words: 'add' },
  { value: 'lower-by', words: 'take off' },
  { value: 'set', words: 'set them to' },
  { value: 'round', words: 'round them to' },
  { value: 'between', words: 'keep them between' },
];

/** Reads what was typed as a change of bids. */
export function readChange(
  kind: Kind,
  first: string,
  second: string,
): { change: BidChange } | { words: string } {
  if (kind === 'raise' || kind === 'lower') {
    const read = readPercent(first);
    if ('words' in read) return read;
    return { change: { kind: 'percent', by: kind === 'raise' ? read.value : -read.value } };
  }
  const read = readMoney(first);
  if ('words' in read) return read;
  if (kind === 'raise-by') return { change: { kind: 'amount', by: read.value } };
  if (kind === 'lower-by') return { change: { kind: 'amount', by: -read.value } };
  if (kind !== 'between' && read.value === 0) return { words: 'It has to be more than nothing.' };
  if (kind === 'set' || kind === 'round') return { change: { kind, to: read.value } };
  const most = readMoney(second);
  if ('words' in most) return most;
  if (most.value === 0 || most.value < read.value)
    return { words: 'The least is above the greatest. Lower the one or raise the other.' };
  return { change: { kind: 'between', from: read.value, to: asMicros(most.value) } };
}

/** A position or a share of impressions to be reached, and how far beyond. */
export type AimKind = 'position' | 'share';
export const aimKinds: { value: AimKind; words: string }[] = [
  { value: 'position', words: 'aim them at position' },
  { value: 'share', words: 'aim them at a share of impressions of' },
];
type Beyond = 'of-bid' | 'of-way';
export const beyonds: { value: Beyond; words: string }[] = [
  { value: 'of-bid', words: 'on top' },
  { value: 'of-way', words: 'of the way to the next place' },
];

export type AimTyped = { kind: AimKind; at: string; beyond: string; by: Beyond; ceiling: string };
export type ReadAim = Pick<z.input<(typeof aimBids)['body']>, 'aim' | 'headroom' | 'ceiling'>;

const MOST_POSITION = 100;

/** Reads what was typed as an aim. */
export function readAim({ kind, at, beyond, by, ceiling }: AimTyped): ReadAim | { words: string } {
  const typed = Number(at.replace(',', '.'));
  const most = kind === 'share' ? 100 : MOST_POSITION;
  if (at.trim() === '' || !(typed >= 1 && typed <= most))
    return {
      words:
        kind === 'share'
          ? 'A share is from 1 to 100%.'
          : `A position is from 1, the top, to ${MOST_POSITION}.`,
    };
  const more = readPercent(beyond === '' ? '0' : beyond);
  if ('words' in more) return more;
  if (by === 'of-way' && more.value > 10_000) return { words: 'The whole way is 100%.' };
  const top = ceiling.trim() === '' ? null : readMoney(ceiling);
  if (top && 'words' in top) return top;
  if (top && top.value === 0) return { words: 'The greatest bid has to be more than nothing.' };
  return {
    aim: kind === 'share' ? { kind, at: Math.round(typed * 100) } : { kind, at: typed },
    headroom: by === 'of-way' ? { next: more.value } : more.value,
    ceiling: top ? top.value : null,
  };
}
