import type { Remote } from 'comlink';
import type { PoolWorker } from '../../pool/worker.ts';
import { Threshold } from './Threshold.tsx';

type Props = {
  view: 'matrix' | 'list';
  onView: (view: 'matrix' | 'list') => void;
  isRoomy: boolean;
  onRoomy: (isRoomy: boolean) => void;
  worker: Remote<PoolWorker>;
  stamp: string;
  onCut: (texts: string[], isCut: boolean) => Promise<void>;
};

/** How what a recipe makes is shown, and from how many searches on it is worth having. */
export const MadeAs = ({ view, onView, isRoomy, onRoomy, worker, stamp, onCut }: Props) => (
  <div className="flex h-9 shrink-0 items-center gap-2 px-4 pt-1">
    <fieldset className="join" aria-label="What is made, as">
      {(['matrix', 'list'] as const).map((one) => (
        <button
          key={one}
          type="button"
          aria-pressed={view === one}
          className={`btn join-item btn-xs font-normal ${view === one ? 'btn-active' : ''}`}
          onClick={() => onView(one)}
        >
          {one === 'matrix' ? 'Matrix' : 'List'} <span className="key">{one[0]}</span>
        </button>
      ))}
    </fieldset>
    <button
      type="button"
      aria-pressed={isRoomy}
      className={`btn btn-xs font-normal ${isRoomy ? 'btn-active' : ''}`}
      title="Fold lists and patterns away, so that what they make has room"
      onClick={() => onRoomy(!isRoomy)}
    >
      More room <span className="key">w</span>
    </button>
    <Threshold worker={worker} stamp={stamp} onCut={onCut} />
  </div>
);
