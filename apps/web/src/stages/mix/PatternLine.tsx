import { useDroppable } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext } from '@dnd-kit/sortable';
import { joiningWord, type Pattern, type Slot } from '@sprig/core/mix';
import { ArrowLeftRight, Copy, X } from 'lucide-react';
import type { KeyboardEvent, ReactNode } from 'react';
import { AddSlot } from './AddSlot.tsx';
import { large } from './mix-words.ts';
import { addSlot, changeSlot, flippedAt, removeSlot, type SlotPlace, toggled } from './recipe-edits.ts';
import { SlotChip } from './SlotChip.tsx';
import { firstOf, type MixCounts } from './use-counts.ts';

const readWord = (typed: string) => {
  const word = joiningWord(typed);
  return word === null
    ? { words: `“${typed}” can’t stand in a keyword. Type a word or two.` }
    : { value: word as string };
};

type Props = {
  pattern: Pattern;
  /** As it would be with what is dragged now. */
  would: Pattern;
  number: number;
  counts: MixCounts;
  lists: readonly { id: number; name: string; size: number }[];
  nameOf: (list: number) => string;
  /** What is wrong with it; null: nothing. */
  words: string | null;
  made: number | undefined;
  isNew: boolean;
  patterns: Pattern[];
  onSlotKey: (event: KeyboardEvent, place: SlotPlace, slots: readonly Slot[]) => void;
  onKeep: (next: Pattern[], focusOn?: SlotPlace) => Promise<string | null>;
  onPatterns: (next: Pattern[]) => Promise<string | null>;
  onCopy: () => void;
};

/** A pattern as a row of slots, with how many combinations it makes. */
export function PatternLine(props: Props) {
  const { pattern, would, number, counts, lists, nameOf, words, made, isNew, patterns } = props;
  const { onSlotKey, onKeep, onPatterns, onCopy } = props;
  return (
    <PatternRow pattern={pattern} number={number}>
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
              onToggle={() => void onKeep(toggled(patterns, place), place)}
              readWord={readWord}
              onWord={(text) =>
                onKeep(
                  changeSlot(patterns, place, () => ({ kind: 'word', text })),
                  place,
                )
              }
            />
          );
        })}
      </SortableContext>
      <AddSlot
        label={`Add to pattern ${number}`}
        lists={lists}
        autoFocus={isNew}
        onAdd={(slot) =>
          void onPatterns(addSlot(patterns, { pattern: pattern.id, at: pattern.slots.length }, slot))
        }
        onRemoveLast={() =>
          void onPatterns(removeSlot(patterns, { pattern: pattern.id, at: pattern.slots.length - 1 }))
        }
      />
      <span className="ml-auto flex min-w-0 items-center gap-2 pl-3">
        <span
          className={`min-w-0 truncate ${words !== null ? 'text-error' : 'text-faint'}`}
          data-sample={number}
        >
          {words}
          {words === null && would.slots.length > 0 && firstOf(would, counts.lists)}
        </span>
        <span className="shrink-0 text-right" title="Combinations before anything is dropped">
          <b data-count={number}>{large(counts.of(would))}</b>{' '}
          {made !== undefined && BigInt(made) !== counts.of(would) && (
            <span className="text-[12px] text-faint">{made.toLocaleString('en-GB')} made</span>
          )}
        </span>
        <button
          type="button"
          aria-pressed={pattern.flip}
          disabled={pattern.slots.length < 2}
          title="Flip: the same in reverse order as well (f)"
          aria-label={`Flip pattern ${number}: the same in reverse order as well`}
          className={`chip ${pattern.flip ? '' : 'chip-off'} disabled:opacity-40`}
          onClick={() => void onPatterns(flippedAt(patterns, pattern.id))}
        >
          <ArrowLeftRight size={13} aria-hidden /> flip
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-square btn-xs"
          aria-label={`Copy pattern ${number}`}
          title="Copy this pattern"
          onClick={onCopy}
        >
          <Copy size={13} />
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-square btn-xs"
          aria-label={`Remove pattern ${number}`}
          title="Remove this pattern"
          onClick={() => void onPatterns(patterns.filter(({ id }) => id !== pattern.id))}
        >
          <X size={14} />
        </button>
      </span>
    </PatternRow>
  );
}

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
