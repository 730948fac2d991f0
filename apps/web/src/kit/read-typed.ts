import { type Micros, microsFromDecimal } from '@sprig/core/money';

const MOST = 1_000_000_000_000;

/** `0.40`, `£0.40` or `0,40` as micros. */
export function readMoney(typed: string): { value: Micros } | { words: string } {
  const bare = typed.replace(/[\p{Sc}\s]|[A-Z]{3}/gu, '');
  const decimal = /^\d+,\d{1,2}$/.test(bare)
    ? bare.replace(',', '.')
    : bare.replace(/,(?=\d{3}(?:\D|$))/g, '');
  const value = microsFromDecimal(decimal);
  if (value === undefined) return { words: `“${typed}” is no amount. Type it like 0.40.` };
  if (value > MOST) return { words: 'That is more than a million. Type a smaller amount.' };
  return { value };
}

/** An amount where there may be none: empty is null. */
export const readMoneyOrNone = (typed: string): { value: Micros | null } | { words: string } =>
  typed.trim() === '' ? { value: null } : readMoney(typed);

/** `125`, `125%` or `12,5 %` as basis points, up to 1000%. */
export function readPercent(typed: string): { value: number } | { words: string } {
  const micros = microsFromDecimal(typed.replace(/[%\s]/g, '').replace(',', '.'));
  if (micros === undefined) return { words: `“${typed}” is no percentage. Type it like 125.` };
  if (micros > 1_000_000_000) return { words: 'A step goes up to 1000%.' };
  return { value: Math.round(micros / 10_000) };
}

/** Marks before thousands stand in threes, or in the Indian way. */
const WHOLE = /^(?:\d{1,12}|\d{1,3}(?:([,.’'\s])\d{3})(?:\1\d{3})*|\d{1,2}(?:,\d{2})+,\d{3})$/;

/** `1300`, `1,300`, `1 300` or `1,30,000`; null where nothing is typed, undefined for anything else: `1,5` is not 15. */
export function readWhole(typed: string): number | null | undefined {
  const text = typed.trim();
  if (text === '' || text === '–') return null;
  return WHOLE.test(text) ? Number(text.replace(/\D/g, '')) : undefined;
}
