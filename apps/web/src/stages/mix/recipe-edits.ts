import { nextId, type Pattern, type Recipe, type Slot } from '@sprig/core/mix';

/** A place in a pattern: before the slot that stands there now, or at the end. */
export type SlotPlace = { pattern: number; at: number };

const withPattern = (
  patterns: readonly Pattern[],
  id: number,
  change: (slots: Slot[]) => Slot[],
): Pattern[] =>
  patterns.map((pattern) =>
    pattern.id === id ? { ...pattern, slots: change([...pattern.slots]) } : pattern,
  );

export const addSlot = (patterns: readonly Pattern[], { pattern, at }: SlotPlace, slot: Slot): Pattern[] =>
  withPattern(patterns, pattern, (slots) => slots.toSpliced(at, 0, slot));

export const removeSlot = (patterns: readonly Pattern[], { pattern, at }: SlotPlace): Pattern[] =>
  withPattern(patterns, pattern, (slots) => slots.toSpliced(at, 1));

export const changeSlot = (
  patterns: readonly Pattern[],
  { pattern, at }: SlotPlace,
  change: (slot: Slot) => Slot,
): Pattern[] =>
  withPattern(patterns, pattern, (slots) => slots.map((slot, place) => (place === at ? change(slot) : slot)));

/**
 * Moves a slot to where another one stands, in its own pattern or another: that one and those behind it make way, as
 * one sees it when it is dragged there. A place past the end is the end.
 */
export function moveSlot(patterns: readonly Pattern[], from: SlotPlace, to: SlotPlace): Pattern[] {
  const slot = patterns.find(({ id }) => id === from.pattern)?.slots[from.at];
  if (!slot) return [...patterns];
  return addSlot(removeSlot(patterns, from), to, slot);
}

/** Moves one of a row to another place of it. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const item = list[from];
  if (item === undefined || to < 0 || to >= list.length) return [...list];
  return list.toSpliced(from, 1).toSpliced(to, 0, item);
}

export const addPattern = (patterns: readonly Pattern[], slots: Slot[] = []): Pattern[] => [
  ...patterns,
  { id: nextId(patterns), slots, flip: false },
];

/** A recipe without a list, nor the slots and pairs that hang on it. */
export function withoutList(recipe: Recipe, list: number): Recipe {
  return {
    ...recipe,
    lists: recipe.lists.filter(({ id }) => id !== list),
    patterns: recipe.patterns.map((pattern) => ({
      ...pattern,
      slots: pattern.slots.filter((slot) => slot.kind === 'word' || slot.list !== list),
    })),
    alone: recipe.alone.filter(({ side }) => side.kind === 'word' || side.list !== list),
    never: recipe.never.filter((pair) => !pair.some((side) => side.kind === 'list' && side.list === list)),
  };
}

/** A name that no other has: `Places`, then `Places 2`. */
export function freeName(name: string, taken: readonly string[]): string {
  const known = new Set(taken.map((one) => one.toLowerCase()));
  if (!known.has(name.toLowerCase())) return name;
  let number = 2;
  while (known.has(`${name} ${number}`.toLowerCase())) number++;
  return `${name} ${number}`;
}

/** With a slot that may be left out, or not any more. */
export const toggled = (patterns: readonly Pattern[], place: SlotPlace): Pattern[] =>
  changeSlot(patterns, place, (slot) =>
    slot.kind === 'list' ? { ...slot, optional: !slot.optional } : slot,
  );

/** With a pattern that is made in reverse order as well, or not any more. */
export const flippedAt = (patterns: readonly Pattern[], id: number): Pattern[] =>
  patterns.map((pattern) => (pattern.id === id ? { ...pattern, flip: !pattern.flip } : pattern));
