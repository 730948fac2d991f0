import { eachType, type MatchType, matchRules, matchTypes } from '@sprig/core/match';
import type { MarkStyle, VariantOptions } from '@sprig/core/mix';
import { asMicros } from '@sprig/core/money';
import type { Form } from './variant-list.ts';

/** Steps of the bid by match type, in basis points. */
export const STEPS: Record<MatchType, number> = eachType((type) => matchRules[type].stepOfVariants);

export type Settings = {
  types: MatchType[];
  marks: MarkStyle;
  chosen: string[];
  order: 'keyword' | 'type';
  form: Form;
  base: number | null;
  steps: Record<MatchType, number>;
};

/** The settings live in the address, so that a way of working can be kept as a link. */
export function readSettings(params: URLSearchParams): Settings {
  const types = matchTypes.filter((type) =>
    (params.get('types') ?? 'phrase,exact').split(',').includes(type),
  );
  const marks = params.get('marks');
  const base = Number(params.get('bid') ?? '');
  const steps = Object.fromEntries(
    matchTypes.map((type) => {
      const step = Number(params.get(`step-${type}`) ?? STEPS[type]);
      return [type, Number.isInteger(step) && step >= 0 && step <= 100_000 ? step : STEPS[type]];
    }),
  ) as Record<MatchType, number>;
  return {
    types,
    marks: marks === 'content' || marks === 'chosen' ? marks : 'every',
    chosen: (params.get('words') ?? '').split('\n').filter(Boolean),
    order: params.get('order') === 'type' ? 'type' : 'keyword',
    form: params.get('form') === 'columns' ? 'columns' : 'notation',
    base: Number.isInteger(base) && base > 0 && base < 1_000_000_000_000 ? base : null,
    steps,
  };
}

/** What is asked of the worker. Bids stand in columns only. */
export const optionsOf = ({ types, marks, chosen, order, form, base, steps }: Settings): VariantOptions => ({
  types,
  marks,
  chosen,
  order,
  bids:
    form === 'columns' && base !== null ? { base: asMicros(base), steps, increment: asMicros(10_000) } : null,
});
