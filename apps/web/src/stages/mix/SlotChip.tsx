import { useSortable } from '@dnd-kit/sortable';
import type { Slot } from '@sprig/core/mix';
import type { KeyboardEvent } from 'react';
import { TextChip } from '../../kit/chips.tsx';

type Props = {
  id: string;
  pattern: number;
  at: number;
  of: number;
  slot: Slot;
  name: string;
  size: number;
  isEmpty: boolean;
  onKey: (event: KeyboardEvent) => void;
  onToggle: () => void;
  onWord: (text: string) => Promise<string | null>;
  readWord: (typed: string) => { value: string } | { words: string };
};

/** One slot of a pattern: a list, with a dashed edge where it is optional, or a joining word. */
export function SlotChip(props: Props) {
  const { id, pattern, at, of, slot, name, size, isEmpty, onKey, onToggle, onWord, readWord } = props;
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({
    id,
    data: { kind: 'slot', pattern, at },
  });
  const style = {
    transform: transform ? `translate(${transform.x}px, ${transform.y}px)` : undefined,
    transition,
    zIndex: isDragging ? 20 : undefined,
  };
  const place = `slot ${at + 1} of ${of}`;
  if (slot.kind === 'word')
    return (
      <span ref={setNodeRef} style={style} {...listeners} className="relative inline-flex touch-none">
        {/* biome-ignore lint/a11y/noStaticElementInteractions: keys of the chip inside, which takes the focus */}
        <span data-slot={id} onKeyDown={onKey}>
          <TextChip
            label={`Joining word, ${place}`}
            value={slot.text}
            shown={<span className="italic">{slot.text}</span>}
            read={readWord}
            onKeep={(value) => onWord(String(value))}
            width={5}
          />
        </span>
      </span>
    );
  return (
    <span ref={setNodeRef} style={style} {...listeners} className="relative inline-flex touch-none">
      <button
        type="button"
        data-slot={id}
        aria-label={`${name}, ${slot.optional ? 'optional' : 'required'}, ${place}`}
        title={`${name}: ${slot.optional ? 'may be left out' : 'always there'}. o changes that, Alt with ← → moves, Delete takes it out.`}
        className={`inline-flex h-[27px] cursor-grab items-center gap-1.5 rounded-md border px-2 font-semibold ${
          slot.optional ? 'border-primary/60 border-dashed bg-base-100' : 'border-primary/40 bg-wash'
        } ${isEmpty ? 'border-error text-error' : ''}`}
        onKeyDown={onKey}
        onDoubleClick={onToggle}
      >
        {name}
        <span className="font-normal text-[12px] text-faint">
          {size.toLocaleString('en-GB')}
          {slot.optional ? ' or none' : ''}
        </span>
      </button>
    </span>
  );
}
