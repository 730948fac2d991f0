import { funnelStages } from '@sprig/core/text';
import { max } from 'd3';
import { count, short } from '../../kit/format.ts';
import { stageWords } from '../../plan/rule-choices.ts';
import type { ByStage, SortSummary } from '../../pool/sorting.ts';
import { shareOf } from './sort-words.ts';
import type { ThemeNode, ThemeTree } from './theme-tree.ts';

type Props = {
  tree: ThemeTree;
  open: ThemeNode | null;
  summary: SortSummary;
  onOpen: (theme: number) => void;
  onWords: () => void;
};

const columns = [...funnelStages, 'none'] as const;
const MOST_ROWS = 300;

/** Themes against funnel stages by searches: where a plan speaks to those who look, and where to those who buy. */
export function StageMatrix({ tree, open, summary, onOpen, onWords }: Props) {
  const rows = (open?.children ?? tree.roots)
    .filter(({ sum }) => sum.all.keywords > 0)
    .sort((a, b) => b.sum.all.searches - a.sum.all.searches)
    .slice(0, MOST_ROWS);
  const most = max(rows.flatMap(({ sum }) => columns.map((stage) => sum.stages[stage].searches))) ?? 1;
  const total = open?.sum.stages ?? summary.stages;
  const whole = (open?.sum.all ?? summary.all).searches;
  const rest = restOf(total, rows);
  const tint = (searches: number) =>
    `color-mix(in oklch, var(--color-primary) ${Math.round(46 * Math.sqrt(searches / Math.max(1, most)))}%, var(--color-base-100))`;
  const cells = (stages: ByStage, isTinted: boolean) =>
    columns.map((stage) => {
      const { keywords, searches } = stages[stage];
      return (
        <td
          key={stage}
          className="px-3 py-1 text-right"
          style={isTinted && keywords > 0 ? { background: tint(searches) } : undefined}
          title={`${count(keywords)} keywords, ${count(searches)} searches`}
        >
          {keywords === 0 ? '–' : count(searches)}
        </td>
      );
    });
  return (
    <div className="min-h-0 flex-1 overflow-auto px-4 py-2">
      <button type="button" className="btn btn-xs float-right" onClick={onWords}>
        Words that tell the stage
      </button>
      <table className="border-separate border-spacing-[2px] text-[13px]" aria-label="Themes by funnel stage">
        <thead>
          <tr className="text-[12px] text-faint">
            <th scope="col" className="min-w-60 text-left font-medium">
              Searches a month
            </th>
            {columns.map((stage) => (
              <th key={stage} scope="col" className="min-w-32 px-3 text-right font-medium">
                {stageWords[stage]}{' '}
                <span className="font-normal">{shareOf(total[stage].searches, whole)}</span>
              </th>
            ))}
            <th scope="col" className="px-3 text-right font-medium">
              all
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ id, name, sum }) => (
            <tr key={id}>
              <th scope="row" className="pr-4 text-left font-normal">
                <button
                  type="button"
                  className="max-w-72 truncate hover:underline"
                  onClick={() => onOpen(id)}
                >
                  {name}
                </button>
              </th>
              {cells(sum.stages, true)}
              <td className="px-3 text-right text-faint">{short(sum.all.searches)}</td>
            </tr>
          ))}
          {columns.some((stage) => rest[stage].keywords > 0) && (
            <tr>
              <th scope="row" className="pr-4 text-left font-normal text-faint">
                {open ? 'not in a sub-theme' : 'unplaced'}
              </th>
              {cells(rest, true)}
              <td className="px-3 text-right text-faint">
                {short(columns.reduce((sum, stage) => sum + rest[stage].searches, 0))}
              </td>
            </tr>
          )}
          <tr>
            <th scope="row" className="pr-4 pt-1 text-left font-semibold">
              {open ? `all of ${open.name}` : 'the whole pool'}
            </th>
            {cells(total, false)}
            <td className="px-3 text-right text-faint">{short(whole)}</td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}

/** What the rows leave of the whole. */
function restOf(total: ByStage, rows: readonly ThemeNode[]): ByStage {
  const rest = structuredClone(total);
  for (const { sum } of rows)
    for (const stage of columns) {
      rest[stage].keywords -= sum.stages[stage].keywords;
      rest[stage].searches -= sum.stages[stage].searches;
    }
  return rest;
}
