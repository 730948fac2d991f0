import {
  type BidsFrom,
  bidsFrom,
  type PlanState,
  type ReportImport,
  type ResultBidList,
  type ResultBidsAnswer,
  resultBidLists,
} from '@sprig/contracts';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useWidths } from '../../data/me.ts';
import { useAddress } from '../../kit/address.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted } from '../../kit/format.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { Yield } from '../../kit/Yield.tsx';
import { daysText } from '../../plan/results/result-words.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { AimWords } from './AimWords.tsx';
import { BidRules } from './BidRules.tsx';
import { bidColumns } from './bid-columns.tsx';
import { bidListWords, restWords } from './bid-words.ts';
import { ListButtons } from './ListButtons.tsx';
import { NothingTold } from './NothingTold.tsx';
import { NotYet } from './NotYet.tsx';
import { TakeBidsDialog } from './TakeBidsDialog.tsx';
import { useResultBids } from './use-bids.ts';

type Props = { plan: PlanState; imports: readonly ReportImport[] | undefined; onReports: () => void };

const fromChoices: { value: BidsFrom; words: string }[] = [
  { value: 'aim', words: 'to the aim' },
  { value: 'bands', words: 'by position' },
  { value: 'down', words: 'that started high' },
];
/** Bids as they follow from what came: shown before and after, then set as one change. */
export function BidsView({ plan, imports, onReports }: Props) {
  const [params, set] = useAddress();
  const from = bidsFrom.find((one) => one === params.get('bids')) ?? 'aim';
  const list = resultBidLists.find((one) => one === params.get('list')) ?? 'change';
  const { answer, source, error, isOld } = useResultBids(plan.id, from, list);
  const facts = useFacts(plan.id);
  const widths = useWidths(`bids-${from}`);
  const selection = useSelection<number>();
  const [taking, setTaking] = useState<string[] | 'all' | null>(null);
  const { currency } = plan.brief;
  const columns = useMemo(() => bidColumns(from, currency), [from, currency]);
  if (error || !answer) return <NotYet error={error} words="Working out …" />;
  const take = async (numbers: readonly number[]) => {
    if (from === 'down' || list !== 'change' || numbers.length === 0) return;
    setTaking((await source.fetchAll([...numbers])).map(({ key }) => key));
  };
  const chosen = selection.size > 0 ? selection.listIn(source.ids) : [];
  const go = (next: Record<string, string>) => {
    selection.clear();
    set(next);
  };
  const changing = rowsIn(answer, 'change');
  return (
    <>
      <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-x-2 border-hair border-b px-4 py-1.5 text-[14px]">
        Bids
        <ChoiceChip
          label="What bids follow from"
          value={from}
          choices={fromChoices}
          onChoose={(value) => go({ bids: value === 'aim' ? '' : value, list: '' })}
        />
        {answer.range && (
          <span>
            in <b>{answer.account?.name}</b>, {daysText(answer.range)}
          </span>
        )}
        {from === 'aim' && answer.account && <AimWords answer={answer} currency={currency} />}
        {answer.ready.length > 0 && <Ready ready={answer.ready} />}
      </div>
      {answer.why ? (
        <NothingTold why={answer.why} by="keyword" onReports={onReports} />
      ) : (
        <>
          <BidRules from={from} facts={facts} high={answer.high} />
          {answer.rest ? (
            <div className="grid flex-1 place-items-center p-6">
              <Empty title={restWords[answer.rest].title}>
                <p>{restWords[answer.rest].about}</p>
                <Link className="underline" to={restWords[answer.rest].to}>
                  {restWords[answer.rest].there}
                </Link>
              </Empty>
            </div>
          ) : (
            <>
              <ListButtons
                label="Lists of bids"
                lists={answer.lists.filter(
                  ({ list: one, rows }) => one === 'change' || one === list || rows > 0,
                )}
                words={bidListWords}
                current={list}
                onList={(next) => go({ list: next === 'change' ? '' : next })}
              />
              <div className="flex h-10 shrink-0 items-center gap-2 px-4">
                <span className="text-faint">
                  {isOld ? 'Working out …' : bidListWords[list][1]}
                  {list === 'few' && answer.notBidding > 0
                    ? ` ${counted(answer.notBidding, 'row')} that reports tell of ${answer.notBidding === 1 ? 'does' : 'do'} not bid: paused here, or in what is.`
                    : ''}
                </span>
                {from !== 'down' && list === 'change' && changing > 0 && (
                  <span className="ml-auto flex items-center gap-1.5">
                    {chosen.length > 0 && (
                      <button type="button" className="btn btn-sm" onClick={() => void take(chosen)}>
                        Set {counted(chosen.length, 'selected bid')} <span className="key">b</span>
                      </button>
                    )}
                    <button type="button" className="btn btn-primary btn-sm" onClick={() => setTaking('all')}>
                      Set all {count(changing)} …
                    </button>
                  </span>
                )}
              </div>
              <Table
                label={`Bids: ${bidListWords[list][0]}`}
                columns={columns}
                source={source}
                selection={selection}
                widths={widths}
                actions={{ b: (numbers) => void take(numbers) }}
                empty={<Empty title="No bid is in this list">Choose another list above.</Empty>}
              />
            </>
          )}
        </>
      )}
      <BidsYield imports={imports} answer={answer} />
      {taking && from !== 'down' && (
        <TakeBidsDialog
          plan={plan.id}
          from={from}
          keys={taking === 'all' ? null : taking}
          stamp={answer.stamp}
          currency={currency}
          onClose={(done) => {
            setTaking(null);
            if (done) selection.clear();
          }}
        />
      )}
    </>
  );
}

const rowsIn = ({ lists }: ResultBidsAnswer, list: ResultBidList): number =>
  lists.find((one) => one.list === list)?.rows ?? 0;

function BidsYield({ imports, answer }: { imports: Props['imports']; answer: ResultBidsAnswer }) {
  return (
    <Yield
      terms={[
        { id: 'reports', figure: count(imports?.length ?? 0), words: 'reports' },
        { id: 'change', figure: count(rowsIn(answer, 'change')), words: 'bids to change' },
        { id: 'stay', figure: count(rowsIn(answer, 'stay')), words: 'stay' },
        { id: 'few', figure: count(rowsIn(answer, 'few')), words: 'with too little seen' },
      ]}
    />
  );
}

/** Campaigns whose conversions are enough for the engine's own bidding. */
function Ready({ ready }: { ready: ResultBidsAnswer['ready'] }) {
  const [first] = ready;
  if (!first) return null;
  const others = ready.length > 1 ? ` and ${ready.length - 1} more` : '';
  const all = ready.map(
    ({ name, conversions }) => `${name}: ${counted(Math.floor(conversions), 'conversion')}`,
  );
  return (
    <Link
      className="text-[12.5px] text-info hover:underline"
      title={all.join('\n')}
      to={`../build?${new URLSearchParams({ at: first.key })}`}
    >
      {first.name}
      {others} {ready.length === 1 ? 'has' : 'have'} conversions enough to try the engine’s own bidding
    </Link>
  );
}
