import type { Origin } from '@sprig/core/figures';
import { figuredText, moneyFiguredText, originClass, originWords } from './figured-text.ts';

type Shown = { from: Origin | null; about?: boolean; title?: string };

/** A whole figure with the mark of its origin. */
export const Figured = ({ value, from, about, title }: Shown & { value: number | null }) => (
  <span className={originClass(from)} title={title ?? originWords(from)}>
    {figuredText(value, from, about)}
  </span>
);

/** An amount in micros with its sign of where it is from. */
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
