import {
  type OutletRow,
  type PlanState,
  pageOutletRows,
  type RowChange,
  type RowsLook,
  rowChanges,
  startRows,
  stopJob,
  viewRows,
} from '@sprig/contracts';
import { type CellValue, kindsOf, type Outlet, type RowKind, rowKinds } from '@sprig/core/outlets';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { finishJob, useJob } from '../../data/jobs.ts';
import { useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { useAddress } from '../../kit/address.ts';
import { Empty } from '../../kit/Empty.tsx';
import { FilterField } from '../../kit/FilterField.tsx';
import { count, counted } from '../../kit/format.ts';
import { Progress } from '../../kit/Progress.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import type { RowSource } from '../../kit/table/row-source.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { useSettled } from '../../kit/use-settled.ts';
import { changeWords, kindWords, valueWords } from './ship-words.ts';

type Props = {
  plan: PlanState;
  /** Those that the plan ships to. */
  outlets: readonly Outlet[];
  /** The plan is built up to date. */
  isBuilt: boolean;
};

/** Every row that an outlet would get, before it goes: as its sheets say it, with what is new, changed or gone. */
export function RowsView({ plan, outlets, isBuilt }: Props) {
  const [params] = useAddress();
  const outlet = outlets.find(({ key }) => key === params.get('outlet')) ?? outlets[0];
  const { look, job, refusal, again } = useRowsLook(plan, outlet?.key ?? '', isBuilt);
  const { data: running } = useJob(plan.id, job);
  if (!outlet) return null;
  if (plan.counts.groups === 0)
    return (
      <div className="grid flex-1 place-items-center">
        <Empty title="Nothing is built yet">Rows are made of ad groups, and these of keywords.</Empty>
      </div>
    );
  return (
    <section aria-label="Every row" className="flex min-h-0 flex-1 flex-col">
      {refusal && (
        <p role="alert" className="px-4 pt-2 text-error">
          {refusal}{' '}
          <button type="button" className="btn btn-xs" onClick={again}>
            Look again
          </button>
        </p>
      )}
      {look ? (
        <Rows key={outlet.key} plan={plan.id} outlet={outlet} outlets={outlets} look={look} />
      ) : (
        !refusal && (
          <div className="px-4 py-3">
            <Progress
              words={
                running && running.total > 0
                  ? `${count(running.done)} of ${counted(running.total, 'ad group')}`
                  : 'Looking at every row'
              }
              done={running?.done ?? 0}
              total={running?.total ?? 0}
              {...(job && {
                onStop: () => void call(stopJob, { params: { plan: plan.id, job } }).catch(() => {}),
              })}
            />
          </div>
        )
      )}
    </section>
  );
}

/** The rows as they are looked at; they are looked at anew whenever the plan has changed. */
function useRowsLook(plan: PlanState, outlet: string, isBuilt: boolean) {
  const asking = question(viewRows, { params: { plan: plan.id, outlet } });
  const { data, refetch } = useQuery(asking);
  const [job, setJob] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<{ of: string; words: string } | null>(null);
  const asked = useRef('');
  const isMissing = data !== undefined && data.look === null && isBuilt && plan.counts.groups > 0;
  // What was refused of one build is no matter of the next.
  const key = `${outlet}:${plan.builtRevision}`;
  const refused = refusal?.of === key ? refusal.words : null;
  const wanted = isMissing && refused === null ? key : '';
  useEffect(() => {
    if (wanted === '' || asked.current === wanted) return;
    asked.current = wanted;
    const refuse = (words: string) => setRefusal({ of: wanted, words });
    void (async () => {
      try {
        const started = await call(startRows, { params: { plan: plan.id, outlet } });
        setJob(started.job);
        const { status } = await finishJob(plan.id, started.job);
        const seen = await refetch();
        if (status === 'stopped') refuse('Stopped. The rows were not looked at.');
        else if (seen.data?.look === null) refuse('The plan was changed while its rows were looked at.');
      } catch (error) {
        refuse(wordsOf(error));
      }
      setJob(null);
    })();
  }, [wanted, plan.id, outlet, refetch]);
  const again = () => {
    asked.current = '';
    setRefusal(null);
  };
  return { look: data?.look ?? null, job, refusal: refused, again };
}

const allOf = ({ added, changed, removed, same }: Record<RowChange, number>) =>
  added + changed + removed + same;

type RowsProps = { plan: number; outlet: Outlet; outlets: readonly Outlet[]; look: RowsLook };

function Rows({ plan, outlet, outlets, look }: RowsProps) {
  const [params, set] = useAddress();
  const there = rowKinds.filter((kind) => allOf(look.kinds[kind].counts) > 0);
  const kind =
    there.find((one) => one === params.get('kind')) ??
    (there.includes('keyword') ? 'keyword' : (there[0] ?? 'campaign'));
  const change = rowChanges.find((one) => one === params.get('change')) ?? 'all';
  const typed = params.get('filter') ?? '';
  const words = useSettled(typed);
  const selection = useSelection<number>();
  const widths = useWidths(`outlet-rows-${kind}`);
  const { counts, values } = look.kinds[kind];
  const columns = useMemo(() => rowColumns(outlet, kind, values as CellValue[]), [outlet, kind, values]);
  const source = useRowSource(plan, outlet.key, { stamp: look.stamp, kind, change, words });
  return (
    <>
      <div className="flex min-h-10 flex-wrap items-center gap-x-3 gap-y-1 px-4 py-1">
        {outlets.length > 1 && (
          <select
            className="chip cursor-pointer"
            aria-label="Outlet"
            value={outlet.key}
            onChange={({ target }) => set({ outlet: target.value })}
          >
            {outlets.map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        )}
        <fieldset className="flex flex-wrap gap-1" aria-label="Kinds of rows">
          {there.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={one === kind}
              className={`flex h-7 items-center gap-1.5 rounded-md px-2 ${one === kind ? 'bg-wash ring-1 ring-primary' : 'hover:bg-base-200'}`}
              onClick={() => set({ kind: one, change: '' })}
            >
              {kindWords[one]}s <b className="font-semibold">{count(allOf(look.kinds[one].counts))}</b>
            </button>
          ))}
        </fieldset>
        <select
          className="chip cursor-pointer"
          aria-label="How they stand"
          value={change}
          onChange={({ target }) => set({ change: target.value === 'all' ? '' : target.value })}
        >
          <option value="all">all of them</option>
          {rowChanges.map((one) => (
            <option key={one} value={one} disabled={counts[one] === 0}>
              {one === 'same' ? 'the same' : changeWords[one]} ({count(counts[one])})
            </option>
          ))}
        </select>
        <FilterField
          label="Filter rows"
          placeholder="words in any cell"
          value={typed}
          onChange={(filter) => set({ filter })}
        />
        <span className="text-faint">{counted(source.ids.length, 'row')}</span>
      </div>
      <Table
        key={kind}
        label={`Rows for ${outlet.name}`}
        columns={columns}
        source={source}
        selection={selection}
        widths={widths}
        dim={(row) => row.change === 'removed'}
        empty={<Empty title="No row is left by this filter">Take a word or a choice away.</Empty>}
      />
    </>
  );
}

type Filter = { stamp: number; kind: RowKind; change: RowChange | 'all'; words: string };

/** Rows by their places: any of them can be had at once. */
function useRowSource(plan: number, outlet: string, filter: Filter): RowSource<OutletRow, number> {
  const asked = JSON.stringify(filter);
  const { data, isFetching } = useQuery({
    ...question(pageOutletRows, { params: { plan, outlet }, body: { ...filter, count: 0 } }),
    placeholderData: keepPreviousData,
  });
  const total = data?.total ?? 0;
  const fetchPage = useCallback(
    async (places: number[]) => {
      const body = JSON.parse(asked) as Filter;
      const rows: OutletRow[] = [];
      for (let at = 0; at < places.length; at += PAGE) {
        // Places of a page follow each other, but for those that are here already.
        const some = places.slice(at, at + PAGE);
        const from = some[0] as number;
        const many = (some.at(-1) as number) - from + 1;
        for (let begin = 0; begin < many; begin += PAGE) {
          const page = await call(pageOutletRows, {
            params: { plan, outlet },
            body: { ...body, from: from + begin, count: Math.min(PAGE, many - begin) },
          });
          rows.push(...page.rows);
        }
      }
      return rows;
    },
    [plan, outlet, asked],
  );
  return useMemo(
    () => ({
      ids: Int32Array.from({ length: total }, (_, place) => place),
      version: asked,
      loading: isFetching,
      fetchPage,
      fetchAll: fetchPage,
      keyOf: ({ at }) => at,
    }),
    [total, asked, isFetching, fetchPage],
  );
}

const PAGE = 500;

const tones: Record<RowChange, string> = {
  added: 'text-primary',
  changed: 'text-info',
  removed: 'text-error',
  same: 'text-faint',
};

/** What the outlet's sheets call it. */
function headingOf({ sheets }: Outlet, kind: RowKind, value: CellValue): string {
  const columns = sheets.filter((sheet) => kindsOf(sheet).includes(kind)).flatMap((sheet) => sheet.columns);
  return columns.find((column) => column.value === value)?.heading ?? valueWords(value);
}

function rowColumns(outlet: Outlet, kind: RowKind, values: readonly CellValue[]): TableColumn<OutletRow>[] {
  const cells = values.flatMap((value, at): TableColumn<OutletRow>[] =>
    value === 'row-kind'
      ? []
      : [
          {
            id: value,
            heading: headingOf(outlet, kind, value),
            hint: valueWords(value),
            width: WIDE.test(value) ? 210 : 120,
            text: ({ cells: said }) => said[at] ?? '',
            cell: ({ cells: said, before }) => (
              <span className="truncate" title={said[at]}>
                {before[at] !== undefined && <s className="mr-1 text-faint">{before[at] || 'none'}</s>}
                {said[at]}
              </span>
            ),
          },
        ],
  );
  return [
    {
      id: 'change',
      heading: 'Stands',
      width: 84,
      text: ({ change }) => (change === 'same' ? 'the same' : changeWords[change]),
      cell: ({ change, before }) => {
        const fields = Object.keys(before).map((at) =>
          headingOf(outlet, kind, values[Number(at)] as CellValue),
        );
        return (
          <span className={tones[change]} title={fields.join(', ')}>
            {change === 'same' ? 'the same' : changeWords[change]}
          </span>
        );
      },
    },
    ...cells,
  ];
}

const WIDE = /^(campaign$|group$|keyword|headline|description|final-url|locations|extra)/;
