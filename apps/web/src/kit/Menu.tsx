import { type ReactNode, useEffect, useRef, useState } from 'react';
import { useAnchored } from './anchored.ts';
import { usePressElsewhere } from './use-press-elsewhere.ts';

export type MenuItem = { words: string; hint?: string; disabled?: boolean; run: () => void };

type Props = { label: string; className: string; items: MenuItem[]; children: ReactNode; width?: number };

/** A button with a few things to do under it; arrows, Home, End and first letters move, Esc closes. */
export function Menu({ label, className, items, children, width = 240 }: Props) {
  const [isOpen, setOpen] = useState(false);
  const box = useRef<HTMLSpanElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (!isOpen) return;
    box.current?.querySelector<HTMLElement>('[role=menuitem]:not(:disabled)')?.focus();
  }, [isOpen]);
  usePressElsewhere(box, isOpen, () => setOpen(false));
  const style = useAnchored(button, isOpen, width);
  const all = () => [...(box.current?.querySelectorAll<HTMLElement>('[role=menuitem]:not(:disabled)') ?? [])];
  const move = (by: number) => {
    const list = all();
    const at = list.indexOf(document.activeElement as HTMLElement);
    list[(at + by + list.length) % list.length]?.focus();
  };
  /** The next one after that in focus whose words begin with a letter. */
  const find = (letter: string) => {
    const list = all();
    const at = list.indexOf(document.activeElement as HTMLElement);
    const after = [...list.slice(at + 1), ...list.slice(0, at + 1)];
    after.find(({ textContent }) => textContent?.toLowerCase().startsWith(letter.toLowerCase()))?.focus();
  };
  return (
    <span ref={box} className="relative inline-block shrink-0">
      <button
        ref={button}
        type="button"
        className={className}
        aria-label={label}
        title={label}
        aria-haspopup="menu"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
      >
        {children}
      </button>
      {isOpen && (
        <div
          role="menu"
          aria-label={label}
          tabIndex={-1}
          style={style}
          className="z-40 flex flex-col overflow-auto rounded-md border border-hair bg-base-100 p-1 font-normal shadow-sm"
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'ArrowDown') move(1);
            else if (event.key === 'ArrowUp') move(-1);
            else if (event.key === 'Home') all()[0]?.focus();
            else if (event.key === 'End') all().at(-1)?.focus();
            else if (event.key === 'Tab') return setOpen(false);
            else if (event.key === 'Escape') {
              setOpen(false);
              button.current?.focus();
            } else if (/^\p{L}$/u.test(event.key) && !event.ctrlKey && !event.metaKey) find(event.key);
            else return;
            event.preventDefault();
          }}
        >
          {items.map(({ words, hint, disabled, run }) => (
            <button
              key={words}
              type="button"
              role="menuitem"
              disabled={disabled}
              className="flex justify-between gap-4 rounded px-2 py-1 text-left hover:bg-wash focus:bg-wash disabled:text-faint"
              onClick={() => {
                setOpen(false);
                button.current?.focus();
                run();
              }}
            >
              <span>{words}</span>
              {hint && <span className="text-[12px] text-faint">{hint}</span>}
            </button>
          ))}
        </div>
      )}
    </span>
  );
}
