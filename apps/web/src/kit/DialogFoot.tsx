import { useMayEdit } from './allowed.tsx';

type Props = {
  /** What the main button says it does. */
  words: string;
  isOff: boolean;
  /** Without it the main button submits the form that the foot stands in. */
  onDo?: () => void;
  onLeave: () => void;
  /** What the other button says. */
  leave?: string;
  className?: string;
};

/** The foot of a dialog: do it, or leave it. */
export function DialogFoot({ words, isOff, onDo, onLeave, leave = 'Leave them', className = 'mt-3' }: Props) {
  const mayEdit = useMayEdit();
  return (
    <div className={`flex gap-2 ${className}`}>
      <button
        type={onDo ? 'button' : 'submit'}
        className="btn btn-primary btn-sm"
        disabled={isOff || !mayEdit}
        onClick={onDo}
      >
        {words}
      </button>
      <button type="button" className="btn btn-ghost btn-sm" onClick={onLeave}>
        {leave}
      </button>
    </div>
  );
}
