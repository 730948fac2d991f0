import { type RowQuery, rowQuery } from '@sprig/contracts';
import { readMoneyOrNone, readWhole } from '../../kit/read-typed.ts';

/** Conditions on keyword rows, by their names in the address; an empty one is none. */
export const rowConditions = [
  'bidFrom',
  'bidTo',
  'searchesFrom',
  'searchesTo',
  'positionFrom',
  'positionTo',
  'label',
  'stage',
  'theme',
] as const;
export type RowConditions = Record<(typeof rowConditions)[number], string>;

/** What an address says of them; what it says wrongly is left out. */
export function conditionsIn(params: URLSearchParams): RowConditions & Pick<RowQuery, 'stage'> {
  const said = Object.fromEntries(
    rowConditions.map((name) => [name, params.get(name) ?? '']),
  ) as RowConditions;
  const read = rowQuery.safeParse(said);
  const none = rowQuery.parse({});
  const sound = read.success ? read.data : none;
  return {
    ...(Object.fromEntries(rowConditions.map((name) => [name, String(sound[name])])) as RowConditions),
    stage: sound.stage,
  };
}

/** What was typed and chosen, as it stands in the address. */
export function readBounds(
  typed: (name: string) => string,
): { conditions: RowConditions } | { words: string } {
  const conditions = Object.fromEntries(rowConditions.map((name) => [name, typed(name)])) as RowConditions;
  for (const name of ['bidFrom', 'bidTo'] as const) {
    const read = readMoneyOrNone(typed(name));
    if ('words' in read) return read;
    conditions[name] = read.value === null ? '' : String(read.value);
  }
  for (const name of ['searchesFrom', 'searchesTo'] as const) {
    const read = readWhole(typed(name));
    if (read === undefined) return { words: `“${typed(name)}” is no number of searches. Type it like 1300.` };
    conditions[name] = read === null ? '' : String(read);
  }
  for (const name of ['positionFrom', 'positionTo'] as const) {
    const position = typed(name).replace(',', '.');
    if (position !== '' && !(Number(position) >= 1 && Number(position) <= 100))
      return { words: `“${typed(name)}” is no position. Type it like 2.5; 1 is the top.` };
    conditions[name] = position;
  }
  const crossed = ([from, to]: readonly [string, string]) =>
    from !== '' && to !== '' && Number(from) > Number(to);
  if (
    crossed([conditions.bidFrom, conditions.bidTo]) ||
    crossed([conditions.searchesFrom, conditions.searchesTo]) ||
    crossed([conditions.positionFrom, conditions.positionTo])
  )
    return { words: 'The least is above the greatest: nothing would be left.' };
  return { conditions };
}
