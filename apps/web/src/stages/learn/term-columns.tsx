import type { TermJudgement, TermRow } from '@sprig/contracts';
import { counted } from '../../kit/format.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import { figureColumn } from '../../plan/results/result-columns.tsx';

const JUDGED: Record<TermJudgement['kind'], string> = {
  own: 'own ad group',
  into: 'in its ad group',
  block: 'blocked',
  leave: 'left',
};

/**
 * A search term, what answered it, and what it brought.
 * @param below how many look-alikes stand right below each; -1 for these themselves
 */
export function termColumns(
  currency: string,
  below: ReadonlyMap<number, number>,
  onAlike: (n: number) => void,
): TableColumn<TermRow>[] {
  const figure = (
    id: 'impressions' | 'clicks' | 'cost' | 'conversions',
    heading: string,
    of: (row: TermRow) => number | null,
  ) => figureColumn(id, currency, { id, heading, of });
  return [
    {
      id: 'term',
      heading: 'Search term',
      text: ({ term }) => term,
      cell: ({ n, term, judged, isBlocked, isFresh }) => (
        <span className={`flex min-w-0 items-baseline gap-2 ${below.get(n) === -1 ? 'pl-5' : ''}`}>
          <span className="truncate" title={term}>
            {term}
          </span>
          {isFresh && <span className="shrink-0 text-[12px] text-primary">new</span>}
          {(below.get(n) ?? 0) > 0 && (
            <button
              type="button"
              className="shrink-0 text-[12px] text-info hover:underline"
              tabIndex={-1}
              title="Selects it with those below that differ by a form or the order of words"
              onClick={() => onAlike(n)}
            >
              and {below.get(n)} alike
            </button>
          )}
          {(judged || isBlocked) && (
            <span className="shrink-0 text-[12px] text-faint">
              {JUDGED[judged?.judgement.kind ?? 'block']}
            </span>
          )}
        </span>
      ),
    },
    {
      id: 'by',
      heading: 'Answered by',
      width: 260,
      text: ({ by }) => by.keyword ?? by.group ?? '',
      cell: ({ by }) => (
        <span
          className="flex min-w-0 items-center gap-1.5 text-faint"
          title={[by.keyword, by.group, by.campaign].filter(Boolean).join(', ')}
        >
          {by.type && <ReachBars type={by.type} />}
          <span className="truncate">{by.keyword ?? by.group ?? by.campaign ?? '–'}</span>
          {by.others > 0 && <span className="shrink-0 text-[12px]">and {counted(by.others, 'other')}</span>}
        </span>
      ),
    },
    figure('impressions', 'Impressions', ({ impressions }) => impressions),
    figure('clicks', 'Clicks', ({ clicks }) => clicks),
    figure('cost', 'Cost', ({ cost }) => cost),
    figure('conversions', 'Conv.', ({ conversions }) =>
      conversions === null ? null : conversions * 1_000_000,
    ),
  ];
}
