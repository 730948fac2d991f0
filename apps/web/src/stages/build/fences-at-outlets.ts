import type { Layout } from '@sprig/core/build';
import { type Outlet, tells } from '@sprig/core/outlets';
import { count } from '../../kit/format.ts';

/**
 * What keeps fences from doing at an outlet what they do in the plan, a sentence for each outlet and reason. `most`: the
 * fences of the ad group with most of them.
 */
export function fencesAtOutlets(outlets: readonly Outlet[], kind: Layout['fences'], most: number): string[] {
  if (kind === 'off') return [];
  return outlets.flatMap((outlet) => {
    const { name, negativeTypes, limits, match } = outlet;
    const words: string[] = [];
    const takes = tells(outlet, 'negative', 'keyword') || tells(outlet, 'negative', 'keyword-notation');
    const hasPlace = tells(outlet, 'negative', 'group');
    if (!takes) words.push(`${name} takes no negatives: no fence stands there.`);
    else if (!hasPlace) words.push(`${name} takes negatives of whole campaigns only: no fence stands there.`);
    else if (!negativeTypes.includes('exact'))
      words.push(
        `${name} takes no exact negatives: exact fences are left out there, and searches may cross.`,
      );
    if (takes && kind === 'tight' && !negativeTypes.includes('phrase'))
      words.push(
        `${name} takes no negative phrases: the tight fences are ${negativeTypes.includes('exact') ? 'exact ones' : 'left out'} there.`,
      );
    if (takes && most > limits.negativesPerGroup)
      words.push(
        `${name} takes ${count(limits.negativesPerGroup)} negatives in an ad group, and one has ${count(most)}: what is over is left out there.`,
      );
    if (match === 'setting')
      words.push(
        `${name} matches close or wide by campaign: the audit speaks of the plan’s own match types.`,
      );
    return words;
  });
}
