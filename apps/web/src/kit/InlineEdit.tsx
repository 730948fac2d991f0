import { type ReactNode, useRef, useState } from 'react';

type Props = {
  label: string;
  shown: ReactNode;
  /** What stands in the field when it opens. */
  text: string;
  /** Keeps what was typed; answers the words of a refusal, or null. */
  onKeep: (typed: string) => Promise<string | null>;
  onType?: (typed: string) => void;
  onLeave?: () => void;
  right?: boolean;
  wide?: boolean;
  /** Reached by Tab by itself; in a table the row's Enter opens it instead. */
  tabStop?: boolean;
};

/** A value that becomes a field when it is clicked or Enter is pressed on it. A refused value stays as typed. */
export function InlineEdit({ label, shown, text, onKeep, onType, onLeave, right, wide, tabStop }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const leaving = useRef(false);
  const close = () => {
    setTyped(null);
    setRefusal(null);
    onLeave?.();
  };
  const keep = async () => {
    if (leaving.current || typed === null) return;
    if (typed === text) return close();
    leaving.current = true;
    const words = await onKeep(typed);
    leaving.current = false;
    if (words === null) close();
    else setRefusal(words);
  };
  if (typed === null)
    return (
      <button
        type="button"
        data-edit
        tabIndex={tabStop ? 0 : -1}
        aria-label={`Edit ${label}`}
        className={`max-w-full cursor-text truncate rounded px-1 hover:bg-base-300/60 ${right ? 'text-right' : 'text-left'}`}
        onClick={() => setTyped(text)}
      >
        {shown}
      </button>
    );
  return (
    <span className="relative inline-block w-full">
      <input
        // The user has just asked for this field.
        // biome-ignore lint/a11y/noAutofocus: opened by the user's own click or key
        autoFocus
        aria-label={label}
        aria-invalid={refusal !== null}
        className={`plain-field w-full rounded bg-base-100 px-1 ring-1 ${refusal ? 'ring-error' : 'ring-primary'} ${right ? 'text-right' : ''} ${wide ? 'min-w-72' : ''}`}
        value={typed}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setTyped(event.target.value);
          setRefusal(null);
          onType?.(event.target.value);
        }}
        onBlur={() => void keep()}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') void keep();
          else if (event.key === 'Escape') close();
        }}
      />
      {refusal && (
        <span
          role="alert"
          className="absolute top-full right-0 z-30 mt-1 w-72 whitespace-normal rounded border border-error bg-base-100 px-2 py-1 text-left text-error text-xs"
        >
          {refusal}
        </span>
      )}
    </span>
  );
}
