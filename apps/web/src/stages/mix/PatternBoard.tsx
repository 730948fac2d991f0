import {
  type CollisionDetection,
  DndContext,
  type DragEndEvent,
  type DragOverEvent,
  DragOverlay,
  type DragStartEvent,
  PointerSensor,
  pointerWithin,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext } from '@dnd-kit/sortable';
import { joiningWord, type Pattern, type Recipe, type ShapeKey, type Slot, shapes } from '@sprig/core/mix';
import { ArrowLeftRight, Copy, Plus, X } from 'lucide-react';
import { type KeyboardEvent, type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { Menu } from '../../kit/Menu.tsx';
import type { MixSummary } from '../../pool/mixing.ts';
import { AddSlot } from './AddSlot.tsx';
import { large, mixProblemWords } from './mix-words.ts';
import {
  addPattern,
  addSlot,
  changeSlot,
  moved,
  moveSlot,
  removeSlot,
  type SlotPlace,
} from './recipe-edits.ts';
import { SlotChip } from './SlotChip.tsx';
import { firstOf, type MixCounts } from './use-counts.ts';

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

const readWord = (typed: string) => {
  const word = joiningWord(typed);
  return word === null
    ? { words: `“${typed}” can’t stand in a keyword. Type a word or two.` }
    : { value: word as string };
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
              <PatternRow key={pattern.id} pattern={pattern} number={row + 1}>
                <SortableContext
                  items={pattern.slots.map((_, at) => `${pattern.id}:${at}`)}
                  strategy={horizontalListSortingStrategy}
                >
                  {pattern.slots.map((slot, at) => {
                    const place = { pattern: pattern.id, at };
                    const size = slot.kind === 'list' ? counts.sizeOf(slot.list) : 1;
                    return (
                      <SlotChip
                        // biome-ignore lint/suspicious/noArrayIndexKey: a slot is its place; the same list may come twice
                        key={`${pattern.id}:${at}`}
                        id={`${pattern.id}:${at}`}
                        {...place}
                        of={pattern.slots.length}
                        slot={slot}
                        name={slot.kind === 'list' ? nameOf(slot.list) : slot.text}
                        size={size}
                        isEmpty={slot.kind === 'list' && size === 0 && !slot.optional}
                        onKey={(event) => onSlotKey(event, place, pattern.slots)}
                        onToggle={() => void keep(toggled(patterns, place), place)}
                        readWord={readWord}
                        onWord={(text) =>
                          keep(
                            changeSlot(patterns, place, () => ({ kind: 'word', text })),
                            place,
                          )
                        }
                      />
                    );
                  })}
                </SortableContext>
                <AddSlot
                  label={`Add to pattern ${row + 1}`}
                  lists={lists}
                  autoFocus={justMade === pattern.id}
                  onAdd={(slot) =>
                    void onPatterns(
                      addSlot(patterns, { pattern: pattern.id, at: pattern.slots.length }, slot),
                    )
                  }
                  onRemoveLast={() =>
                    void onPatterns(
                      removeSlot(patterns, { pattern: pattern.id, at: pattern.slots.length - 1 }),
                    )
                  }
                />
                <span className="ml-auto flex min-w-0 items-center gap-2 pl-3">
                  <span
                    className={`min-w-0 truncate ${problem ? 'text-error' : 'text-faint'}`}
                    data-sample={row + 1}
                  >
                    {problem && mixProblemWords(problem, nameOf)}
                    {!problem && would.slots.length > 0 && firstOf(would, counts.lists)}
                  </span>
                  <span className="shrink-0 text-right" title="Combinations before anything is dropped">
                    <b data-count={row + 1}>{large(counts.of(would))}</b>{' '}
                    {made !== undefined && BigInt(made) !== counts.of(would) && !prospect && (
                      <span className="text-[12px] text-faint">{made.toLocaleString('en-GB')} made</span>
                    )}
                  </span>
                  <button
                    type="button"
                    aria-pressed={pattern.flip}
                    disabled={pattern.slots.length < 2}
                    title="Flip: the same in reverse order as well (f)"
                    aria-label={`Flip pattern ${row + 1}: the same in reverse order as well`}
                    className={`chip ${pattern.flip ? '' : 'chip-off'} disabled:opacity-40`}
                    onClick={() => void onPatterns(flippedAt(patterns, pattern.id))}
                  >
                    <ArrowLeftRight size={13} aria-hidden /> flip
                  </button>
                  <button
                    type="button"
                    className="btn btn-ghost btn-square btn-xs"
                    aria-label={`Copy pattern ${row + 1}`}
                    title="Copy this pattern"
                    onClick={() => {
                      const slots = structuredClone(pattern.slots);
                      const next = addPattern(patterns, slots);
                      setJustMade(next.at(-1)?.id ?? null);
                      void onPatterns(next);
                    }}
                  >
                    <Copy size={13} />
                  </button>
                  <button
                    type="button"
                    className="btn btn-ghost btn-square btn-xs"
                    aria-label={`Remove pattern ${row + 1}`}
                    title="Remove this pattern"
                    onClick={() => void onPatterns(patterns.filter(({ id }) => id !== pattern.id))}
                  >
                    <X size={14} />
                  </button>
                </span>
              </PatternRow>
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

/** A row that slots can be let go of in, at its end. */
function PatternRow({
  pattern,
  number,
  children,
}: {
  pattern: Pattern;
  number: number;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({
    id: `row ${pattern.id}`,
    data: { kind: 'row', pattern: pattern.id },
  });
  return (
    <div
      ref={setNodeRef}
      role="group"
      aria-label={`Pattern ${number}`}
      className={`flex min-h-[34px] flex-wrap items-center gap-1.5 border-base-200 border-b py-[3px] ${isOver ? 'bg-wash' : ''}`}
    >
      <span className="w-5 shrink-0 text-right text-[12px] text-faint">{number}</span>
      {children}
    </div>
  );
}

function focusSlot(id: string) {
  const slot = document.querySelector<HTMLElement>(`[data-slot="${id}"]`);
  (slot?.matches('button') ? slot : slot?.querySelector('button'))?.focus();
}

const toggled = (patterns: readonly Pattern[], place: SlotPlace): Pattern[] =>
  changeSlot(patterns, place, (slot) =>
    slot.kind === 'list' ? { ...slot, optional: !slot.optional } : slot,
  );

const flippedAt = (patterns: readonly Pattern[], id: number): Pattern[] =>
  patterns.map((pattern) => (pattern.id === id ? { ...pattern, flip: !pattern.flip } : pattern));
