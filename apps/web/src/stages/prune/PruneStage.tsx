import type { PlanState } from '@sprig/contracts';
import { type ReadyFilter, readyFilters } from '@sprig/core/prune';
import { type ReactNode, useMemo } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useOpenPlan } from '../../data/plan.ts';
import { withParams } from '../../kit/address.ts';
import { count, short } from '../../kit/format.ts';
import { Yield } from '../../kit/Yield.tsx';
import { NothingYet } from '../../plan/NothingYet.tsx';
import { useFacts } from '../../plan/use-facts.ts';
import { useKeywordLimits } from '../../plan/use-outlets.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';
import { AlikeView } from './AlikeView.tsx';
import { FilterView } from './FilterView.tsx';
import { filterNames } from './filter-names.ts';
import { NegativesView } from './NegativesView.tsx';
import { SharedView } from './SharedView.tsx';
import { useAlikeClasses } from './use-alike-classes.ts';
import { useBlocking, useKeptWords, useNegatives, usePruneActions, useShared } from './use-prune.ts';
import { WordBalance } from './WordBalance.tsx';

const LEAST_SEARCHES = 10;

const views = ['words', 'alike', ...readyFilters, 'negatives', 'lists'] as const;

/** What is noise: words on a balance, look-alikes, ready filters, negatives. */
export function PruneStage() {
  const plan = useOpenPlan();
  const pool = usePool();
  const kept = useFacts(plan.id);
  const negatives = useNegatives(plan.id);
  const words = useKeptWords(plan.id);
  const lists = useShared(plan.id);
  const blocking = useBlocking(negatives, lists);
  const actions = usePruneActions(plan.id);
  const { classes, setClasses } = useAlikeClasses();
  const [params, setParams] = useSearchParams();
  const view = views.find((one) => one === params.get('view')) ?? 'words';
  const least = Math.max(0, Number(params.get('least') ?? LEAST_SEARCHES) || 0);
  const facts = kept.value;
  const { input, question, alike, filters, review } = useLooks(plan, pool, {
    facts,
    least,
    classes,
    words,
    blocking,
  });
  const go = (change: Record<string, string>) => setParams((old) => withParams(old, change));
  if (pool.ready && pool.length === 0)
    return (
      <NothingYet todo="prune">
        Here the noise is taken out of the pool: look-alikes, rare searches, unwanted words.
      </NothingYet>
    );
  if (!input)
    return <div className="grid flex-1 place-items-center text-faint">Looking through the pool …</div>;
  const filter = readyFilters.find((name) => view === name);
  const { counts } = plan;
  return (
    <>
      <section
        aria-label="What to prune"
        className="flex h-12 shrink-0 items-center gap-1.5 overflow-x-auto border-hair border-b px-4"
      >
        <RibbonButton isOn={view === 'words'} onClick={() => go({ view: '' })} name="Words">
          {review ? `${Math.round(review.share * 100)}% judged` : '…'}
        </RibbonButton>
        <RibbonButton isOn={view === 'alike'} onClick={() => go({ view: 'alike' })} name="Look-alikes">
          {alike ? count(alike.keywords) : '…'}
        </RibbonButton>
        <span className="mx-1 h-5 w-px shrink-0 bg-hair" />
        {readyFilters.map((name) => (
          <RibbonButton
            key={name}
            isOn={view === name}
            onClick={() => go({ view: name })}
            name={filterNames[name].name}
          >
            {filters ? count(filters[name].keywords) : '…'}
          </RibbonButton>
        ))}
        <span className="mx-1 h-5 w-px shrink-0 bg-hair" />
        <RibbonButton isOn={view === 'negatives'} onClick={() => go({ view: 'negatives' })} name="Negatives">
          {count(negatives.length)}
        </RibbonButton>
        <RibbonButton isOn={view === 'lists'} onClick={() => go({ view: 'lists' })} name="Shared lists">
          {count(lists.filter(({ attached }) => attached).length)}
        </RibbonButton>
      </section>
      {view === 'alike' && (
        <AlikeView
          pool={pool}
          question={`${question}:${classes.join()}`}
          summary={alike ?? null}
          classes={classes}
          onClasses={setClasses}
          actions={actions}
        />
      )}
      {filter && (
        <FilterView
          plan={plan}
          pool={pool}
          name={filter as ReadyFilter}
          input={input}
          question={question}
          least={least}
          onLeast={(value) => go({ least: value === LEAST_SEARCHES ? '' : String(value) })}
          summary={filters?.[filter] ?? null}
          actions={actions}
        />
      )}
      {view === 'negatives' && (
        <NegativesView plan={plan.id} pool={pool} negatives={negatives} actions={actions} />
      )}
      {view === 'lists' && <SharedView pool={pool} lists={lists} actions={actions} />}
      {view === 'words' && (
        <WordBalance
          plan={plan}
          pool={pool}
          input={input}
          kept={words}
          blocking={blocking}
          lists={lists}
          actions={actions}
        />
      )}
      <Yield
        terms={[
          {
            id: 'all',
            figure: count(counts.keywords + counts.cut + counts.folded + counts.blocked),
            words: 'in the pool',
          },
          {
            id: 'folded',
            figure: `− ${count(counts.folded)}`,
            words: 'folded',
            more: <Out to="folded" words="Look-alikes that another keyword speaks for." />,
          },
          {
            id: 'blocked',
            figure: `− ${count(counts.blocked)}`,
            words: 'blocked',
            more: <Out to="blocked" words="Keywords that a block word keeps out." />,
          },
          {
            id: 'cut',
            figure: `− ${count(counts.cut)}`,
            words: 'cut',
            more: <Out to="cut" words="Keywords taken out one by one or by a filter." />,
          },
          { id: 'left', figure: count(counts.keywords), words: 'left to build' },
          {
            id: 'judged',
            figure: review ? `${Math.round(review.share * 100)}%` : '–',
            words: 'of searches judged',
          },
          { id: 'rows', figure: short(counts.rows), words: 'keyword rows' },
        ]}
      />
    </>
  );
}

function Out({ to, words }: { to: string; words: string }) {
  return (
    <p>
      {words}{' '}
      <Link to={`../gather?state=${to}`} className="text-primary underline underline-offset-2">
        See them in the pool
      </Link>
    </p>
  );
}

function RibbonButton({
  isOn,
  onClick,
  name,
  children,
}: {
  isOn: boolean;
  onClick: () => void;
  name: string;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-pressed={isOn}
      className={`flex h-8 shrink-0 items-center gap-1.5 rounded-md px-2 ${isOn ? 'bg-wash ring-1 ring-primary ring-inset' : 'bg-base-200'}`}
      onClick={onClick}
    >
      {name} <span className="font-semibold">{children}</span>
    </button>
  );
}

type Looked = {
  facts: ReturnType<typeof useFacts>['value'];
  least: number;
  classes: ReturnType<typeof useAlikeClasses>['classes'];
  words: string[];
  blocking: ReturnType<typeof useBlocking>;
};

/** What there is to prune, worked out in the window. */
function useLooks(plan: PlanState, pool: ReturnType<typeof usePool>, looked: Looked) {
  const { facts, least, classes, words, blocking } = looked;
  const limits = useKeywordLimits(plan.id);
  const input = useMemo(
    () =>
      facts && {
        language: plan.brief.language,
        facts,
        limits: {
          leastSearches: least,
          ...limits,
        },
      },
    [facts, least, plan.brief.language, limits],
  );
  const question = `${pool.revision}:${JSON.stringify(input)}`;
  const { data: alike } = useWorked(
    async () => (input && pool.ready ? pool.worker.lookAlikes(input, classes) : null),
    `${question}:${classes.join()}`,
  );
  const { data: filters } = useWorked(
    async () => (input && pool.ready ? pool.worker.filters(input) : null),
    `filters:${question}`,
  );
  const { data: review } = useWorked(
    async () =>
      input && pool.ready
        ? pool.worker.review(input, { kind: 'words', order: 'searches' }, words, blocking)
        : null,
    `review:${question}:${words.join('|')}:${blocking.map(({ id }) => id).join()}`,
  );
  return { input, question, alike, filters, review };
}
