import type { Facts } from '@sprig/contracts';
import { currencies } from '@sprig/core/money';

type Choices<T extends string> = { value: T; words: string }[];

export const currencyChoices: Choices<string> = Object.keys(currencies).map((value) => ({
  value,
  words: value,
}));

export const goalChoices: Choices<Facts['goal']> = [
  { value: 'none', words: 'not said' },
  { value: 'sales', words: 'to sell' },
  { value: 'leads', words: 'to be asked for an offer' },
  { value: 'visits', words: 'to be visited' },
  { value: 'calls', words: 'to be called' },
  { value: 'awareness', words: 'to be known' },
];

export const presenceChoices: Choices<Facts['presence']> = [
  { value: 'in', words: 'people in' },
  { value: 'interested', words: 'people interested in' },
  { value: 'either', words: 'people in or interested in' },
];

export const deliveryChoices: Choices<Facts['delivery']> = [
  { value: 'even', words: 'evenly over the day' },
  { value: 'fast', words: 'as fast as it comes' },
];

export const strategyChoices: Choices<Facts['strategy']> = [
  { value: 'by-hand', words: 'bids by hand' },
  { value: 'most-clicks', words: 'bids for the most clicks' },
  { value: 'most-conversions', words: 'bids for the most conversions' },
  { value: 'target-cost', words: 'bids for a cost per conversion' },
  { value: 'target-return', words: 'bids for a return' },
];

export const rotationChoices: Choices<Facts['rotation']> = [
  { value: 'best', words: 'the best ads shown more often' },
  { value: 'even', words: 'all ads shown alike' },
];
