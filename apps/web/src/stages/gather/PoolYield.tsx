import type { PlanState, Source } from '@sprig/contracts';
import { Help } from '../../frame/Help.tsx';
import { count, counted, short } from '../../kit/format.ts';
import { lazyPart } from '../../kit/lazy-part.tsx';
import { Yield } from '../../kit/Yield.tsx';
import type { PoolOrder } from '../../pool/pool-store.ts';
import type { EstimatesAbout } from '../../pool/worker.ts';

const SourcesPicture = lazyPart(
  'What each source brings',
  async () => (await import('./SourcesPicture.tsx')).SourcesPicture,
);

type Props = {
  plan: PlanState;
  /** Undefined until they are there. */
  sources: Source[] | undefined;
  found: PoolOrder | undefined;
  learned: EstimatesAbout | null;
};

/** From the sources to the keywords shown, and what they are worth. */
export const PoolYield = ({ plan, sources, found, learned }: Props) => (
  <Yield
    terms={[
      {
        id: 'sources',
        figure: count(sources?.length),
        words: sources?.length === 1 ? 'source' : 'sources',
        more: sources && <SourcesPicture sources={sources} />,
      },
      {
        id: 'keywords',
        figure: count(plan.counts.keywords),
        words: plan.counts.keywords === 1 ? 'keyword in' : 'keywords in',
      },
      {
        id: 'out',
        figure: count(plan.counts.cut + plan.counts.folded + plan.counts.blocked),
        words: 'out',
        more: (
          <Help>
            {counted(plan.counts.cut, 'keyword')} cut, {count(plan.counts.folded)} folded into look-alikes,{' '}
            {count(plan.counts.blocked)} blocked by a word. Nothing of them is lost.
          </Help>
        ),
      },
      { id: 'shown', figure: count(found?.ids.length), words: 'shown' },
      {
        id: 'searches',
        figure: found ? short(found.searches) : '–',
        words: 'searches a month',
        more: (
          <Help>
            The sum over the keywords shown. Sources often give close variants one shared figure, so the true
            number is at most this.{' '}
            {found && found.estimated > 0 && (
              <>
                {share(found.estimated, found.searches)} of it is estimated from what was told of other
                keywords.{' '}
              </>
            )}
            {found && found.madeUp > 0 && (
              <>{share(found.madeUp, found.searches)} of it is made up by the stand-in market. </>
            )}
            {learned && qualityWords(learned)}
          </Help>
        ),
      },
      {
        id: 'groups',
        figure: count(plan.counts.groups),
        words: plan.counts.groups === 1 ? 'ad group' : 'ad groups',
      },
    ]}
  />
);

const share = (part: number, whole: number): string =>
  `${Math.max(1, Math.round((part * 100) / Math.max(1, whole)))}%`;

/** How near estimates of searches came where the truth was kept aside. */
const qualityWords = ({ told, quality }: EstimatesAbout): string =>
  `Estimates learned from ${counted(told, 'keyword')}: of ${count(quality.keywords)} kept aside in turn, half came within ×${quality.half.toFixed(2)}, nine in ten within ×${quality.nine.toFixed(2)}${quality.rank === null ? '' : `, in the right order to ${quality.rank.toFixed(2)} of 1`}.`;
