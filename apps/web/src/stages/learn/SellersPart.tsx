import { type PlanState, readSellers, type Seller, type SellersBy, sellersBy } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { toast } from 'sonner';
import { useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { useAddress } from '../../kit/address.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Empty } from '../../kit/Empty.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { figureColumn } from '../../plan/results/result-columns.tsx';
import { daysText, grainText, MILLION } from '../../plan/results/result-words.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { changeText } from './look-words.ts';
import { NothingTold } from './NothingTold.tsx';
import { NotYet } from './NotYet.tsx';
import { useListedRows } from './use-listed-rows.ts';

type Props = { plan: PlanState; onReports: () => void };

const byWords: Record<SellersBy, readonly [choice: string, heading: string, none: string]> = {
  source: ['sources', 'Source', 'of no source'],
  theme: ['themes', 'Theme', 'of no theme'],
  stage: ['stages of the decision', 'Stage', 'of no stage'],
  match: ['match types', 'Match type', 'not told'],
  brand: ['brand and others', 'Brand', 'not known'],
  device: ['devices', 'Device', 'not told'],
  network: ['networks', 'Network', 'not told'],
  place: ['places', 'Place', 'not told'],
  hour: ['hours', 'Hour', 'not told'],
};
const THAN: Record<NonNullable<Seller['than']>, string> = {
  better: 'sells better than all others',
  worse: 'sells worse than all others',
  alike: 'no different from chance',
};
const TONE = { better: 'text-primary', worse: 'text-warning', alike: 'text-faint' };
const nameOf = ({ name }: Seller): string => name;

/** What sells, each against all others together. */
export function SellersPart({ plan, onReports }: Props) {
  const [params, set] = useAddress();
  const by = sellersBy.find((one) => one === params.get('sells')) ?? 'source';
  const { data, error } = useQuery(question(readSellers, { params: { plan: plan.id }, body: { by } }));
  const widths = useWidths('sellers');
  const selection = useSelection<string>();
  const source = useListedRows(data?.rows, nameOf, `${by} ${plan.revision}`);
  const currency = data?.account?.currency ?? plan.brief.currency;
  const facts = useFacts(plan.id);
  const { edit } = facts;
  const columns = useMemo(() => {
    const adjust = async ({ device, after }: NonNullable<Seller['adjust']>) => {
      const words = await edit(`devices.${device}`, after);
      if (words) toast.error(words);
      else toast('The brief’s device adjustment is set. Ctrl+Z takes it back; the next difference ships it.');
    };
    return [...sellerColumns(by, currency), ...(by === 'device' ? [adjustColumn(adjust)] : [])];
  }, [by, currency, edit]);
  if (error || !data) return <NotYet error={error} words="Adding up …" />;
  return (
    <>
      <p className="flex min-h-11 shrink-0 flex-wrap items-center gap-2 border-hair border-b px-4 text-[14px]">
        By
        <ChoiceChip
          label="What sells, by"
          value={by}
          choices={sellersBy.map((value) => ({ value, words: byWords[value][0] }))}
          onChoose={(value) => set({ sells: value === 'source' ? '' : value })}
        />
        {data.range && (
          <span>
            in <b>{data.account?.name}</b>, {daysText(data.range)}
          </span>
        )}
        <span className="text-[12.5px] text-faint">
          {data.grain && `${grainText(data.grain)} · `}
          {data.settledTo
            ? `conversions count until ${daysText({ from: data.settledTo, to: data.settledTo })}`
            : 'no conversions count yet'}
        </span>
      </p>
      {data.why ? (
        <NothingTold why={data.why} by={by} onReports={onReports} />
      ) : (
        <Table
          label="What sells"
          columns={columns}
          source={source}
          selection={selection}
          widths={widths}
          empty={<Empty title="Nothing is told of these days">Their conversions may still come.</Empty>}
        />
      )}
    </>
  );
}

/** The bid adjustment that a device's rate comes to, where the brief has another. */
const adjustColumn = (
  onAdjust: (adjust: NonNullable<Seller['adjust']>) => Promise<void>,
): TableColumn<Seller> => ({
  id: 'adjust',
  heading: 'Adjust its bids',
  width: 180,
  hint: 'By its conversion rate against that of all devices, at most so far at a time as bids to the aim; stands in the brief, for all campaigns without settings of their own',
  text: ({ adjust }) => (adjust ? `${adjust.now / 100}% to ${adjust.after / 100}%` : ''),
  cell: ({ adjust }) =>
    adjust && (
      <span className="flex items-center gap-1.5">
        <span className="text-faint">{changeText(adjust.now / 10_000)} →</span>
        <button type="button" className="btn btn-xs" tabIndex={-1} onClick={() => void onAdjust(adjust)}>
          {changeText(adjust.after / 10_000)}
        </button>
      </span>
    ),
});

function sellerColumns(by: SellersBy, currency: string): TableColumn<Seller>[] {
  const [, heading, none] = byWords[by];
  const column = (
    figure: Parameters<typeof figureColumn>[0],
    id: string,
    words: string,
    of: (row: Seller) => number | null,
  ) => figureColumn<Seller>(figure, currency, { id, heading: words, of, width: 110 });
  return [
    {
      id: 'name',
      heading,
      text: ({ name }) => name,
      cell: ({ name }) => (name === '' ? <span className="text-faint">{none}</span> : name),
    },
    column('clicks', 'clicks', 'Clicks', ({ clicks }) => clicks),
    column('cost', 'cost', 'Cost', ({ cost }) => cost),
    column('conversions', 'conversions', 'Conv.', ({ conversions }) => conversions * MILLION),
    column('rate', 'rate', 'Conv. rate', ({ clicks, conversions }) =>
      clicks > 0 ? conversions / clicks : null,
    ),
    column('costPerConversion', 'each', 'Cost / conv.', ({ cost, conversions }) =>
      conversions > 0 ? cost / conversions : null,
    ),
    column('return', 'return', 'Return', ({ cost, value }) => (cost > 0 && value > 0 ? value / cost : null)),
    {
      id: 'than',
      heading: 'Against all others',
      width: 210,
      hint: 'Whether its conversion rate differs from that of all others together by more than chance, at 5%',
      text: ({ than }) => (than ? THAN[than] : 'too little'),
      cell: ({ than }) => (
        <span className={TONE[than ?? 'alike']}>{than ? THAN[than] : 'too little told'}</span>
      ),
    },
  ];
}
