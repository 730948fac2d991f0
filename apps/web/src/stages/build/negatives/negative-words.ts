import type { AllNegative, NegativesChange } from '@sprig/contracts';
import { counted } from '../../../kit/format.ts';

export const levelWords: Record<AllNegative['level'], string> = {
  plan: 'all campaigns',
  list: 'a shared list',
  campaign: 'a campaign',
  group: 'an ad group',
  fence: 'a fence',
  out: 'taken away',
};

const REMAINING: Record<NegativesChange['kind'], string> = {
  type: 'Fences and those of shared lists keep their type.',
  plan: 'Only those of campaigns and ad groups go up.',
  campaign: 'Only those of ad groups go up to their campaigns.',
  places: 'Fences and those of shared lists stay where they are.',
  remove: 'Those of shared lists are taken away in Prune.',
  back: 'Only fences that were taken away can be put back.',
};

/** What was done to how many, and why the others were left. */
export function changedWords(
  kind: NegativesChange['kind'],
  { changed, left }: { changed: number; left: number },
): string {
  const verb = { remove: 'Took away', back: 'Put back' }[kind as 'remove' | 'back'] ?? 'Changed';
  const done = `${verb} ${counted(changed, 'negative keyword')}.`;
  return left > 0 ? `${done} ${counted(left, 'other')} stayed: ${lower(REMAINING[kind])}` : done;
}

const lower = (words: string) => words.charAt(0).toLowerCase() + words.slice(1);
