import { type HoldField, heldWords } from '@sprig/contracts';
import type { ReadCell } from './table/column.ts';

/** What is pasted to be held for a field as it stands: a name, a line of an ad, its final URL. */
export function readHeld(field: HoldField, value: string | number): ReadCell {
  const words = heldWords(field, value);
  return words === null ? { value } : { words };
}
