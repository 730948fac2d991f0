import { Link, useLocation } from 'react-router';
import { Dialog } from '../kit/Dialog.tsx';
import { everywhereTold } from './commands.ts';
import { KeyList } from './KeyList.tsx';
import type { StageEntry } from './leaf.ts';

/** The keys of this screen. */
export function HelpPanel({ stages, onClose }: { stages: readonly StageEntry[]; onClose: () => void }) {
  const path = useLocation().pathname.split('/').pop() ?? '';
  const keys = stages.find((stage) => stage.path === path)?.keys ?? [];
  return (
    <Dialog title="Keys of this screen" onClose={onClose}>
      <div className="grid grid-cols-2 gap-6">
        <KeyList title="Everywhere" keys={everywhereTold} />
        {keys.length > 0 && <KeyList title="Here" keys={keys} />}
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
