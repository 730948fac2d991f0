import { LEAST_TOLD, type NoEstimate, twoFigures } from '@sprig/core/figures';
import { count, money } from '../../kit/format.ts';
import type { EstimateSaid } from '../../pool/worker.ts';

const times = (value: number): string => (value >= 10 ? count(Math.round(value)) : value.toFixed(2));

/**
 * What an estimate is made of, in words: `kettle 1,305 × cast iron 0.22 × for sale 0.41, less 5 ≈ 110, from 46 keywords;
 * nine in ten lie between 45 and 280`.
 */
export function estimateWords(measure: 'searches' | 'cpc', said: EstimateSaid, currency: string): string {
  const [head, ...others] = said.factors;
  const shown = (value: number) =>
    measure === 'cpc' ? money(twoFigures(value), currency) : count(twoFigures(value));
  const first = `${head?.text} ${measure === 'cpc' ? money(Math.round(head?.times ?? 0), currency) : times(head?.times ?? 0)}`;
  const rest = others.map(({ text, times: by }) => `${text ?? 'all the rest'} ${times(by)}`);
  const ground =
    said.band === 'unknown'
      ? 'one of its words was told of nowhere'
      : `from ${count(said.ground)} ${said.ground === 1 ? 'keyword' : 'keywords'} like it`;
  return `Estimated: ${[first, ...rest].join(' × ')}${measure === 'cpc' ? '' : ', less 5'} ≈ ${shown(said.value)}, ${ground}; nine in ten lie between ${shown(said.low)} and ${shown(said.high)}.`;
}

/** Why nothing is estimated of a keyword that nobody told of. */
export const noEstimateWords = (why: NoEstimate): string => NO_ESTIMATE[why];

const NO_ESTIMATE: Record<NoEstimate, string> = {
  'little-told': `Nobody told it, and fewer than ${LEAST_TOLD} keywords have told figures to estimate from`,
  'head-unknown': 'Nobody told it, nor of three keywords about the same thing to estimate from',
  'words-unknown': 'Nobody told it, and two or more of its words stand in no keyword with told figures',
};
