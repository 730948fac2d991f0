import { asMicros, type Micros } from './currency.ts';

const DECIMAL = /^(\d{0,9})(?:\.(\d{0,9}))?$/;

/**
 * A plain decimal such as `0.575`, `12` or `.5` in micros, digit by digit, never through a float. Digits past
 * the sixth round half up. Undefined for anything else, a sign included.
 */
export function microsFromDecimal(text: string): Micros | undefined {
  const found = DECIMAL.exec(text);
  if (!found || (!found[1] && !found[2])) return undefined;
  const fraction = (found[2] ?? '').padEnd(7, '0');
  const whole = Number(found[1] || '0') * 1_000_000 + Number(fraction.slice(0, 6));
  return asMicros(Number(fraction[6]) >= 5 ? whole + 1 : whole);
}

/** `580000` as `0.58`: at least `decimals` digits after the point, more only where the amount has them. */
export function decimalFromMicros(amount: Micros, decimals: number): string {
  const whole = Math.floor(amount / 1_000_000);
  const fraction = String(amount - whole * 1_000_000).padStart(6, '0');
  const needed = Math.max(decimals, fraction.replace(/0+$/, '').length);
  return needed === 0 ? String(whole) : `${whole}.${fraction.slice(0, needed)}`;
}
