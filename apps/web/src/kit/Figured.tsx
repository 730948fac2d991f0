import { type Origin, twoFigures } from '@sprig/core/figures';
import { minorUnit } from '@sprig/core/money';
import { count, money } from './format.ts';

type Shown = { from: Origin | null; about?: boolean; title?: string };

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
export const originClass = (from: Origin | null): string =>
  from === 'made-up'
    ? 'text-faint underline decoration-dotted underline-offset-2'
    : from === 'estimated' || from === 'taken'
      ? 'text-faint'
      : '';

/** A figure in words, as it is shown and copied: `3,200`, `about 3,200`, `≈ 3,200`, `≈ <10`. */
export function figuredText(value: number | null, from: Origin | null, about = false): string {
  if (value === null) return '–';
  if (isGuess(from)) return value < 10 ? '≈ <10' : `≈ ${count(twoFigures(value))}`;
  return about ? `about ${count(value)}` : count(value);
}

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

/** A whole figure with the mark of its origin. */
export const Figured = ({ value, from, about, title }: Shown & { value: number | null }) => (
  <span className={originClass(from)} title={title ?? originWords(from)}>
    {figuredText(value, from, about)}
  </span>
);

/** The same of an amount in micros. */
export const MoneyFigured = ({
  value,
  from,
  about,
  title,
  currency,
}: Shown & { value: number | null; currency: string }) => (
  <span className={originClass(from)} title={title ?? originWords(from)}>
    {moneyFiguredText(value, from, currency, about)}
  </span>
);
