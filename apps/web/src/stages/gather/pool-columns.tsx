import { changeTypes, editKeyword, fillKeywords, openPlan } from '@sprig/contracts';
import { typesIn } from '@sprig/core/match';
import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import type { z } from 'zod';
import { call, wordsOf } from '../../data/call.ts';
import { fetchAgain } from '../../data/fetch-again.ts';
import { queryClient } from '../../data/query-client.ts';
import { questionsOf } from '../../data/query-key.ts';
import { runChange } from '../../data/run-change.ts';
import { NoteOn } from '../../frame/notes/NoteOn.tsx';
import { Figured } from '../../kit/Figured.tsx';
import {
  copiedFigure,
  copiedMoney,
  figuredText,
  moneyFiguredText,
  originClass,
  originWords,
} from '../../kit/figured-text.ts';
import { counted } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { matchWords } from '../../kit/match-words.ts';
import { AskedMarks } from '../../kit/ReachBars.tsx';
import { readMoneyOrNone, readWhole } from '../../kit/read-typed.ts';
import { Tie } from '../../kit/Tie.tsx';
import type { Put, PutAnswer, TableColumn } from '../../kit/table/column.ts';
import { figureHeadings, figureWords } from '../../plan/results/result-words.ts';
import type { PoolRow } from '../../pool/pool-store.ts';
import { figureOfHeading } from '../../pool/result-headings.ts';
import type { usePool } from '../../pool/use-pool.ts';
import { Why } from './Why.tsx';

export type Kept = { heading: string; keywords: number };

export type Edit = z.input<typeof editKeyword.body>;

async function keep(plan: number, keyword: number, body: Edit): Promise<string | null> {
  try {
    await call(editKeyword, { params: { plan, keyword }, body });
    await fetchAgain(queryClient, { queryKey: questionsOf(openPlan, plan) });
    return null;
  } catch (error) {
    return wordsOf(error);
  }
}

/** Cells that were pasted, as one change. What of them was refused is told by name. */
export async function fillPool(plan: number, puts: readonly Put<PoolRow>[]): Promise<PutAnswer> {
  const texts = puts.flatMap(({ row: { id, text }, column, value }) =>
    column === 'text' ? [{ id, before: text, after: String(value) }] : [],
  );
  const figures = new Map<number, { id: number; searches?: number | null; cpc?: number | null }>();
  for (const { row, column, value } of puts)
    if (column === 'searches' || column === 'cpc')
      figures.set(row.id, {
        ...(figures.get(row.id) ?? { id: row.id }),
        [column]: value === null ? null : Number(value),
      });
  try {
    const { refusedCount, refused } = await call(fillKeywords, {
      params: { plan },
      body: { texts, figures: [...figures.values()] },
    });
    await fetchAgain(queryClient, { queryKey: questionsOf(openPlan, plan) });
    if (refusedCount === 0) return { done: true };
    const [first] = refused;
    const others = refusedCount > 1 ? ` ${counted(refusedCount - 1, 'more text')} could not either.` : '';
    return { done: true, words: `The rest went in, but not “${first?.text}”: ${first?.why}${others}` };
  } catch (error) {
    return { done: false, words: wordsOf(error) };
  }
}

/** A keyword is built as its sources asked for and the rules say. */
const giveTypesBack = (plan: number, id: number) =>
  void runChange(
    plan,
    () =>
      call(changeTypes, {
        params: { plan },
        body: { scope: { keywords: [id] }, change: { kind: 'as-asked' }, dry: false },
      }),
    () => 'Its match types are as its sources asked for again.',
  );

type Figure = 'searches' | 'cpc';
type ReadFigure = { value: number | null } | { words: string };

const MOST_SEARCHES = 999_999_999;

function readSearches(typed: string): ReadFigure {
  const value = readWhole(typed);
  return value === undefined || (value !== null && value > MOST_SEARCHES)
    ? { words: `“${typed}” is no number of searches. Type it like 1300.` }
    : { value };
}

function keptHead(heading: string): Pick<TableColumn<PoolRow>, 'heading' | 'width' | 'hint'> {
  const figure = figureOfHeading(heading);
  if (figure === null) return { heading, width: 130, hint: 'Kept as its sheet has it' };
  const hint = `Results: ${figureWords[figure]} in all match types, over the last range that reports tell`;
  return { heading: figureHeadings[figure], width: 96, hint };
}

const nothingNoted: ReadonlySet<string> = new Set();

export function poolColumns(
  plan: number,
  currency: string,
  worker: ReturnType<typeof usePool>['worker'],
  names: ReadonlyMap<number, string>,
  keptColumns: readonly string[],
  /** The numbers of keywords on which there are notes, or one is to be offered. */
  noted: ReadonlySet<string> = nothingNoted,
): TableColumn<PoolRow>[] {
  const title = (row: PoolRow, measure: Figure) => {
    const from = row.from[measure];
    const source = row.figuresFrom === null ? undefined : names.get(row.figuresFrom);
    const of = measure === 'searches' && row.toldOf !== null ? ` of “${row.toldOf}”` : '';
    return from === 'told' ? `Told${of} by ${source ?? 'a source'}` : originWords(from);
  };
  const told = (row: PoolRow, measure: Figure): number | null =>
    row.from[measure] === 'told' || row.from[measure] === 'hand' ? row[measure] : null;
  const keepFigure = async (row: PoolRow, field: Figure, read: ReadFigure) =>
    'words' in read ? read.words : keep(plan, row.id, { field, before: told(row, field), after: read.value });
  const why = (row: PoolRow, measure: Figure, words: string) => (
    <Why
      // What it said of another figure is not for this one.
      key={`${row.id} ${measure} ${words}`}
      id={row.id}
      measure={measure}
      from={row.from[measure]}
      worker={worker}
      currency={currency}
      title={title(row, measure)}
      className={originClass(row.from[measure])}
    >
      {words}
    </Why>
  );
  return [
    {
      id: 'text',
      heading: 'Keyword',
      sortable: true,
      text: ({ text }) => text,
      read: (typed) =>
        typed === '' ? { words: 'A keyword can’t be empty. Cut it instead.' } : { value: typed },
      cell: ({ id, text, foldedInto, state }) => (
        <span className="flex items-center gap-2">
          <InlineEdit
            label={`keyword ${text}`}
            shown={text}
            text={text}
            onKeep={(after) => keep(plan, id, { field: 'text', before: text, after })}
          />
          {state === 'folded' && (
            <span className="truncate text-[12px] text-faint">folded into {foldedInto}</span>
          )}
          {noted.has(String(id)) && (
            <NoteOn plan={plan} subject={{ kind: 'keyword', key: String(id), name: text }} />
          )}
        </span>
      ),
    },
    {
      id: 'asked',
      heading: 'Asked as',
      width: 140,
      hint: 'The match types that its sources asked for, or that it was given by hand',
      text: ({ asked }) =>
        typesIn(asked)
          .map((type) => matchWords[type])
          .join(', '),
      cell: ({ id, asked, isAskedByHand }) => (
        <span className="inline-flex items-center gap-0.5">
          {isAskedByHand && <Tie rule="what its sources asked for" onLetGo={() => giveTypesBack(plan, id)} />}
          <AskedMarks asked={asked} />
        </span>
      ),
    },
    {
      id: 'searches',
      heading: 'Searches a month',
      width: 140,
      right: true,
      sortable: true,
      text: ({ searches, from }) => copiedFigure(searches, from.searches),
      read: readSearches,
      cell: (row) => (
        <InlineEdit
          label={`searches of ${row.text}`}
          shown={why(row, 'searches', figuredText(row.searches, row.from.searches, row.searchesAbout))}
          text={told(row, 'searches') === null ? '' : String(row.searches)}
          right
          onKeep={(typed) => keepFigure(row, 'searches', readSearches(typed))}
        />
      ),
    },
    {
      id: 'cpc',
      heading: 'CPC',
      width: 100,
      right: true,
      sortable: true,
      text: ({ cpc, from }) => copiedMoney(cpc, from.cpc, currency),
      read: readMoneyOrNone,
      cell: (row) => (
        <InlineEdit
          label={`CPC of ${row.text}`}
          shown={why(row, 'cpc', moneyFiguredText(row.cpc, row.from.cpc, currency, row.cpcAbout))}
          text={
            told(row, 'cpc') === null ? '' : decimalFromMicros(asMicros(row.cpc ?? 0), decimalsOf(currency))
          }
          right
          onKeep={(typed) => keepFigure(row, 'cpc', readMoneyOrNone(typed))}
        />
      ),
    },
    {
      id: 'competition',
      heading: 'Competition',
      width: 110,
      right: true,
      sortable: true,
      hint: 'How many bid on it, 0 to 100',
      text: ({ competition, from }) => copiedFigure(competition, from.competition),
      cell: ({ competition, from }) => <Figured value={competition} from={from.competition} />,
    },
    {
      id: 'source',
      heading: 'Sources',
      width: 210,
      text: ({ sources }) => sources.map((id) => names.get(id) ?? '').join(', '),
      cell: ({ sources }) => (
        <span className="text-faint">{sources.map((id) => names.get(id) ?? '…').join(', ')}</span>
      ),
    },
    ...keptColumns.map(
      (heading): TableColumn<PoolRow> => ({
        id: `kept:${heading}`,
        ...keptHead(heading),
        right: true,
        sortable: true,
        text: ({ kept: own }) => own[heading] ?? '',
        cell: ({ kept: own }) => <span title={own[heading]}>{own[heading] ?? '–'}</span>,
      }),
    ),
  ];
}
