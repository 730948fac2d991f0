import type { AdRow, ReviewState } from '@sprig/contracts';
import { kindOfKey } from '@sprig/core/build';
import { lengthOf } from '@sprig/core/text';
import { type AdField, type AdLimits, adFields, headlines } from '@sprig/core/write';
import { count } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { readHeld } from '../../kit/read-held.ts';
import type { TableColumn } from '../../kit/table/column.ts';
import { fieldName } from './field-names.ts';
import type { WritingState } from './use-writing.ts';

const stateWords: Record<ReviewState, string> = {
  ready: 'ready',
  review: 'in review',
  limited: 'limited',
  refused: 'refused',
};

const stateClass: Record<ReviewState, string> = {
  ready: 'text-faint',
  review: 'text-warning',
  limited: 'text-warning',
  refused: 'text-error',
};
const widthOf = (field: AdField): number => {
  if (field.startsWith('description')) return 330;
  return field.startsWith('path') ? 120 : 210;
};

/** The fields that any pattern has a line for, in the order they are read. */
export function usedFields(patterns: WritingState['document']['value']): AdField[] {
  const bodies = Object.values(patterns?.patterns ?? {});
  const used = adFields.filter((field) => bodies.some((body) => body.fields[field].lines.length > 0));
  return used.length > 0 ? used : [headlines[0] as AdField];
}

/** The columns of the table of ads. */
export function adColumns(
  used: readonly AdField[],
  limitsOfAd: (ad: AdRow) => AdLimits,
  hold: WritingState['hold'],
  onGroup: (group: string) => void,
): TableColumn<AdRow>[] {
  const text = (field: AdField): TableColumn<AdRow> => ({
    id: field,
    heading: fieldName(field),
    width: widthOf(field),
    text: ({ texts }) => texts[field] ?? '',
    read: (typed, row) => {
      if (limitsOfAd(row)[field] === undefined)
        return { words: `Ads of this form have no ${fieldName(field)}.` };
      return readHeld(field, typed);
    },
    cell: (row) => {
      const said = row.texts[field] ?? '';
      const limit = limitsOfAd(row)[field]?.limit;
      const length = lengthOf(said);
      if (limit === undefined) return <span className="text-faint">–</span>;
      return (
        <span className="flex w-full items-center gap-1">
          <span className="min-w-0 flex-1">
            <InlineEdit
              label={`${fieldName(field)} of ${row.groupName}`}
              shown={said || <span className="text-faint">–</span>}
              text={said}
              onKeep={(typed) => hold(row.key, field, typed)}
            />
          </span>
          {row.held.includes(field) && <span title="Written by hand">⋈</span>}
          <span className={`shrink-0 text-[11px] ${length > limit ? 'text-error' : 'text-faint'}`}>
            {said === '' ? '' : length}
          </span>
        </span>
      );
    },
  });
  return [
    {
      id: 'group',
      heading: 'Ad group',
      width: 190,
      sortable: true,
      text: ({ groupName }) => groupName,
      cell: ({ group, groupName }) => (
        <button
          type="button"
          tabIndex={-1}
          className="truncate hover:underline"
          onClick={() => onGroup(group)}
        >
          {groupName}
        </button>
      ),
    },
    {
      id: 'campaign',
      heading: 'Campaign',
      width: 110,
      text: ({ campaignName }) => campaignName,
      cell: ({ campaignName }) => <span className="text-faint">{campaignName}</span>,
    },
    {
      id: 'pattern',
      heading: 'Ad',
      width: 150,
      sortable: true,
      text: (row) => adName(row),
      cell: ({ patternName, labels, form }) => (
        <span title={`${form}${labels.length > 0 ? `: ${labels.join(', ')}` : ''}`}>
          {patternName}
          {labels.length > 0 && <span className="text-faint"> · {labels.at(-1)}</span>}
        </span>
      ),
    },
    ...used.map(text),
    {
      id: 'url',
      heading: 'Final URL',
      width: 220,
      text: ({ finalUrl }) => finalUrl,
      read: (typed) => readHeld('finalUrl', typed),
      cell: (row) => (
        <InlineEdit
          label={`Final URL of ${row.groupName}`}
          shown={row.finalUrl || <span className="text-error">none</span>}
          text={row.finalUrl}
          onKeep={(typed) => hold(row.key, 'finalUrl', typed)}
        />
      ),
    },
    {
      id: 'relevance',
      heading: 'Relevance',
      width: 90,
      right: true,
      sortable: true,
      hint: 'How much of its keywords the ad says: 0 to 1',
      text: ({ relevance }) => relevance.toFixed(2),
      cell: ({ relevance }) => relevance.toFixed(2),
    },
    {
      id: 'problems',
      heading: 'Objections',
      width: 90,
      right: true,
      text: ({ problems }) => String(problems),
      cell: ({ problems }) => (problems > 0 ? <span className="text-warning">{count(problems)}</span> : '–'),
    },
    {
      id: 'review',
      heading: 'Review',
      width: 100,
      text: ({ review, reason }) => (reason === '' ? stateWords[review] : `${stateWords[review]}: ${reason}`),
      cell: ({ review, reason }) => (
        <span title={reason} className={stateClass[review]}>
          {stateWords[review]}
        </span>
      ),
    },
    {
      id: 'searches',
      heading: 'Searches',
      width: 90,
      right: true,
      sortable: true,
      text: ({ searches }) => String(searches ?? ''),
      cell: ({ searches }) => count(searches),
    },
  ];
}

/** As a sheet names an ad: its pattern's name, with `(b)` for the second version of a split test. */
const adName = ({ key, patternName }: Pick<AdRow, 'key' | 'patternName'>): string =>
  kindOfKey(key) === 'ad' && key.endsWith('b') ? `${patternName} (b)` : patternName;
