import { asMicros, decimalFromMicros, type Micros, microsFromDecimal } from '../money/index.ts';
import type { CellRules } from './column.ts';

const MOST_AMOUNTS = 10_000;

/**
 * Writes amounts as `1.25`, as `1,25`, or as `125` where the outlet counts in the currency's smallest coins. They are
 * remembered: a plan has few, each many times.
 */
export function moneyWriter({ money: { mark, unit } }: Pick<CellRules, 'money'>, decimals: number) {
  const written = new Map<Micros, string>();
  return (amount: Micros | null): string => {
    if (amount === null) return '';
    const known = written.get(amount);
    if (known !== undefined) return known;
    const text =
      unit === 'minor'
        ? decimalFromMicros(asMicros(amount * 10 ** decimals), 0)
        : decimalFromMicros(amount, decimals);
    const cell = mark === '.' ? text : text.replace('.', mark);
    if (written.size < MOST_AMOUNTS) written.set(amount, cell);
    return cell;
  };
}

/** Reads an amount. Signs of a currency and marks between thousands are left out; undefined: it is none above 0. */
export function readMoney(
  typed: string,
  { money: { mark, unit } }: Pick<CellRules, 'money'>,
  decimals: number,
): Micros | undefined {
  const other = mark === '.' ? ',' : '.';
  const bare = typed.replace(/[\p{Sc}\s]/gu, '');
  const isGrouped = new RegExp(`^\\d{1,3}(\\${other}\\d{3})+(\\${mark}\\d+)?$`).test(bare);
  const text = (isGrouped ? bare.replaceAll(other, '') : bare).replace(mark, '.');
  const amount = microsFromDecimal(text);
  return amount === undefined || unit === 'major' ? amount : asMicros(Math.round(amount / 10 ** decimals));
}
