import { matchTypes } from '@sprig/core/match';
import { incrementOf, plainOutlet } from '@sprig/core/ship';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useOpenPlan } from '../../api/plan.ts';
import { withParams } from '../../kit/address.ts';
import { count, counted, money, short } from '../../kit/format.ts';
import { Empty, Help } from '../../kit/marks.tsx';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { Yield } from '../../kit/Yield.tsx';
import { useHolds } from '../../plan/use-holds.ts';
import { useLayout } from '../../plan/use-layout.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';
import { GroupTable } from './GroupTable.tsx';
import { LadderPicture } from './LadderPicture.tsx';
import { LayoutSentences } from './LayoutSentences.tsx';
import { OrphansPanel } from './OrphansPanel.tsx';

/** The rules as sentences, the ladder, and below them what they make. */
export function BuildStage() {
  const plan = useOpenPlan();
  const pool = usePool();
  const layout = useLayout(plan.id);
  const { holds } = useHolds(plan.id);
  const [params, setParams] = useSearchParams();
  const [judging, setJudging] = useState(false);
  const { currency } = plan.brief;
  const increment = incrementOf(plainOutlet, currency);
  const { data: sum } = useWorked(
    async () => (layout.value ? pool.worker.buildYield(layout.value, increment) : null),
    `${pool.revision}:${JSON.stringify(layout.value)}`,
  );
  const usedNames = matchTypes.filter((type) => (sum?.rowsByType[type] ?? 0) > 0).join();
  const used = useMemo(() => matchTypes.filter((type) => usedNames.split(',').includes(type)), [usedNames]);
  const orphans = holds.filter(({ orphan }) => orphan);
  const only = params.get('only') ?? 'all';
  const held = new Set(holds.filter(({ orphan }) => !orphan).map(({ keywordId }) => keywordId)).size;
  const choose = (value: string) =>
    setParams((old) => withParams(old, { only: value === 'all' ? '' : value }));
  if (plan.counts.keywords === 0)
    return (
      <div className="grid flex-1 place-items-center">
        <Empty title="Nothing to build yet">
          <p className="mb-3">Ad groups are made of the keywords in the pool.</p>
          <Link to="../gather" className="btn btn-primary btn-sm">
            Gather keywords
          </Link>
        </Empty>
      </div>
    );
  const behind = plan.builtRevision < plan.revision;
  return (
    <>
      <section
        aria-label="Layout"
        className="flex h-12 shrink-0 items-center gap-2 border-hair border-b px-4"
      >
        {(
          [
            ['all', 'All ad groups', plan.counts.groups],
            ['held', 'With something held', held],
            ['no-estimate', 'Without a CPC estimate', sum?.withoutEstimate ?? 0],
          ] as const
        ).map(([value, words, number]) => (
          <button
            key={value}
            type="button"
            aria-pressed={only === value}
            className={`flex h-8 items-center gap-1.5 rounded-md px-2 ${only === value ? 'bg-wash ring-1 ring-primary' : 'bg-base-200'}`}
            onClick={() => choose(value)}
          >
            {words} <span className="font-semibold">{count(number)}</span>
          </button>
        ))}
        {orphans.length > 0 && (
          <button
            type="button"
            className="flex h-8 items-center gap-1.5 rounded-md px-2 text-warning hover:bg-base-200"
            onClick={() => setJudging(true)}
          >
            <span className="font-semibold">{count(orphans.length)}</span> set aside, to judge
          </button>
        )}
        <span className="ml-auto text-[12.5px] text-faint" role="status">
          {behind ? 'Building …' : ''}
        </span>
      </section>
      {layout.value && (
        <div className="grid shrink-0 grid-cols-[1fr_300px] gap-6 border-hair border-b px-4 py-2.5">
          <LayoutSentences layout={layout} currency={currency} />
          <LadderPicture layout={layout.value} currency={currency} increment={increment} />
        </div>
      )}
      <GroupTable plan={plan} used={used} />
      <Yield
        note={behind ? 'building' : ''}
        terms={[
          {
            id: 'keywords',
            figure: count(sum?.keywords ?? 0),
            words: 'keywords in',
            more: <Help>{short(sum?.searches ?? 0)} searches a month between them, at most.</Help>,
          },
          { id: 'groups', figure: count(sum?.groups ?? 0), words: 'ad groups' },
          {
            id: 'rows',
            figure: count(sum?.rows ?? 0),
            words: 'keyword rows',
            more: sum && (
              <table>
                <tbody>
                  {matchTypes.map((type) => (
                    <tr key={type}>
                      <td className="pr-3">
                        <ReachBars type={type} />
                      </td>
                      <td className="pr-6">{matchWords[type]}</td>
                      <td className="text-right">{count(sum.rowsByType[type])}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            ),
          },
          {
            id: 'bids',
            figure:
              sum?.lowestBid == null
                ? '–'
                : `${money(sum.lowestBid, currency)} to ${money(sum.highestBid, currency)}`,
            words: 'bids by the rules',
            more: sum && (
              <Help>
                {counted(sum.withoutEstimate, 'keyword')} without a CPC estimate use the base for them. Held
                bids stand apart.
              </Help>
            ),
          },
          { id: 'held', figure: count(held), words: 'with something held' },
          {
            id: 'misfits',
            figure: count(plan.counts.misfits),
            words: 'ads that do not fit',
            tone: plan.counts.misfits > 0 ? 'bad' : 'plain',
          },
        ]}
      />
      {judging && <OrphansPanel plan={plan} onClose={() => setJudging(false)} />}
    </>
  );
}
