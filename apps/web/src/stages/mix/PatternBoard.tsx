import {
  type CollisionDetection,
  DndContext,
  type DragEndEvent,
  type DragOverEvent,
  DragOverlay,
  type DragStartEvent,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { type Pattern, type Recipe, type ShapeKey, type Slot, shapes } from '@sprig/core/mix';
import { Plus } from 'lucide-react';
import { type KeyboardEvent, type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { Menu } from '../../kit/Menu.tsx';
import type { MixSummary } from '../../pool/mixing.ts';
import { mixProblemWords } from './mix-words.ts';
import { PatternLine } from './PatternLine.tsx';
import {
  addPattern,
  addSlot,
  flippedAt,
  moved,
  moveSlot,
  removeSlot,
  type SlotPlace,
  toggled,
} from './recipe-edits.ts';
import type { MixCounts } from './use-counts.ts';

type Dragged = { kind: 'slot'; pattern: number; at: number } | { kind: 'list'; list: number };
type Over = { kind: 'slot'; pattern: number; at: number } | { kind: 'row'; pattern: number };

type Props = {
  recipe: Recipe;
  counts: MixCounts;
  summary: MixSummary | undefined;
  /** Keeps the patterns as they are now. */
  onPatterns: (patterns: Pattern[]) => Promise<string | null>;
  /** Adds a row of a ready-made shape, with the lists that it needs. */
  onShape: (shape: ShapeKey) => void;
  /** What stands beside the button that adds a pattern. */
  foot: ReactNode;
  /** The lists, which can be dragged into a pattern. */
  children: ReactNode;
};

/** The patterns as rows of slots, to be built by dragging or from the keyboard. */
export function PatternBoard({ recipe, counts, summary, onPatterns, onShape, foot, children }: Props) {
  const { patterns } = recipe;
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const [dragged, setDragged] = useState<Dragged | null>(null);
  /** The patterns as they would be if the slot were let go of here: their sample shows it at once. */
  const [prospect, setProspect] = useState<Pattern[] | null>(null);
  const [justMade, setJustMade] = useState<number | null>(null);
  const focus = useRef<string | null>(null);
  // Before the next key, and not before the slots stand where they were moved.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it waits for the patterns that were kept
  useLayoutEffect(() => {
    if (focus.current) focusSlot(focus.current);
    focus.current = null;
  }, [patterns]);
  const nameOf = (list: number) => counts.lists.find(({ id }) => id === list)?.name ?? 'A list that is gone';
  const keep = (next: Pattern[], focusOn?: SlotPlace) => {
    if (focusOn && JSON.stringify(next) !== JSON.stringify(patterns))
      focus.current = `${focusOn.pattern}:${focusOn.at}`;
    return onPatterns(next);
  };

  const landed = (drag: Dragged, over: Over): Pattern[] => {
    const target = patterns.find(({ id }) => id === over.pattern);
    const end = target?.slots.length ?? 0;
    const to = { pattern: over.pattern, at: over.kind === 'slot' ? over.at : end };
    return drag.kind === 'list'
      ? addSlot(patterns, to, { kind: 'list', list: drag.list, optional: false })
      : moveSlot(patterns, drag, to);
  };
  const onDragStart = ({ active }: DragStartEvent) => setDragged(active.data.current as Dragged);
  const onDragOver = ({ active, over }: DragOverEvent) =>
    setProspect(
      over?.data.current ? landed(active.data.current as Dragged, over.data.current as Over) : null,
    );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    setDragged(null);
    setProspect(null);
    const drag = active.data.current as Dragged;
    if (over?.data.current) void keep(landed(drag, over.data.current as Over));
  };

  const onSlotKey = (event: KeyboardEvent, place: SlotPlace, slots: readonly Slot[]) => {
    const { pattern, at } = place;
    if (event.target instanceof HTMLInputElement) return event.stopPropagation();
    const steps: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1 };
    const step = steps[event.key] ?? 0;
    const row = patterns.findIndex(({ id }) => id === pattern);
    if (step !== 0 && event.altKey) {
      const to = at + step;
      if (to >= 0 && to < slots.length)
        void keep(moveSlot(patterns, place, { pattern, at: to }), { pattern, at: to });
    } else if (step !== 0) {
      focusSlot(`${pattern}:${at + step}`);
    } else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      void keep(moved(patterns, row, row + (event.key === 'ArrowUp' ? -1 : 1)), place);
    } else if (event.key === 'o') {
      void keep(toggled(patterns, place), place);
    } else if (event.key === 'f') {
      void keep(flippedAt(patterns, pattern), place);
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      void keep(removeSlot(patterns, place), { pattern, at: Math.max(0, at - 1) });
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const shown = prospect ?? patterns;
  const lists = counts.lists.map(({ id, name }) => ({ id, name, size: counts.sizeOf(id) }));
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={underPointer}
      onDragStart={onDragStart}
      onDragOver={onDragOver}
      onDragEnd={onDragEnd}
      onDragCancel={() => {
        setDragged(null);
        setProspect(null);
      }}
    >
      {children}
      <section aria-label="Patterns" className="shrink-0 border-hair border-b py-1.5">
        <div className="max-h-[190px] overflow-y-auto px-4">
          {patterns.map((pattern, row) => {
            const would = shown.find(({ id }) => id === pattern.id) ?? pattern;
            const problem = summary?.problems.find((one) => 'pattern' in one && one.pattern === pattern.id);
            const made = summary?.byPattern.find(({ id }) => id === pattern.id)?.made;
            return (
              <PatternLine
                key={pattern.id}
                pattern={pattern}
                would={would}
                number={row + 1}
                counts={counts}
                lists={lists}
                nameOf={nameOf}
                words={problem ? mixProblemWords(problem, nameOf) : null}
                made={prospect ? undefined : made}
                isNew={justMade === pattern.id}
                patterns={patterns}
                onSlotKey={onSlotKey}
                onKeep={keep}
                onPatterns={onPatterns}
                onCopy={() => {
                  const next = addPattern(patterns, structuredClone(pattern.slots));
                  setJustMade(next.at(-1)?.id ?? null);
                  void onPatterns(next);
                }}
              />
            );
          })}
        </div>
        <div className="flex items-start gap-4 pt-1 pr-4 pl-3">
          <Menu
            label="Add a pattern"
            className="btn btn-ghost btn-xs"
            items={[
              {
                words: 'An empty row',
                run: () => {
                  const next = addPattern(patterns);
                  setJustMade(next.at(-1)?.id ?? null);
                  void onPatterns(next);
                },
              },
              ...shapes.map(({ key, name }) => ({ words: name, run: () => onShape(key) })),
            ]}
          >
            <Plus size={13} aria-hidden /> Add a pattern
          </Menu>
          {foot}
        </div>
      </section>
      <DragOverlay dropAnimation={null}>
        {dragged?.kind === 'list' && (
          <span className="inline-flex h-[27px] items-center rounded-md border border-primary bg-wash px-2 font-semibold">
            {nameOf(dragged.list)}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** What is under the pointer, a slot before the row that it stands in; let go of elsewhere, nothing moves. */
const underPointer: CollisionDetection = (args) => {
  const hits = pointerWithin(args);
  const slots = hits.filter(({ data }) => data?.droppableContainer.data.current?.kind === 'slot');
  return slots.length > 0 ? slots : hits;
};

function focusSlot(id: string) {
  const slot = document.querySelector<HTMLElement>(`[data-slot="${id}"]`);
  (slot?.matches('button') ? slot : slot?.querySelector('button'))?.focus();
}
