import { useId, useRef } from 'react';
import { useKeptField, wordsIn } from './use-kept-field.ts';
import { usePressElsewhere } from './use-press-elsewhere.ts';

type Props<T> = {
  label: string;
  /** What the chip reads as while it is closed. */
  shown: string;
  text: string;
  placeholder: string;
  help: string;
  /** What is typed as a value, or what is wrong with it, with what could be typed instead. */
  read: (typed: string) => { value: T } | { words: string; offers?: { words: string; typed: string }[] };
  onKeep: (value: T) => Promise<string | null>;
};

/** A list inside of a sentence: it opens to be typed or pasted, one to a line, and is kept when it is left. */
export function LinesChip<T>({ label, shown, text, placeholder, help, read, onKeep }: Props<T>) {
  const box = useRef<HTMLSpanElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  const id = useId();
  const field = useKeptField(
    text,
    (lines) => {
      const result = read(lines);
      return 'words' in result ? Promise.resolve(result.words) : onKeep(result.value);
    },
    { check: (lines) => wordsIn(read(lines)) },
  );
  const { typed, type, open, refusal: words } = field;
  const result = typed === null ? null : read(typed);
  const offers = (result && 'offers' in result && result.offers) || [];
  const keep = () => {
    field.keep();
    button.current?.focus();
  };
  const close = () => {
    field.close();
    button.current?.focus();
  };
  usePressElsewhere(box, typed !== null, keep);
  return (
    <span ref={box} className="relative inline-block">
      <button
        ref={button}
        type="button"
        className={`chip ${text === '' ? 'chip-off' : ''}`}
        aria-label={`${label}: ${shown}`}
        aria-expanded={typed !== null}
        onClick={() => (typed === null ? open() : keep())}
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
            onChange={(event) => type(event.target.value)}
            onKeyDown={(event) => {
              event.stopPropagation();
              if (event.key === 'Escape') close();
              else if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) keep();
            }}
          />
          {offers.length > 0 && (
            <span className="flex flex-wrap gap-1">
              {offers.map((offer) => (
                <button
                  key={offer.words}
                  type="button"
                  className="btn btn-xs font-normal"
                  onClick={() => type(offer.typed)}
                >
                  {offer.words}
                </button>
              ))}
            </span>
          )}
          <span className="flex items-start justify-between gap-2">
            <span
              id={id}
              role={words ? 'alert' : undefined}
              className={`text-[12px] ${words ? 'text-error' : 'text-faint'}`}
            >
              {words ?? help}
            </span>
            <button type="button" className="btn btn-primary btn-xs" onClick={keep}>
              Keep
            </button>
          </span>
        </span>
      )}
    </span>
  );
}
