import {
  type JudgedBy,
  judgedBy,
  type PlanState,
  type ReportImport,
  type VerdictList,
  type VerdictRow,
  verdictLists,
} from '@sprig/contracts';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useWidths } from '../../data/me.ts';
import { useAddress } from '../../kit/address.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted } from '../../kit/format.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { figureColumn } from '../../plan/results/result-columns.tsx';
import { daysText, figureText } from '../../plan/results/result-words.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { ActDialog, type ActKind } from './ActDialog.tsx';
import { AimWords } from './AimWords.tsx';
import { LimitsDialog } from './LimitsDialog.tsx';
import { ListButtons } from './ListButtons.tsx';
import { NothingTold } from './NothingTold.tsx';
import { NotYet } from './NotYet.tsx';
import { useVerdicts } from './use-verdicts.ts';
import { VerdictsYield } from './VerdictsYield.tsx';
import { actText, amountText, evidenceText, listWords } from './verdict-words.ts';

type Props = { plan: PlanState; imports: readonly ReportImport[] | undefined; onReports: () => void };

const byChoices: { value: JudgedBy; words: string }[] = [
  { value: 'keyword', words: 'keywords' },
  { value: 'group', words: 'ad groups' },
  { value: 'ad', words: 'ads' },
];

/** A verdict for each keyword, ad group or ad, with its evidence, and what is done about it beside it. */
export function VerdictsView({ plan, imports, onReports }: Props) {
  const [params, set] = useAddress();
  const by = judgedBy.find((one) => one === params.get('of')) ?? 'keyword';
  const asked = verdictLists.find((one) => one === params.get('list')) ?? null;
  const { answer, source, error, isOld } = useVerdicts(plan.id, by, asked);
  const facts = useFacts(plan.id);
  const widths = useWidths(`verdicts-${by}`);
  const selection = useSelection<number>();
  const [act, setAct] = useState<{ kind: ActKind; keys: string[] } | null>(null);
  const [isOpen, setOpen] = useState(false);
  const currency = answer?.account?.currency ?? plan.brief.currency;
  const columns = useMemo(() => verdictColumns(by, currency), [by, currency]);
  if (error || !answer) return <NotYet error={error} words="Judging …" />;
  const list = asked ?? answer.list;
  const begin = async (kind: ActKind, numbers: readonly number[]) => {
    if (numbers.length === 0 || (kind === 'raise' && by === 'ad')) return;
    const rows = await source.fetchAll([...numbers]);
    setAct({ kind, keys: rows.map(({ key }) => key) });
  };
  const chosen = selection.size > 0 ? selection.listIn(source.ids) : [];
  const choose = (next: VerdictList) => {
    selection.clear();
    set({ list: next });
  };
  return (
    <>
      <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-x-2 border-hair border-b px-4 text-[14px]">
        <ChoiceChip
          label="What is judged"
          value={by}
          choices={byChoices}
          onChoose={(value) => {
            selection.clear();
            set({ of: value === 'keyword' ? '' : value, list: '' });
          }}
        />
        {answer.range && (
          <span>
            in <b>{answer.account?.name}</b>, {daysText(answer.range)}
          </span>
        )}
        <AimWords answer={answer} currency={currency} />
        <button
          type="button"
          className="btn btn-ghost btn-sm ml-auto font-normal"
          onClick={() => setOpen(true)}
        >
          What they go by
        </button>
      </div>
      {answer.why ? (
        <NothingTold why={answer.why} by={by} onReports={onReports} />
      ) : (
        <>
          <ListButtons
            label="Verdicts"
            lists={answer.lists.map(({ stake, ...one }) => ({
              ...one,
              more: stake >= 1_000_000 ? amountText(stake, currency) : '',
              moreHint: 'At stake over these days',
            }))}
            words={listWords}
            current={list}
            onList={choose}
          />
          <div className="flex h-10 shrink-0 items-center gap-2 px-4">
            <span className="text-faint">
              {isOld ? 'Judging …' : listWords[list][1]}
              {answer.notMet > 0 && list === 'too-early'
                ? ` ${counted(answer.notMet, 'name')} of reports that today’s plan has not ${answer.notMet === 1 ? 'is' : 'are'} not judged.`
                : ''}
            </span>
            {chosen.length > 0 && (
              <span className="ml-auto flex items-center gap-1.5">
                {counted(chosen.length, 'row')} selected
                {by !== 'ad' && (
                  <button type="button" className="btn btn-sm" onClick={() => void begin('raise', chosen)}>
                    Raise bids <span className="key">b</span>
                  </button>
                )}
                <button type="button" className="btn btn-sm" onClick={() => void begin('pause', chosen)}>
                  Pause <span className="key">u</span>
                </button>
                <button type="button" className="btn btn-sm" onClick={() => void begin('seen', chosen)}>
                  Seen to <span className="key">e</span>
                </button>
              </span>
            )}
          </div>
          <Table
            label={`Verdicts: ${listWords[list][0]}`}
            columns={columns}
            source={source}
            selection={selection}
            widths={widths}
            dim={({ status }) => status === 'paused'}
            actions={{
              b: (numbers) => void begin('raise', numbers),
              u: (numbers) => void begin('pause', numbers),
              e: (numbers) => void begin('seen', numbers),
            }}
            empty={<Empty title="Nothing has this verdict">Choose another list above.</Empty>}
          />
        </>
      )}
      <VerdictsYield imports={imports} answer={answer} currency={currency} />
      {act && (
        <ActDialog
          plan={plan.id}
          by={by}
          keys={act.keys}
          kind={act.kind}
          currency={plan.brief.currency}
          onClose={(done) => {
            setAct(null);
            if (done) selection.clear();
          }}
        />
      )}
      {isOpen && <LimitsDialog facts={facts} onClose={() => setOpen(false)} />}
    </>
  );
}

function verdictColumns(by: JudgedBy, currency: string): TableColumn<VerdictRow>[] {
  const amount = (id: string, heading: string, of: (row: VerdictRow) => number | null, hint: string) =>
    figureColumn('cost', currency, { id, heading, of, hint });
  const name: TableColumn<VerdictRow> = {
    id: 'name',
    heading: { keyword: 'Keyword', group: 'Ad group', ad: 'Ad' }[by],
    width: 220,
    text: ({ names }) => names[0] ?? '',
    cell: ({ names, type, group }) => (
      <span className="flex min-w-0 items-center gap-1.5">
        {type && <ReachBars type={type} />}
        {group ? (
          <Link
            className="truncate hover:underline"
            tabIndex={-1}
            title={`${names[0]}: open its ad group in Build`}
            to={`../build?${new URLSearchParams({ at: group })}`}
          >
            {names[0]}
          </Link>
        ) : (
          <span className="truncate">{names[0]}</span>
        )}
      </span>
    ),
  };
  return [
    name,
    {
      id: 'evidence',
      heading: 'Evidence',
      text: (row) => actText(row, currency) || evidenceText(row, currency),
      cell: (row) => {
        const said = actText(row, currency) || evidenceText(row, currency);
        return <span title={said}>{said}</span>;
      },
    },
    {
      id: 'clicks',
      heading: 'Clicks',
      width: 76,
      right: true,
      text: ({ clicks }) => String(clicks),
      cell: ({ clicks }) => count(clicks),
    },
    amount('cost', 'Cost', ({ cost }) => cost, 'Over all days that are looked at'),
    {
      id: 'conversions',
      heading: 'Conv.',
      width: 70,
      right: true,
      hint: 'On days whose conversions count',
      text: ({ conversions }) => String(conversions ?? ''),
      cell: ({ conversions }) =>
        conversions === null ? '–' : figureText('conversions', conversions * 1_000_000, currency),
    },
    amount('stake', 'At stake', ({ stake }) => stake, 'What is lost, or could be had, over these days'),
    ...(by === 'ad'
      ? []
      : [amount('bid', by === 'group' ? 'Base' : 'Bid', ({ bid }) => bid, 'As it is today')]),
    {
      id: 'see',
      heading: 'See to it',
      width: 92,
      text: () => '',
      cell: (row) => <SeeTo row={row} by={by} />,
    },
  ];
}

/** Where a verdict is mended that no bid or pause mends. */
function SeeTo({ row: { verdict, group, names }, by }: { row: VerdictRow; by: JudgedBy }) {
  if (group === null) return null;
  const link = (to: string, said: string) => (
    <Link className="text-info hover:underline" tabIndex={-1} to={to}>
      {said}
    </Link>
  );
  if (verdict === 'not-clicked') return link(`../write?${new URLSearchParams({ group })}`, 'its ad');
  if (verdict === 'not-sold' || verdict === 'broken-page') return link('../write?view=addresses', 'its page');
  const look = new URLSearchParams({
    by: 'day',
    picture: 'days',
    names: JSON.stringify([[by === 'keyword' ? 'keyword' : by, names[0] ?? '']]),
  });
  return link(`?${look}`, 'its days');
}
