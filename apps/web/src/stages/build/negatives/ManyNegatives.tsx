import { useState } from 'react';
import { Dialog } from '../../../kit/Dialog.tsx';
import { DialogFoot } from '../../../kit/DialogFoot.tsx';
import { counted } from '../../../kit/format.ts';
import { readNegatives } from '../NegativesPart.tsx';
import type { BuildActions } from '../use-build.ts';

type Props = { places: string[]; what: string; actions: BuildActions; onClose: () => void };

/** The same negatives for many campaigns or ad groups. */
export function ManyNegatives({ places, what, actions, onClose }: Props) {
  const [typed, setTyped] = useState('');
  const [isBusy, setBusy] = useState(false);
  const read = readNegatives(typed);
  const found = 'negatives' in read ? read.negatives.length : 0;
  const add = async () => {
    if (!('negatives' in read) || found === 0) return;
    setBusy(true);
    const done = await actions.addNegatives(places, read.negatives);
    setBusy(false);
    if (done) onClose();
  };
  return (
    <Dialog title={`Negatives for ${what}`} onClose={onClose}>
      <textarea
        autoFocus
        rows={6}
        aria-label="Negatives to add"
        aria-invalid={'words' in read}
        className={`textarea w-full text-[13px] ${'words' in read ? 'textarea-error' : ''}`}
        placeholder={'free, "how to make"\n[second hand]'}
        value={typed}
        onChange={({ target }) => setTyped(target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void add();
        }}
      />
      <p className="min-h-5 text-[12.5px]" role="status">
        {'words' in read ? (
          <span className="text-error">{read.words}</span>
        ) : (
          <span className="text-faint">
            {found === 0
              ? 'One to a line or with commas between; as broad, "phrase" or [exact].'
              : `${counted(found, 'negative')} in each of ${what}; those that are there already are left.`}
          </span>
        )}
      </p>
      <DialogFoot
        words={`Add ${counted(found, 'negative')}`}
        isOff={found === 0 || isBusy}
        onDo={() => void add()}
        onLeave={onClose}
        className="mt-2"
      />
    </Dialog>
  );
}
