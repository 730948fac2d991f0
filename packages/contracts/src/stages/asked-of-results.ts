import { nothing, planParams } from '../common.ts';

/** What all questions about results have alike: they send what they ask. */
export const askedOfResults = {
  method: 'POST',
  access: 'read',
  reads: ['plan', 'built'],
  changes: [],
  params: planParams,
  query: nothing,
} as const;
