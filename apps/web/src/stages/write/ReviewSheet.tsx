import { type ReviewState, reviewStates } from '@sprig/contracts';
import type { AdField } from '@sprig/core/write';
import { useState } from 'react';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { fieldName } from './field-names.ts';
import { useMeasure } from './measure.tsx';

type Props = {
  what: string;
  fields: readonly AdField[];
  onReview: (state: ReviewState, reason: string, fields: AdField[], outlet: string | null) => Promise<void>;
  onClose: () => void;
};

const WORDS: Record<ReviewState, [name: string, means: string]> = {
  ready: ['Ready', 'nothing stands against it'],
  review: ['In review', 'sent, and not answered yet'],
  limited: ['Limited', 'shown, but not everywhere'],
  refused: ['Refused', 'not shown; its texts are remembered and warned about elsewhere'],
};

/** What an engine's editors said of ads. */
export function ReviewSheet({ what, fields, onReview, onClose }: Props) {
  const [state, setState] = useState<ReviewState>('review');
  const [reason, setReason] = useState('');
  const [which, setWhich] = useState<AdField[]>([]);
  const { shipped } = useMeasure();
  const [outlet, setOutlet] = useState('');
  const needsReason = state === 'refused' || state === 'limited';
  return (
    <Dialog title={`Review of ${what}`} onClose={onClose}>
      <fieldset className="flex flex-col gap-1" aria-label="State">
        {reviewStates.map((one) => (
          <label key={one} className="flex cursor-pointer items-baseline gap-2">
            <input
              type="radio"
              name="review-state"
              className="radio radio-xs"
              checked={state === one}
              onChange={() => setState(one)}
            />
            <b>{WORDS[one][0]}</b> <span className="text-faint">{WORDS[one][1]}</span>
          </label>
        ))}
      </fieldset>
      {needsReason && (
        <label className="mt-3 block">
          Reason
          <input
            aria-label="Reason"
            className="input input-sm mt-1 w-full"
            placeholder="As the engine gave it"
            value={reason}
            onChange={({ target }) => setReason(target.value)}
          />
        </label>
      )}
      {state === 'refused' && shipped.length > 1 && (
        <p className="mt-3">
          By{' '}
          <ChoiceChip
            label="By which outlet"
            value={outlet}
            choices={[
              { value: '', words: 'any outlet' },
              ...shipped.map(({ key, name }) => ({ value: key, words: name })),
            ]}
            onChoose={setOutlet}
          />
          <span className="text-faint">: its texts are warned about there.</span>
        </p>
      )}
      {state === 'refused' && (
        <div className="mt-3 flex flex-wrap items-center gap-1.5" role="group" aria-label="Refused fields">
          Because of
          {fields.map((name) => (
            <button
              key={name}
              type="button"
              aria-pressed={which.includes(name)}
              className={`chip ${which.includes(name) ? '' : 'chip-off'}`}
              onClick={() =>
                setWhich(which.includes(name) ? which.filter((one) => one !== name) : [...which, name])
              }
            >
              {fieldName(name)}
            </button>
          ))}
          {which.length === 0 && <span className="text-faint">the whole ad</span>}
        </div>
      )}
      <button
        type="button"
        className="btn btn-primary btn-sm mt-4"
        disabled={state === 'refused' && reason.trim() === ''}
        onClick={() =>
          void onReview(
            state,
            needsReason ? reason.trim() : '',
            state === 'refused' ? which : [],
            state === 'refused' && outlet !== '' ? outlet : null,
          )
        }
      >
        Mark {what} {WORDS[state][0].toLowerCase()}
      </button>
    </Dialog>
  );
}
