import { joiningWord, type Slot } from '@sprig/core/mix';
import { useId, useRef, useState } from 'react';
import { useAnchored } from '../../kit/anchored.ts';

type Choice = { key: string; words: string; hint: string; slot: Slot | null };

type Props = {
  label: string;
  lists: readonly { id: number; name: string; size: number }[];
  autoFocus: boolean;
  onAdd: (slot: Slot) => void;
  onRemoveLast: () => void;
};

/** Adds to a pattern from the keyboard: part of a list's name, or a joining word, and Enter. */
export function AddSlot({ label, lists, autoFocus, onAdd, onRemoveLast }: Props) {
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const [isOpen, setOpen] = useState(false);
  const id = useId();
  const field = useRef<HTMLInputElement>(null);
  const style = useAnchored(field, isOpen, 256);
  const choices = choicesOf(typed, lists);
  const chosen = Math.min(at, choices.length - 1);
  const add = (choice: Choice | undefined) => {
    if (!choice?.slot) return;
    onAdd(choice.slot);
    setTyped('');
    setAt(0);
  };
  return (
    <span className="relative inline-block">
      <input
        ref={field}
        // biome-ignore lint/a11y/noAutofocus: the pattern was just made by the user, to be filled here
        autoFocus={autoFocus}
        role="combobox"
        aria-label={label}
        aria-expanded={isOpen}
        aria-controls={id}
        aria-activedescendant={isOpen && choices[chosen] ? `${id}-${chosen}` : undefined}
        aria-autocomplete="list"
        className="plain-field h-[27px] w-32 rounded-md px-2 placeholder:text-faint focus:bg-base-100 focus:ring-1 focus:ring-primary"
        placeholder="+ list or word"
        value={typed}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
          setOpen(true);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(choices.length - 1, chosen + 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(0, chosen - 1));
          else if (event.key === 'Enter') add(choices[chosen]);
          else if (event.key === 'Backspace' && typed === '') onRemoveLast();
          else if (event.key === 'Escape') {
            if (typed === '') event.currentTarget.blur();
            setTyped('');
          } else return;
          event.preventDefault();
        }}
      />
      {isOpen && choices.length > 0 && (
        <div
          id={id}
          role="listbox"
          style={style}
          className="z-30 overflow-auto rounded-md border border-hair bg-base-100 p-1 shadow-sm"
        >
          {choices.map((choice, index) => (
            // biome-ignore lint/a11y/useKeyWithClickEvents: the field answers the keyboard
            <div
              key={choice.key}
              id={`${id}-${index}`}
              role="option"
              aria-selected={index === chosen}
              className={`flex cursor-pointer justify-between gap-3 rounded px-2 py-1 ${index === chosen ? 'bg-wash' : ''}`}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => add(choice)}
            >
              <span className="truncate">{choice.words}</span>
              <span className="shrink-0 text-[12px] text-faint">{choice.hint}</span>
            </div>
          ))}
        </div>
      )}
    </span>
  );
}

/** Lists whose name begins with or holds what was typed, then the joining word that it would be. */
function choicesOf(typed: string, lists: Props['lists']): Choice[] {
  const wanted = typed.trim().toLowerCase();
  const found = lists
    .filter(({ name }) => name.toLowerCase().includes(wanted))
    .sort(
      (a, b) =>
        Number(b.name.toLowerCase().startsWith(wanted)) - Number(a.name.toLowerCase().startsWith(wanted)),
    )
    .map(
      ({ id, name, size }): Choice => ({
        key: `list ${id}`,
        words: name,
        hint: `${size.toLocaleString('en-GB')} words`,
        slot: { kind: 'list', list: id, optional: false },
      }),
    );
  if (wanted === '') return found;
  const word = joiningWord(typed);
  const asWord: Choice = {
    key: 'word',
    words: word ?? typed,
    hint: word ? 'joining word' : 'can’t stand in a keyword',
    slot: word ? { kind: 'word', text: word } : null,
  };
  return [...found, asWord];
}
