import { type Origin, twoFigures } from '@sprig/core/figures';
import { asMicros, decimalFromMicros, decimalsOf, minorUnit } from '@sprig/core/money';
import { count, money } from './format.ts';

const WORDS: Record<Origin, string> = {
  hand: 'Set by hand',
  told: 'Told',
  taken: 'Estimated, and taken as it was',
  estimated: 'Estimated from what was told of other keywords',
  'made-up': 'Made up by the stand-in market',
};
export const originWords = (from: Origin | null): string => (from === null ? 'No figure' : WORDS[from]);

const isGuess = (from: Origin | null) => from === 'estimated' || from === 'taken' || from === 'made-up';

/** The marks of where a figure is from: told ones stand plain, estimated ones lighter, made-up ones dotted. */
export const originClass = (from: Origin | null): string => {
  if (from === 'made-up') return 'text-faint underline decoration-dotted underline-offset-2';
  if (from === 'estimated' || from === 'taken') return 'text-faint';
  return '';
};

/** A figure as it is shown: `3,200`, `about 3,200`, `≈ 3,200`, `≈ <10`. */
export function figuredText(value: number | null, from: Origin | null, about = false): string {
  if (value === null) return '–';
  if (isGuess(from)) return value < 10 ? '≈ <10' : `≈ ${count(twoFigures(value))}`;
  return about ? `about ${count(value)}` : count(value);
}

/** An amount in micros with its sign of where it is from: `£0.58`, `about £0.40`, `≈ £0.58`. */
export function moneyFiguredText(
  value: number | null,
  from: Origin | null,
  currency: string,
  about = false,
): string {
  if (value === null) return '–';
  if (isGuess(from)) {
    const unit = minorUnit(currency);
    return `≈ ${money(Math.max(unit, Math.round(twoFigures(value) / unit) * unit), currency)}`;
  }
  return about ? `about ${money(value, currency)}` : money(value, currency);
}

/** A figure as it is copied: a told one as a plain number; any other with its mark, so that it never comes back as told. */
export const copiedFigure = (value: number | null, from: Origin | null): string => {
  if (value === null) return '';
  if (isGuess(from)) return `≈ ${value < 10 ? value : twoFigures(value)}`;
  return String(value);
};

/** An amount in micros as it is copied: in plain decimals. */
export function copiedMoney(value: number | null, from: Origin | null, currency: string): string {
  if (value === null) return '';
  const rounded = isGuess(from) ? twoFigures(value) : value;
  const decimals = decimalFromMicros(asMicros(rounded), decimalsOf(currency));
  return isGuess(from) ? `≈ ${decimals}` : decimals;
}
