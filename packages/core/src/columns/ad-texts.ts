import { type AdField, adFields, descriptions, headlines } from '../write/index.ts';
import { type ColumnType, column } from './column.ts';

/** Other headings of lines of ads, each with the line's number behind it; the first line's may do without. */
function knownOf(field: AdField): string[] {
  const named = (names: readonly string[], at: number, bare: readonly string[]) => [
    ...names.map((name) => `${name}${at + 1}`),
    ...(at === 0 ? bare : []),
  ];
  const headline = (headlines as readonly AdField[]).indexOf(field);
  if (headline >= 0) return named(['headline', 'title', 'adtitle'], headline, ['headline', 'title']);
  const description = (descriptions as readonly AdField[]).indexOf(field);
  if (description >= 0)
    return named(['description', 'descriptionline', 'text', 'adtext', 'line'], description, [
      'description',
      'adtext',
    ]);
  return field === 'path1' ? ['displaypath1', 'urlpath1', 'path'] : [`display${field}`, `url${field}`];
}

/** `headline1` as `Headline 1`. */
const wordsOf = (field: AdField): string =>
  `${field.charAt(0).toUpperCase()}${field.slice(1).replace(/(\d+)$/, ' $1')}`;

/** The lines of ads and their paths. Lines that an outlet has no column for are counted where ads are carried. */
export const adTexts: readonly ColumnType<AdField>[] = adFields.map((field) =>
  column({
    value: field,
    words: wordsOf(field),
    known: knownOf(field),
    kinds: ['ad'],
    merge: 'said',
    write: () => (row) => row.texts[field] ?? '',
    read: () => (row, cell) => {
      if (cell.text !== '') row.texts[field] = cell.text;
    },
  }),
);
