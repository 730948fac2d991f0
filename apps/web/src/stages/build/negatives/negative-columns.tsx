import type { AllNegative, NegativesChange } from '@sprig/contracts';
import { type NegativeType, negativeTypes, writeNegative } from '@sprig/core/match';
import type { TableColumn } from '../../../kit/table/column.ts';
import { levelWords } from './negative-words.ts';

/** The columns of the table of negatives. */
export function negativeColumns(
  act: (keys: readonly string[], change: NegativesChange) => Promise<void>,
  onOpen: (key: string) => void,
): TableColumn<AllNegative>[] {
  return [
    {
      id: 'text',
      heading: 'Negative',
      sortable: true,
      text: ({ text, type }) => writeNegative(text, type),
      cell: ({ text }) => text,
    },
    {
      id: 'type',
      heading: 'Match type',
      width: 130,
      sortable: true,
      text: ({ type }) => type,
      cell: ({ key, text, type, level }) =>
        level === 'fence' || level === 'out' || level === 'list' ? (
          <span className="text-faint">{type}</span>
        ) : (
          <select
            className="plain-field cursor-pointer rounded hover:bg-base-300/60"
            tabIndex={-1}
            aria-label={`Match type of ${text}`}
            value={type}
            onChange={({ target }) => void act([key], { kind: 'type', type: target.value as NegativeType })}
          >
            {negativeTypes.map((one) => (
              <option key={one} value={one}>
                {one}
              </option>
            ))}
          </select>
        ),
    },
    {
      id: 'level',
      heading: 'Level',
      width: 130,
      sortable: true,
      text: ({ level }) => levelWords[level],
      cell: ({ level, blocks }) => (
        <span>
          {levelWords[level]}
          {blocks && <span className="text-faint"> · blocks the pool</span>}
        </span>
      ),
    },
    {
      id: 'place',
      heading: 'Of',
      width: 260,
      sortable: true,
      text: ({ placeName }) => placeName,
      cell: ({ place, placeName }) =>
        place === '' ? (
          <span className="text-faint">{placeName}</span>
        ) : (
          <button
            type="button"
            tabIndex={-1}
            className="truncate hover:underline"
            onClick={() => onOpen(place)}
          >
            {placeName === '' ? <span className="text-faint">gone</span> : placeName}
          </button>
        ),
    },
    {
      id: 'note',
      heading: 'For, or why',
      width: 260,
      hint: 'Of a fence, the ad group that it keeps the search for; of one that was taken away, why',
      text: ({ note }) => note,
      cell: ({ note }) => <span className="truncate text-faint">{note}</span>,
    },
  ];
}
