import { Figured, MoneyFigured } from '../../../kit/Figured.tsx';
import { copiedFigure, copiedMoney } from '../../../kit/figured-text.ts';
import type { TableColumn } from '../../../kit/table/column.ts';
import type { IdeaRow } from '../../../pool/ideas.ts';

/** In the order in which they were found, or by a column; those without a figure come last. */
export function sorted(ideas: readonly IdeaRow[], { id, down }: { id: string; down: boolean }): IdeaRow[] {
  const list = ideas.slice();
  if (id === 'rank') return down ? list.reverse() : list;
  const turn = down ? -1 : 1;
  if (id === 'text') return list.sort((a, b) => (a.text < b.text ? -1 : 1) * turn);
  if (id === 'joins')
    return list.sort((a, b) => {
      if (a.joins === null || b.joins === null) return Number(a.joins === null) - Number(b.joins === null);
      return a.joins.localeCompare(b.joins) * turn;
    });
  const value = (idea: IdeaRow) => idea[id as 'searches' | 'cpc' | 'competition'];
  return list.sort((a, b) => {
    const [one, other] = [value(a), value(b)];
    if (one === null || other === null) return (one === null ? 1 : 0) - (other === null ? 1 : 0);
    return (one - other) * turn;
  });
}

const joinsColumn: TableColumn<IdeaRow> = {
  id: 'joins',
  heading: 'Joins',
  width: 150,
  sortable: true,
  hint: 'The theme whose rule would take it in',
  text: ({ joins }) => joins ?? '',
  cell: ({ joins }) =>
    joins === null ? (
      <span className="text-faint">no theme</span>
    ) : (
      <span title={joins} className="truncate">
        {joins}
      </span>
    ),
};

export function ideaColumns(currency: string, hasThemes: boolean): TableColumn<IdeaRow>[] {
  return [
    {
      id: 'text',
      heading: 'Idea',
      sortable: true,
      text: ({ text }) => text,
      cell: ({ text, inPool }) => (
        <span className={`px-1 ${inPool ? 'text-faint' : ''}`}>
          {text}
          {inPool && <span className="ml-2 text-[12px]">in the pool</span>}
        </span>
      ),
    },
    {
      id: 'rank',
      heading: 'Why',
      width: 380,
      sortable: true,
      hint: 'Likeliest first',
      text: ({ why }) => why,
      cell: ({ why }) => (
        <span className="text-faint" title={why}>
          {why}
        </span>
      ),
    },
    ...(hasThemes ? [joinsColumn] : []),
    {
      id: 'searches',
      heading: 'Searches a month',
      width: 140,
      right: true,
      sortable: true,
      text: ({ searches, from }) => copiedFigure(searches, from.searches),
      cell: ({ searches, from }) => <Figured value={searches} from={from.searches} />,
    },
    {
      id: 'cpc',
      heading: 'CPC',
      width: 90,
      right: true,
      sortable: true,
      text: ({ cpc, from }) => copiedMoney(cpc, from.cpc, currency),
      cell: ({ cpc, from }) => <MoneyFigured value={cpc} from={from.cpc} currency={currency} />,
    },
    {
      id: 'competition',
      heading: 'Competition',
      width: 110,
      right: true,
      sortable: true,
      text: ({ competition, from }) => copiedFigure(competition, from.competition),
      cell: ({ competition, from }) => <Figured value={competition} from={from.competition} />,
    },
  ];
}
