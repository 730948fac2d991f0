import { useLayoutEffect, useRef, useState } from 'react';
import { mentionAt } from './note-words.ts';

const SHOWN = 6;

type Props = {
  label: string;
  text: string;
  /** Who may be called by name. */
  names: readonly string[];
  placeholder?: string;
  onText: (text: string) => void;
  /** Ctrl and Enter. */
  onSend: () => void;
  onEscape?: () => void;
};

/** A text in which people are called by @ and their name. */
export function NoteText({ label, text, names, placeholder, onText, onSend, onEscape }: Props) {
  const field = useRef<HTMLTextAreaElement>(null);
  const [caret, setCaret] = useState(0);
  const [at, setAt] = useState(0);
  const [isShut, setShut] = useState(false);
  // Where the caret goes with the text that was put in: before the next key, or that would come to its end.
  const toStand = useRef<number | null>(null);
  useLayoutEffect(() => {
    if (toStand.current === null) return;
    field.current?.setSelectionRange(toStand.current, toStand.current);
    toStand.current = null;
  });
  const mention = isShut ? null : mentionAt(text, caret);
  const found = mention
    ? names.filter((name) => name.toLowerCase().startsWith(mention.typed.toLowerCase())).slice(0, SHOWN)
    : [];
  const isWhole = found.length === 1 && found[0]?.toLowerCase() === mention?.typed.toLowerCase();
  const choices = isWhole ? [] : found;
  const choose = (name: string) => {
    if (!mention) return;
    const next = `${text.slice(0, mention.from)}@${name} ${text.slice(caret)}`;
    const stands = mention.from + name.length + 2;
    onText(next);
    setCaret(stands);
    toStand.current = stands;
  };
  const shown = Math.min(at, choices.length - 1);
  return (
    <div className="relative">
      <textarea
        ref={field}
        aria-label={label}
        aria-autocomplete="list"
        // biome-ignore lint/a11y/noAutofocus: it was opened to be written in
        autoFocus
        className="textarea w-full text-[13px]"
        rows={3}
        maxLength={4_000}
        placeholder={placeholder}
        value={text}
        onChange={({ target }) => {
          setShut(false);
          setAt(0);
          setCaret(target.selectionStart);
          onText(target.value);
        }}
        onSelect={({ currentTarget }) => setCaret(currentTarget.selectionStart)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
            event.preventDefault();
            onSend();
            return;
          }
          if (event.key === 'Escape') {
            event.stopPropagation();
            if (choices.length > 0) setShut(true);
            else onEscape?.();
            return;
          }
          if (choices.length === 0) return;
          if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            const by = event.key === 'ArrowDown' ? 1 : -1;
            setAt((shown + by + choices.length) % choices.length);
          } else if (event.key === 'Enter' || event.key === 'Tab') {
            event.preventDefault();
            choose(choices[shown] as string);
          }
        }}
      />
      {choices.length > 0 && (
        <ul
          role="listbox"
          aria-label="Whom you mean"
          className="absolute top-full left-0 z-10 w-56 rounded-md border border-hair bg-base-100 p-1 text-[13px] shadow-sm"
        >
          {choices.map((name, place) => (
            <li
              key={name}
              role="option"
              aria-selected={place === shown}
              tabIndex={-1}
              className={`cursor-pointer truncate rounded px-2 py-0.5 ${place === shown ? 'bg-wash' : ''}`}
              onPointerDown={(event) => {
                event.preventDefault();
                choose(name);
              }}
            >
              {name}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
