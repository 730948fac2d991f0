import type { Pattern, Recipe, RecipeList, Slot } from './recipe.ts';

/** The roles that lists of the ready-made shapes play, with words to start from. */
const roles = {
  thing: { name: 'Things', starters: [] },
  trait: { name: 'Traits', starters: [] },
  place: { name: 'Places', starters: [] },
  want: { name: 'Wants', starters: ['hire', 'buy', 'price', 'best', 'cheap'] },
  question: { name: 'Questions', starters: ['how to choose', 'what size', 'where to store', 'how much is'] },
} as const;
type Role = keyof typeof roles;

type Part = Role | `${Role}?` | { word: string };

/** Rows of slots that most recipes begin with. */
export const shapes = [
  { key: 'thing', name: 'thing', parts: ['thing'] },
  { key: 'trait-thing', name: 'trait thing', parts: ['trait', 'thing'] },
  { key: 'thing-in-place', name: 'thing in place', parts: ['thing', { word: 'in' }, 'place'] },
  { key: 'want-thing-place', name: 'want thing place', parts: ['want', 'thing', 'place?'] },
  {
    key: 'question-about-thing',
    name: 'question about thing',
    parts: ['question', { word: 'a' }, 'thing'],
  },
] as const satisfies readonly { key: string; name: string; parts: readonly Part[] }[];
export type ShapeKey = (typeof shapes)[number]['key'];
export const shapeKeys = shapes.map(({ key }) => key);

/**
 * A recipe with one more pattern, of a ready-made shape. A list that the shape needs and the recipe has not, by its
 * name, is made; places follow the brief where it has some (`hasPlaces`).
 */
export function withShape(recipe: Recipe, key: ShapeKey, hasPlaces: boolean): Recipe {
  const shape = shapes.find((one) => one.key === key) as (typeof shapes)[number];
  const lists = [...recipe.lists];
  const listOf = (role: Role): number => {
    const known = lists.find((list) => isFor(list, role));
    if (known) return known.id;
    const id = nextId(lists);
    const { name, starters } = roles[role];
    lists.push(
      role === 'place' && hasPlaces
        ? { id, kind: 'brief', fact: 'places' }
        : { id, kind: 'own', name, text: starters.join('\n'), takes: [] },
    );
    return id;
  };
  const slots = shape.parts.map((part): Slot => {
    if (typeof part === 'object') return { kind: 'word', text: part.word };
    const optional = part.endsWith('?');
    return { kind: 'list', list: listOf(part.replace('?', '') as Role), optional };
  });
  const pattern: Pattern = { id: nextId(recipe.patterns), slots, flip: false };
  return { ...recipe, lists, patterns: [...recipe.patterns, pattern] };
}

const isFor = (list: RecipeList, role: Role): boolean =>
  list.kind === 'brief'
    ? role === 'place' && list.fact === 'places'
    : list.kind === 'own' && list.name === roles[role].name;

/** The first number above all that are there. */
export const nextId = (list: readonly { id: number }[]): number =>
  list.reduce((most, { id }) => Math.max(most, id), 0) + 1;
