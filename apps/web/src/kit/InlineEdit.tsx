import { type ReactNode, useEffect, useState } from 'react';
import { useMayEdit } from './allowed.tsx';
import { isGrid } from './table/cells.ts';
import { useKeptField } from './use-kept-field.ts';

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

/**
 * A value that becomes a field when it is clicked or Enter is pressed on it. It closes as soon as what was typed is on
 * its way, so that no key goes into a field which is about to close. A refused value opens it again, as typed.
 */
export function InlineEdit(props: Props) {
  // A table draws hundreds: while nothing is typed or on its way it is a button and no more.
  const [isBusy, setBusy] = useState(false);
  const mayEdit = useMayEdit();
  if (!mayEdit)
    return (
      <span className={`block max-w-full truncate px-1 ${props.right ? 'text-right' : 'text-left'}`}>
        {props.shown}
      </span>
    );
  return isBusy ? (
    <Editing {...props} onDone={() => setBusy(false)} />
  ) : (
    <Closed {...props} onOpen={() => setBusy(true)} />
  );
}

const Closed = ({ label, shown, right, tabStop, onOpen }: Props & { onOpen: () => void }) => (
  <button
    type="button"
    data-edit
    tabIndex={tabStop ? 0 : -1}
    aria-label={`Edit ${label}`}
    className={`max-w-full cursor-text truncate rounded px-1 hover:bg-base-300/60 ${right ? 'text-right' : 'text-left'}`}
    onClick={onOpen}
  >
    {shown}
  </button>
);

function Editing({ onDone, ...props }: Props & { onDone: () => void }) {
  const { label, shown, text, onKeep, onType, onLeave, right, wide } = props;
  const { typed, type, open, close, keep, pending, refusal } = useKeptField(text, onKeep, {
    onLeave,
    isOpen: true,
    follows: onType !== undefined,
  });
  const isDone = typed === null && pending === null && refusal === null;
  useEffect(() => {
    if (isDone) onDone();
  });
  if (typed === null) return <Closed {...props} shown={pending ?? shown} onOpen={open} />;
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
          type(event.target.value);
          onType?.(event.target.value);
        }}
        onBlur={keep}
        onPaste={(event) => {
          // Several cells go into the table around it, from this one on; a field would string them together.
          if (isGrid(event.clipboardData.getData('text/plain')) && event.currentTarget.closest('[role=grid]'))
            close();
        }}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') keep();
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
