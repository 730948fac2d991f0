import { counted } from '../kit/format.ts';

export const clicksWords = (clicks: number): string => {
  if (clicks === 0) return 'no click';
  if (clicks < 10) return `${clicks.toFixed(1)} clicks`;
  return counted(Math.round(clicks), 'click');
};

/** What a forecast lacks, and what it rests on that nobody told; shares in basis points. Empty where all is told. */
export function restsOn(forecast: { missing: number; estimated: number; madeUp: number }): string {
  const share = (part: number) => `${Math.max(1, Math.round(part / 100))}%`;
  const parts = [
    forecast.missing > 0 && `${counted(forecast.missing, 'search')} without searches or a CPC left out`,
    forecast.estimated > 0 && `${share(forecast.estimated)} of the clicks by estimate`,
    forecast.madeUp > 0 && `${share(forecast.madeUp)} by made-up figures`,
  ].filter((part) => part !== false);
  return parts.length === 0 ? '' : `${parts.join(', ')}.`;
}
