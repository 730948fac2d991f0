import type { AdTest, AdTestGroup } from '@sprig/contracts';
import type { AdTestRules } from '@sprig/core/judge';
import { Link } from 'react-router';
import { count } from '../../kit/format.ts';
import type { TableColumn } from '../../kit/table/column.ts';
import { isDecided, triesWord } from './ad-test-words.ts';
import { DifferenceBar } from './DifferenceBar.tsx';
import { changeText } from './look-words.ts';

const rates = new Intl.NumberFormat('en-GB', { style: 'percent', maximumFractionDigits: 2 });

/** What each ad group had of both. */
export function groupColumns(names: AdTest['names'], rules: AdTestRules): TableColumn<AdTestGroup>[] {
  const rate = (side: 'a' | 'b', heading: string): TableColumn<AdTestGroup> => ({
    id: side,
    heading,
    width: 120,
    right: true,
    hint: rules.by === 'clicks' ? 'CTR' : 'Conversions a click',
    text: (row) => String(row[side].hits / Math.max(1, row[side].tries)),
    cell: (row) => (
      <span title={`${count(row[side].hits)} of ${count(row[side].tries)}`}>
        {row[side].tries > 0 ? rates.format(row[side].hits / row[side].tries) : '–'}
      </span>
    ),
  });
  return [
    {
      id: 'name',
      heading: 'Ad group',
      text: ({ name, key }) => name || key,
      cell: ({ name, key }) => (
        <Link
          className="truncate hover:underline"
          tabIndex={-1}
          to={`../write?${new URLSearchParams({ group: key })}`}
        >
          {name || key}
        </Link>
      ),
    },
    {
      id: 'tries',
      heading: triesWord[rules.by] === 'clicks' ? 'Clicks' : 'Impressions',
      width: 100,
      right: true,
      text: ({ a, b }) => String(a.tries + b.tries),
      cell: ({ a, b }) => count(a.tries + b.tries),
    },
    rate('a', names[0]),
    rate('b', names[1]),
    {
      id: 'difference',
      heading: 'Difference',
      width: 170,
      text: ({ difference }) => (difference ? changeText(difference.by) : ''),
      cell: (row) => (
        <DifferenceBar
          difference={row.difference}
          isDecided={isDecided(row)}
          label={row.difference ? changeText(row.difference.by) : 'not told'}
        />
      ),
    },
    {
      id: 'told',
      heading: 'By itself',
      width: 130,
      hint: 'What this ad group alone would tell',
      text: (row) => ownText(row, names),
      cell: (row) => <span className="text-faint">{ownText(row, names)}</span>,
    },
  ];
}

function ownText({ verdict }: AdTestGroup, [first, second]: AdTest['names']): string {
  if (verdict === 'few') return 'too little';
  if (verdict === 'open') return 'not decided';
  if (verdict === 'alike') return 'alike';
  return verdict === 'a' ? first : second;
}
