import type { PlanState } from '@sprig/contracts';
import { adFields } from '@sprig/core/write';
import { count } from '../../kit/format.ts';
import { Yield } from '../../kit/Yield.tsx';
import { fieldName } from './field-names.ts';
import type { WritingState } from './use-writing.ts';

type Fit = WritingState['fit'];
type Props = {
  plan: PlanState;
  fit: Fit;
  /** Of the version in view. */
  counts: NonNullable<Fit>['chosen']['versions'][number] | undefined;
};

/** Of all ads, those that fit, and what keeps the others from it. */
export function WriteYield({ plan, fit, counts }: Props) {
  const allMisfits = fit?.patterns.reduce((sum, one) => sum + one.misfits, 0);
  const allAds = fit?.patterns.reduce((sum, one) => sum + one.ads, 0);
  const fitting = allAds === undefined || allMisfits === undefined ? undefined : allAds - allMisfits;
  return (
    <Yield
      terms={[
        { id: 'groups', figure: count(fit?.groups), words: 'ad groups' },
        { id: 'ads', figure: count(allAds), words: 'ads' },
        { id: 'fit', figure: count(fitting), words: 'fit' },
        {
          id: 'misfits',
          figure: count(allMisfits),
          words: allMisfits === 1 ? 'does not fit' : 'do not fit',
          tone: (allMisfits ?? 0) > 0 ? 'bad' : 'plain',
          more: fit && (
            <table>
              <tbody>
                {adFields
                  .filter((name) => (counts?.fields[name]?.unfilled ?? 0) > 0)
                  .map((name) => (
                    <tr key={name}>
                      <td className="pr-6">{fieldName(name)}</td>
                      <td className="pr-6 text-right">{count(counts?.fields[name]?.unfilled)} unfilled</td>
                      <td className="text-faint">
                        {(counts?.fields[name]?.leastOverrun ?? 0) > 0
                          ? `the nearest is ${counts?.fields[name]?.leastOverrun} too long`
                          : 'no line'}
                      </td>
                    </tr>
                  ))}
                {allMisfits === 0 && (
                  <tr>
                    <td>Every field is filled in every group.</td>
                  </tr>
                )}
              </tbody>
            </table>
          ),
        },
        { id: 'rows', figure: count(plan.counts.rows), words: 'keyword rows to ship with them' },
      ]}
    />
  );
}
