import {
  type PlanState,
  type ReportImport,
  type TermJudgement,
  type TermList,
  type TermsAnswer,
  termLists,
} from '@sprig/contracts';
import { useMemo, useState } from 'react';
import { useWidths } from '../../data/me.ts';
import { useAddress } from '../../kit/address.ts';
import { Empty } from '../../kit/Empty.tsx';
import { FilterField } from '../../kit/FilterField.tsx';
import { count, counted } from '../../kit/format.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { useSettled } from '../../kit/use-settled.ts';
import { daysText, figureText, grainText } from '../../plan/results/result-words.ts';
import { BlockDialog } from './BlockDialog.tsx';
import { ReportsYield } from './LearnYield.tsx';
import { NothingTold } from './NothingTold.tsx';
import { NotYet } from './NotYet.tsx';
import { termColumns } from './term-columns.tsx';
import { useHidden } from './use-hidden.ts';
import { useJudging, useTerms } from './use-terms.ts';

type Props = { plan: PlanState; imports: readonly ReportImport[] | undefined; onReports: () => void };

/** `numbers`: the rows that leave with them. */
type Blocking = { terms: string[]; text?: string; numbers: readonly number[] };

const listWords: Record<TermList, readonly [name: string, about: string]> = {
  open: ['To judge', 'What was searched for that no exact keyword of the plan equals, the dearest first.'],
  kept: ['Exact keywords', 'What was searched for just as a keyword has it.'],
  judged: ['Judged', 'What was decided about these stands; they do not come back.'],
};

/** What was searched for, and what becomes of it, by single keys. */
export function TermsView({ plan, imports, onReports }: Props) {
  const [params, set] = useAddress();
  const list = termLists.find((one) => one === params.get('list')) ?? 'open';
  const filter = params.get('filter') ?? '';
  const like = useSettled(filter);
  const { answer, source, error, isOld } = useTerms(plan.id, list, like);
  const { shown, hide, show } = useHidden(source);
  const selection = useSelection<number>();
  const widths = useWidths('terms');
  const { write } = useJudging();
  const [blocking, setBlocking] = useState<Blocking | null>(null);
  const currency = answer?.account?.currency ?? plan.brief.currency;
  const { extend } = selection;
  const columns = useMemo(() => {
    const below = new Map(answer?.order.map((n, at) => [n, answer.alike[at] ?? 0]));
    // Those that are alike stand right below.
    const choose = (n: number) => {
      const ids = Array.from(shown.ids);
      const at = ids.indexOf(n);
      let last = at;
      while (below.get(ids[last + 1] ?? -1) === -1) last++;
      extend(at, last, ids);
    };
    return termColumns(currency, below, choose);
  }, [currency, answer, shown.ids, extend]);
  if (error || !answer) return <NotYet error={error} words="Adding up …" />;
  if (answer.why) return <NothingTold why={answer.why} by="term" onReports={onReports} />;
  const termsOf = async (numbers: readonly number[]) =>
    (await source.fetchAll([...numbers])).map(({ term }) => term);
  const judge = async (numbers: readonly number[], judgement: TermJudgement, known?: string[]) => {
    // A judged term leaves its list at once; where that is refused it is back.
    if (list === 'open') hide(numbers);
    selection.clear();
    const terms = known ?? (await termsOf(numbers));
    if (terms.length === 0) return;
    if (!(await write({ params: { plan: plan.id }, body: { terms, judgement } }))) show(numbers);
  };
  const run = (kind: 'own' | 'into' | 'leave') => (numbers: readonly number[]) => judge(numbers, { kind });
  const block = async (numbers: readonly number[]) => setBlocking({ terms: await termsOf(numbers), numbers });
  const chosen = selection.size > 0 ? selection.listIn(shown.ids) : [];
  return (
    <>
      <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-2 border-hair border-b px-4">
        {answer.lists.map(({ list: one, terms, cost }) => (
          <button
            key={one}
            type="button"
            aria-pressed={one === list}
            title={listWords[one][1]}
            className={`rounded-md px-2 py-0.5 ${one === list ? 'bg-wash ring-1 ring-primary' : 'hover:bg-base-200'}`}
            onClick={() => {
              selection.clear();
              set({ list: one === 'open' ? '' : one });
            }}
          >
            {listWords[one][0]} <b>{count(terms)}</b>{' '}
            <span className="text-[12px] text-faint">{figureText('cost', cost, currency)}</span>
          </button>
        ))}
        <span className="text-[12.5px] text-faint">
          {answer.range && `${answer.account?.name}, ${daysText(answer.range)} · `}
          {answer.grain && grainText(answer.grain)}
        </span>
      </div>
      <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-2 px-4">
        <FilterField
          label="Filter search terms"
          placeholder="Filter search terms"
          value={filter}
          onChange={(next) => set({ filter: next })}
        />
        <span className="text-faint">
          {isOld ? 'Adding up …' : counted(shown.ids.length, 'search term')}
          {answer.fresh > 0 && !isOld && `, ${count(answer.fresh)} new since the report before`}
        </span>
        {chosen.length > 0 && (
          <span className="ml-auto flex items-center gap-1.5">
            {counted(chosen.length, 'term')} selected
            <button type="button" className="btn btn-sm" onClick={() => void run('own')(chosen)}>
              Own ad group <span className="key">o</span>
            </button>
            <button type="button" className="btn btn-sm" onClick={() => void run('into')(chosen)}>
              Into its ad group <span className="key">i</span>
            </button>
            <button type="button" className="btn btn-sm" onClick={() => void block(chosen)}>
              Block <span className="key">b</span>
            </button>
            <button type="button" className="btn btn-sm" onClick={() => void run('leave')(chosen)}>
              Leave <span className="key">l</span>
            </button>
          </span>
        )}
      </div>
      <div className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col">
          <Table
            label="Search terms"
            columns={columns}
            source={shown}
            selection={selection}
            widths={widths}
            actions={{
              o: (numbers) => void run('own')(numbers),
              i: (numbers) => void run('into')(numbers),
              b: (numbers) => void block(numbers),
              l: (numbers) => void run('leave')(numbers),
            }}
            empty={
              <Empty
                title={
                  list === 'open' && filter === ''
                    ? 'All search terms are judged'
                    : 'No search term is left by this'
                }
              >
                {listWords[list][1]}
              </Empty>
            }
          />
        </div>
        {list === 'open' && (
          <OnlyCosting
            answer={answer}
            currency={currency}
            onFilter={(words) => set({ filter: words })}
            onBlock={(text, term) => setBlocking({ terms: [term], text, numbers: [] })}
          />
        )}
      </div>
      <ReportsYield imports={imports} />
      {blocking && (
        <BlockDialog
          plan={plan.id}
          terms={blocking.terms}
          {...(blocking.text === undefined ? {} : { text: blocking.text })}
          currency={currency}
          onBlock={(judgement) => {
            const { terms, numbers } = blocking;
            setBlocking(null);
            void judge(numbers, judgement, terms);
          }}
          onClose={() => setBlocking(null)}
        />
      )}
    </>
  );
}

type CostingProps = {
  answer: TermsAnswer;
  currency: string;
  onFilter: (run: string) => void;
  onBlock: (run: string, term: string) => void;
};

/** Words, and two in a row, that cost and sold nothing. */
function OnlyCosting({ answer, currency, onFilter, onBlock }: CostingProps) {
  return (
    <section
      aria-label="Words that only cost"
      tabIndex={0}
      className="w-72 shrink-0 overflow-auto border-hair border-l px-3 py-2 text-[13px]"
    >
      <h3 className="mb-1 font-semibold">Words that only cost</h3>
      {answer.onlyCosting.length === 0 ? (
        <p className="text-faint">None: either all have sold, or no report tells conversions.</p>
      ) : (
        <ul>
          {answer.onlyCosting.map(({ run, terms, cost, clicks, dearest }) => (
            <li key={run} className="flex items-center gap-2 py-0.5">
              <button
                type="button"
                className="min-w-0 flex-1 truncate text-left hover:underline"
                title={`${counted(terms, 'search term')}, ${counted(clicks, 'click')}: show them`}
                onClick={() => onFilter(run)}
              >
                {run} <span className="text-faint">{count(terms)}</span>
              </button>
              <span>{figureText('cost', cost, currency)}</span>
              <button
                type="button"
                className="btn btn-ghost btn-xs font-normal"
                aria-label={`Block ${run}`}
                onClick={() => onBlock(run, dearest)}
              >
                Block …
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
