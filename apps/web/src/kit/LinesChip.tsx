import { useEffect, useId, useRef, useState } from 'react';

type Props<T> = {
  label: string;
  /** What the chip reads as while it is closed. */
  shown: string;
  text: string;
  placeholder: string;
  help: string;
  read: (typed: string) => { value: T } | { words: string };
  onKeep: (value: T) => Promise<string | null>;
};

/** A list inside of a sentence: it opens to be typed or pasted, one to a line, and is kept when it is left. */
export function LinesChip<T>({ label, shown, text, placeholder, help, read, onKeep }: Props<T>) {
  const [typed, setTyped] = useState<string | null>(null);
  const [words, setWords] = useState<string | null>(null);
  const box = useRef<HTMLSpanElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  const busy = useRef(false);
  const id = useId();
  const close = () => {
    setTyped(null);
    setWords(null);
    button.current?.focus();
  };
  const keep = async () => {
    if (typed === null || busy.current) return;
    if (typed === text) return close();
    const result = read(typed);
    if ('words' in result) return setWords(result.words);
    busy.current = true;
    const refusal = await onKeep(result.value);
    busy.current = false;
    if (refusal) setWords(refusal);
    else close();
  };
  const leave = useRef(keep);
  leave.current = keep;
  useEffect(() => {
    if (typed === null) return;
    const onDown = (event: PointerEvent) => {
      if (!box.current?.contains(event.target as Node)) void leave.current();
    };
    window.addEventListener('pointerdown', onDown);
    return () => window.removeEventListener('pointerdown', onDown);
  }, [typed]);
  return (
    <span ref={box} className="relative inline-block">
      <button
        ref={button}
        type="button"
        className={`chip ${text === '' ? 'chip-off' : ''}`}
        aria-label={`${label}: ${shown}`}
        aria-expanded={typed !== null}
        onClick={() => (typed === null ? setTyped(text) : void keep())}
      >
        {shown}
      </button>
      {typed !== null && (
        <span className="absolute top-full left-0 z-30 mt-1 flex w-96 flex-col gap-1.5 rounded-md border border-hair bg-base-100 p-2.5 font-normal leading-5 shadow-sm">
          <textarea
            // biome-ignore lint/a11y/noAutofocus: opened by the user's own click or key
            autoFocus
            aria-label={label}
            aria-invalid={words !== null}
            aria-describedby={id}
            rows={Math.min(14, Math.max(5, typed.split('\n').length + 1))}
            className={`textarea w-full resize-y leading-5 ${words ? 'textarea-error' : ''}`}
            placeholder={placeholder}
            spellCheck={false}
            value={typed}
            onChange={(event) => {
              setTyped(event.target.value);
              const result = read(event.target.value);
              setWords('words' in result ? result.words : null);
            }}
            onKeyDown={(event) => {
              event.stopPropagation();
              if (event.key === 'Escape') close();
              else if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void keep();
            }}
          />
          <span className="flex items-start justify-between gap-2">
            <span
              id={id}
              role={words ? 'alert' : undefined}
              className={`text-[12px] ${words ? 'text-error' : 'text-faint'}`}
            >
              {words ?? help}
            </span>
            <button type="button" className="btn btn-primary btn-xs" onClick={() => void keep()}>
              Keep
            </button>
          </span>
        </span>
      )}
    </span>
  );
}
