type Props = {
  /** What the main button says it does. */
  words: string;
  isOff: boolean;
  /** Without it the main button submits the form that the foot stands in. */
  onDo?: () => void;
  onLeave: () => void;
  className?: string;
};

/** The foot of a dialog about many rows: do it, or leave them. */
export function DialogFoot({ words, isOff, onDo, onLeave, className = 'mt-3' }: Props) {
  return (
    <div className={`flex gap-2 ${className}`}>
      <button
        type={onDo ? 'button' : 'submit'}
        className="btn btn-primary btn-sm"
        disabled={isOff}
        onClick={onDo}
      >
        {words}
      </button>
      <button type="button" className="btn btn-ghost btn-sm" onClick={onLeave}>
        Leave them
      </button>
    </div>
  );
}
