import { readHeld } from '../../kit/read-held.ts';
import { readMoney } from '../../kit/read-typed.ts';
import type { ReadCell } from '../../kit/table/column.ts';

/** A bid as it is pasted. */
export function readBid(typed: string): ReadCell {
  if (typed === '')
    return { words: 'A bid can’t be empty. To have the rule’s bid back, let the held one go.' };
  const read = readMoney(typed);
  return 'words' in read ? read : readHeld('bid', read.value);
}

export const readStatus = (typed: string): ReadCell => readHeld('status', typed.toLowerCase());
