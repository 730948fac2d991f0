import { type ReactNode, useState } from 'react';
import { counted } from '../../kit/format.ts';
import type { BuildActions } from './use-build.ts';

type Props = {
  keys: string[];
  word: string;
  held: number;
  actions: BuildActions;
  onBids?: () => void;
  onLetGo: () => void;
  /** What else there is to do, before the rest. */
  children?: ReactNode;
};

/** What can be done with what is selected in a table of campaigns, ad groups or keywords. */
export function BulkBar({ keys, word, held, actions, onBids, onLetGo, children }: Props) {
  const [labels, setLabels] = useState<string | null>(null);
  const words = counted(keys.length, word);
  const applyLabels = () => {
    const change = readLabels(labels ?? '');
    if (change.add.length + change.remove.length > 0) void actions.label(keys, change);
    setLabels(null);
  };
  return (
    <span className="ml-auto flex items-center gap-1" role="group" aria-label={`What to do with ${words}`}>
      {onBids && (
        <button type="button" className="btn btn-sm" onClick={onBids}>
          Bids of {words} <span className="key">b</span>
        </button>
      )}
      {children}
      <button
        type="button"
        className="btn btn-sm"
        onClick={() => void actions.many(keys, 'status', 'paused', `Paused ${words}.`)}
      >
        Pause <span className="key">p</span>
      </button>
      <button
        type="button"
        className="btn btn-sm"
        onClick={() => void actions.many(keys, 'status', 'enabled', `Enabled ${words}.`)}
      >
        Enable <span className="key">e</span>
      </button>
      {labels === null ? (
        <button type="button" className="btn btn-sm" onClick={() => setLabels('')}>
          Label
        </button>
      ) : (
        <input
          // biome-ignore lint/a11y/noAutofocus: opened by the user's own click or key
          autoFocus
          aria-label={`Labels of ${words}`}
          className="input input-sm w-40"
          placeholder="give, -take away"
          title="Labels to give, with commas between them; a - before one takes it away. Others stay."
          value={labels}
          onChange={({ target }) => setLabels(target.value)}
          onBlur={applyLabels}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Escape') setLabels(null);
            if (event.key === 'Enter') applyLabels();
          }}
        />
      )}
      {held > 0 && (
        <button type="button" className="btn btn-sm" onClick={onLetGo}>
          Let {counted(held, 'value')} go <span className="key">l</span>
        </button>
      )}
    </span>
  );
}

/** `spring, -test` gives one label and takes another away. */
export function readLabels(typed: string): { add: string[]; remove: string[] } {
  const parts = typed
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '' && part !== '-');
  const remove = parts.filter((part) => part.startsWith('-')).map((part) => part.slice(1).trim());
  return { add: parts.filter((part) => !part.startsWith('-')), remove };
}
