import type { GroupPage, PlanState } from '@sprig/contracts';
import { type MatchType, matchTypes } from '@sprig/core/match';
import { Pause, Play } from 'lucide-react';
import { useMemo } from 'react';
import { count, money } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { figureAt, figureHeadings, figureText, figureWords } from '../../plan/results/result-words.ts';
import { MOST_ASKED, useResults } from '../../plan/results/use-results.ts';
import type { useHolds } from '../../plan/use-holds.ts';
import { BidEdit } from './BidEdit.tsx';
import type { BuildActions } from './use-build.ts';

type Props = {
  plan: PlanState;
  page: GroupPage;
  currency: string;
  hold: ReturnType<typeof useHolds>['hold'];
  actions: BuildActions;
  onTry: (search: string) => void;
};

type Row = GroupPage['rows'][number];

/** The keywords of an ad group, a line each, with the bid of every match type that it is in. */
export function GroupKeywords({ plan, page, currency, hold, actions, onTry }: Props) {
  const lines = useMemo(() => linesOf(page.rows), [page.rows]);
  const keys = useMemo(() => [...new Set(lines.map(({ keyword }) => String(keyword)))], [lines]);
  const { figures, of } = useResults(plan, 'keyword', keys.slice(0, MOST_ASKED));
  const used = matchTypes.filter((type) => page.rows.some((row) => row.type === type));
  return (
    <div
      className="min-h-0 flex-1 overflow-auto"
      tabIndex={0}
      role="group"
      aria-label="Keywords of the ad group"
    >
      <table className="w-full text-[13px]">
        <thead className="sticky top-0 z-10 bg-base-100 text-[12px] text-faint">
          <tr className="h-7 border-hair border-b">
            <th className="min-w-52 pr-3 pl-4 text-left font-normal">Keyword</th>
            <th className="w-20 pr-3 text-right font-normal">Searches</th>
            <th className="w-16 pr-3 text-right font-normal">CPC</th>
            {figures.map((figure) => (
              <th
                key={figure}
                className="w-20 pr-3 text-right font-normal"
                title={`Results: ${figureWords[figure]} of the keyword in all its match types`}
              >
                {figureHeadings[figure]}
              </th>
            ))}
            {used.map((type) => (
              <th key={type} className="w-28 pr-3 text-right font-normal">
                <span className="inline-flex items-center gap-1.5">
                  <ReachBars type={type} /> {matchWords[type]}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map(({ text, keyword, searches, cpc, rows }) => (
            <tr key={text} className="group h-[30px] border-base-200 border-b">
              <td className="max-w-0 truncate pr-3 pl-4">
                {text}
                {text === page.group.keyword && page.group.keywords > 1 && (
                  <span
                    className="ml-1.5 text-[11px] text-faint"
                    title="The lead keyword: names and ads speak of it"
                  >
                    lead
                  </span>
                )}
                <button
                  type="button"
                  className="btn btn-ghost btn-xs ml-2 font-normal opacity-0 focus:opacity-100 group-hover:opacity-100"
                  aria-label={`Try ${text} as a search`}
                  onClick={() => onTry(text)}
                >
                  try it
                </button>
              </td>
              <td className="pr-3 text-right">{count(searches)}</td>
              <td className="pr-3 text-right text-faint">{money(cpc, currency)}</td>
              {figures.map((figure) => (
                <td key={figure} className="pr-3 text-right text-faint">
                  {figureText(
                    figure,
                    figureAt(figure, of.get(String(keyword))?.figures ?? null),
                    of.get(String(keyword))?.currency ?? '',
                  )}
                </td>
              ))}
              {used.map((type) => (
                <td key={type} className="pr-3 text-right">
                  <Bid row={rows.get(type)} currency={currency} hold={hold} actions={actions} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {page.rows.length < page.rowCount && (
        <p className="px-4 py-2 text-[12.5px] text-faint">
          The {count(page.rows.length)} most searched of {count(page.rowCount)} rows; all of them are in the
          table of keywords.
        </p>
      )}
    </div>
  );
}

function Bid({
  row,
  currency,
  hold,
  actions,
}: { row: Row | undefined } & Pick<Props, 'currency' | 'hold' | 'actions'>) {
  if (!row) return <span className="text-faint">–</span>;
  const isPaused = row.status === 'paused';
  return (
    <span
      className={`inline-flex w-full items-center justify-end gap-0.5 ${isPaused ? 'text-faint line-through' : ''}`}
    >
      <button
        type="button"
        className="btn btn-ghost btn-square btn-xs opacity-0 focus:opacity-100 group-hover:opacity-100"
        aria-label={`${isPaused ? 'Enable' : 'Pause'} ${row.text} ${matchWords[row.type]}`}
        onClick={() =>
          void actions.many(
            [row.key],
            'status',
            isPaused ? 'enabled' : 'paused',
            isPaused ? 'Enabled.' : 'Paused.',
          )
        }
      >
        {isPaused ? <Play size={12} /> : <Pause size={12} />}
      </button>
      <BidEdit row={row} bid={row.bid} currency={currency} hold={hold} actions={actions} tabStop />
    </span>
  );
}

type Line = {
  text: string;
  keyword: number;
  searches: number | null;
  cpc: number | null;
  rows: Map<MatchType, Row>;
};

function linesOf(rows: readonly Row[]): Line[] {
  const lines = new Map<string, Line>();
  for (const row of rows) {
    const line = lines.get(row.text) ?? {
      text: row.text,
      keyword: row.keyword,
      searches: row.searches,
      cpc: row.cpc,
      rows: new Map<MatchType, Row>(),
    };
    line.rows.set(row.type, row);
    lines.set(row.text, line);
  }
  return [...lines.values()];
}
