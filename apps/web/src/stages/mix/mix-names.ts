import { type Recipe, type ShapeKey, shapes } from '@sprig/core/mix';

/** Lists that stand in a pattern, in the order in which they first do. */
export const usedLists = ({ patterns }: Recipe): number[] => [
  ...new Set(
    patterns.flatMap(({ slots }) => slots.flatMap((slot) => (slot.kind === 'list' ? [slot.list] : []))),
  ),
];

export const nameOfShape = (key: ShapeKey): string => {
  const name = shapes.find((shape) => shape.key === key)?.name ?? '';
  return name.charAt(0).toUpperCase() + name.slice(1);
};
