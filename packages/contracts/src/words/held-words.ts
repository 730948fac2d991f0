import { isAdField, readSite } from '@sprig/core/write';
import type { HoldField } from '../stages/build/holds.ts';
import { lineWords } from './token-words.ts';

/** Why a value can't be held by hand for a field, and what to do; null where it can. Money is in micros, a step in basis points. */
export function heldWords(field: HoldField, value: string | number): string | null {
  switch (field) {
    case 'bid':
    case 'bidPartners':
    case 'bidDisplay':
      return value === 0
        ? 'A bid has to be more than nothing. To stop bidding, pause it or cut the keyword.'
        : null;
    case 'budget':
      return value === 0
        ? 'A daily budget has to be more than nothing. To stop spending, pause the campaign.'
        : null;
    case 'step':
      return Number(value) > 100_000 ? 'A step is at most 1000%.' : null;
    case 'status':
      return value === 'enabled' || value === 'paused' ? null : 'A status is enabled or paused.';
    case 'labels':
      return String(value).length > 1_000 ? 'These labels are too long.' : null;
    case 'name':
      if (String(value).trim() === '') return 'It needs a name.';
      return String(value).length > 500 ? 'A name has up to 500 characters. Shorten it.' : null;
    case 'matching':
      return ['', 'close', 'wide'].includes(String(value))
        ? null
        : 'Matching is close or wide; empty: as its keywords ask.';
    case 'rotation':
      return ['', 'best', 'even'].includes(String(value))
        ? null
        : 'Rotation is best (best ads more often) or even (all ads alike); empty: as its campaign’s.';
    case 'path':
      return lineWords(String(value));
    case 'finalUrl':
      return readSite(String(value)).status === 'problem'
        ? 'This is no web address that ads may lead to. Write it like https://site.example/prices.'
        : null;
    default:
      return isAdField(field) ? lineWords(String(value)) : null;
  }
}
