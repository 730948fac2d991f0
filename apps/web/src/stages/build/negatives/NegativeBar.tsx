import type { NegativesChange } from '@sprig/contracts';
import { type NegativeType, negativeTypes } from '@sprig/core/match';
import { counted } from '../../../kit/format.ts';

type Props = {
  keys: readonly string[];
  campaigns: readonly { key: string; name: string }[];
  /** Why fences are to be taken away, while that is asked. */
  reason: string | null;
  onReason: (reason: string | null) => void;
  onChange: (change: NegativesChange) => void;
  onTakeAway: () => void;
};

/** What can be done with selected negatives; before fences are taken away it is asked why. */
export function NegativeBar({ keys, campaigns, reason, onReason, onChange, onTakeAway }: Props) {
  const words = counted(keys.length, 'negative');
  if (reason !== null)
    return (
      <form
        className="ml-auto flex items-center gap-1"
        onSubmit={(event) => {
          event.preventDefault();
          if (reason.trim() !== '') onChange({ kind: 'remove', reason });
        }}
      >
        <input
          // biome-ignore lint/a11y/noAutofocus: opened by the user's own click or key
          autoFocus
          aria-label="Why these fences are taken away"
          className="input input-sm w-72"
          placeholder="Why? It is kept with them."
          value={reason}
          onChange={({ target }) => onReason(target.value)}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Escape') onReason(null);
          }}
        />
        <button type="submit" className="btn btn-primary btn-sm" disabled={reason.trim() === ''}>
          Take {words} away for good
        </button>
      </form>
    );
  return (
    <span className="ml-auto flex items-center gap-1" role="group" aria-label={`What to do with ${words}`}>
      <select
        className="plain-field chip"
        aria-label="Match type of the selection"
        value=""
        onChange={({ target }) => onChange({ kind: 'type', type: target.value as NegativeType })}
      >
        <option value="">make them …</option>
        {negativeTypes.map((type) => (
          <option key={type} value={type}>
            {type}
          </option>
        ))}
      </select>
      <select
        className="plain-field chip max-w-44"
        aria-label="Where the selection is to stand"
        value=""
        onChange={({ target }) => onChange(moveTo(target.value))}
      >
        <option value="">move them …</option>
        <option value="plan">to all campaigns</option>
        <option value="campaign">from ad groups to their campaigns</option>
        {campaigns.map(({ key, name }) => (
          <option key={key} value={key}>
            to {name}
          </option>
        ))}
      </select>
      <button type="button" className="btn btn-sm" onClick={onTakeAway}>
        Take {words} away <span className="key">d</span>
      </button>
      {keys.some((key) => key.startsWith('o')) && (
        <button type="button" className="btn btn-sm" onClick={() => onChange({ kind: 'back' })}>
          Put back
        </button>
      )}
    </span>
  );
}

const moveTo = (where: string): NegativesChange =>
  where === 'plan' || where === 'campaign' ? { kind: where } : { kind: 'places', places: [where] };
