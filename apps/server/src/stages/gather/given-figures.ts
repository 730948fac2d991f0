import { type Change, refreshKeywords } from '../../plan/change/index.ts';
import { newSource } from '../../plan/new-source.ts';
import { handMention } from './new-rows.ts';

const NAMES = { hand: 'By hand', estimates: 'Estimates taken' };
type GivenKind = keyof typeof NAMES;

/** Figures given to a keyword here. One that is left out stays; null takes what was given away. */
export type GivenFigures = { id: number; searches?: number | null; cpc?: number | null };

/**
 * Keeps figures as what a source of their own says, which can be removed like any; those by hand stand on top of every
 * other source's. Keywords that are not there any more are left.
 */
export async function giveFigures(
  change: Change,
  kind: GivenKind,
  figures: readonly GivenFigures[],
): Promise<void> {
  const ids = [...new Set(figures.map(({ id }) => id))];
  const there = await change.find('keywords', { columns: ['id'], where: { id: ids }, lock: true });
  if (there.length === 0) return;
  const known = new Set(there.map(({ id }) => id));
  const source = await sourceOfKind(change, kind);
  const mentioned = await change.find('mentions', {
    columns: ['keyword_id'],
    where: { keyword_id: [...known], source_id: source },
  });
  const mentions = new Set(mentioned.map(({ keyword_id }) => keyword_id));
  const isThere = ({ id }: GivenFigures) => mentions.has(id);
  const given = [...merged(figures)].filter(({ id }) => known.has(id));
  // A row that is inserted is whole: undo compares it with what was inserted.
  const fresh = given.filter((one) => !isThere(one));
  if (fresh.length > 0)
    await change.insert(
      'mentions',
      fresh.map(({ id, searches = null, cpc = null }) => ({ ...handMention(source, id), searches, cpc })),
    );
  const again = given.filter(isThere);
  await change.updateEach(
    'mentions',
    again.flatMap(({ id, searches }) =>
      searches === undefined ? [] : [{ source_id: source, keyword_id: id, searches, searches_about: false }],
    ),
    ['searches', 'searches_about'],
  );
  await change.updateEach(
    'mentions',
    again.flatMap(({ id, cpc }) =>
      cpc === undefined ? [] : [{ source_id: source, keyword_id: id, cpc, cpc_about: false }],
    ),
    ['cpc', 'cpc_about'],
  );
  await refreshKeywords(change, [...known]);
}

/** Each keyword once, with the last that is said of it. */
function merged(figures: readonly GivenFigures[]): Iterable<GivenFigures> {
  const byId = new Map<number, GivenFigures>();
  for (const one of figures) byId.set(one.id, { ...byId.get(one.id), ...one });
  return byId.values();
}

/** The plan's one source of a kind, made when it is first needed. */
export async function sourceOfKind(change: Change, kind: GivenKind): Promise<number> {
  const [there] = await change.find('sources', { columns: ['id'], where: { kind }, limit: 1 });
  return there?.id ?? newSource(change, kind, NAMES[kind]);
}
