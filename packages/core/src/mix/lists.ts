import type { BriefFact, RecipeList } from './recipe.ts';

/** A list of the workspace, in whose text an entry stands on each line; `takes` are lists whose lines follow its own. */
export type SharedWords = { id: number; name: string; text: string; takes: readonly number[] };

/** What lists are made of besides the recipe. */
export type ListInputs = {
  shared: ReadonlyMap<number, SharedWords>;
  /** First each place's name, then its aliases. */
  places: readonly (readonly string[])[];
  brands: readonly string[];
  offers: readonly string[];
};

/** A list with everything that it takes in: its own lines come first, `ownLines` of them. */
export type ResolvedList = {
  id: number;
  name: string;
  text: string;
  ownLines: number;
  /** The names of shared lists that take each other in, in a circle; null where there is none. */
  circle: string[] | null;
};

const BRIEF_NAMES: Record<BriefFact, string> = { places: 'Places', brands: 'Brands', offers: 'Offers' };

/** The lists of a recipe, each as one text. A shared list that is gone, or a circle of them, brings nothing. */
export const resolveLists = (lists: readonly RecipeList[], inputs: ListInputs): ResolvedList[] =>
  lists.map((list) => resolveList(list, inputs));

function resolveList(list: RecipeList, inputs: ListInputs): ResolvedList {
  if (list.kind === 'brief') {
    const lines = briefLines(list.fact, inputs);
    const text = lines.join('\n');
    return { id: list.id, name: BRIEF_NAMES[list.fact], text, ownLines: lines.length, circle: null };
  }
  if (list.kind === 'own') {
    const { id, name } = list;
    return { id, name, ...withTaken(list.text, list.takes, inputs, []) };
  }
  const shared = inputs.shared.get(list.list);
  if (!shared) return { id: list.id, name: 'A list that is gone', text: '', ownLines: 0, circle: null };
  const { name } = shared;
  return { id: list.id, name, ...withTaken(shared.text, shared.takes, inputs, [shared.id]) };
}

const briefLines = (fact: BriefFact, inputs: ListInputs): string[] =>
  fact === 'places' ? inputs.places.map((names) => names.join('|')) : [...inputs[fact]];

function withTaken(text: string, takes: readonly number[], inputs: ListInputs, path: readonly number[]) {
  const ownLines = text === '' ? 0 : text.split('\n').length;
  const circle = circleFrom(takes, inputs.shared, path);
  if (circle || takes.length === 0) return { text, ownLines, circle };
  const all = takenFrom(takes, inputs.shared).map((one) => one.text);
  return { text: [text, ...all].join('\n'), ownLines: Math.max(1, ownLines), circle: null };
}

/** Every shared list that is reached by taking in, each once. */
export function takenFrom(takes: readonly number[], shared: ReadonlyMap<number, SharedWords>): SharedWords[] {
  const met = new Map<number, SharedWords>();
  const visit = (ids: readonly number[]) => {
    for (const id of ids) {
      const list = shared.get(id);
      if (!list || met.has(id)) continue;
      met.set(id, list);
      visit(list.takes);
    }
  };
  visit(takes);
  return [...met.values()];
}

/** The names along a circle of lists that take each other in, or null. `path` are the lists above. */
export function circleFrom(
  takes: readonly number[],
  shared: ReadonlyMap<number, SharedWords>,
  path: readonly number[] = [],
  cleared = new Set<number>(),
): string[] | null {
  const nameOf = (id: number) => shared.get(id)?.name ?? '';
  for (const id of takes) {
    if (cleared.has(id)) continue;
    const start = path.indexOf(id);
    if (start >= 0) return [...path.slice(start), id].map(nameOf);
    const circle = circleFrom(shared.get(id)?.takes ?? [], shared, [...path, id], cleared);
    if (circle) return circle;
    cleared.add(id);
  }
  return null;
}
