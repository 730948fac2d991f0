import { readMoney } from '../../kit/read-typed.ts';
import type { ReadCell } from '../../kit/table/column.ts';

/** A bid as it is pasted. */
export function readBid(typed: string): ReadCell {
  if (typed === '')
    return { words: 'A bid can’t be empty. To have the rule’s bid back, let the held one go.' };
  const read = readMoney(typed);
  if ('value' in read && read.value === 0)
    return { words: 'A bid has to be more than nothing. To stop bidding, pause it or cut the keyword.' };
  return read;
}

export const readName = (typed: string): ReadCell =>
  typed === '' ? { words: 'It needs a name.' } : { value: typed };

export function readStatus(typed: string): ReadCell {
  const status = typed.toLowerCase();
  return status === 'paused' || status === 'enabled'
    ? { value: status }
    : { words: 'A status is enabled or paused.' };
}
