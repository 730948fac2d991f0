import { Link, useLocation } from 'react-router';
import { Dialog } from '../kit/Dialog.tsx';
import { KeyList } from './KeyList.tsx';
import { byStage, everywhere } from './keys-of-screens.ts';

/** The keys of this screen. */
export function HelpPanel({ onClose }: { onClose: () => void }) {
  const stage = useLocation().pathname.split('/').pop() ?? '';
  return (
    <Dialog title="Keys of this screen" onClose={onClose}>
      <div className="grid grid-cols-2 gap-6">
        <KeyList title="Everywhere" keys={everywhere} />
        {byStage[stage] && <KeyList title="Here" keys={byStage[stage]} />}
      </div>
      <p className="mt-4 border-hair border-t pt-3">
        <Link to="/how" className="link link-primary">
          How it works
        </Link>
        : the stages, our words, how things are worked out, and all keys.
      </p>
    </Dialog>
  );
}
