/** How far a long job is, with a way to stop it. */
export function Progress({
  words,
  done,
  total,
  onStop,
}: {
  words: string;
  done: number;
  total: number;
  onStop?: () => void;
}) {
  return (
    <div className="flex items-center gap-3" role="status">
      <progress
        className="progress progress-primary w-48"
        value={total > 0 ? done : undefined}
        max={total > 0 ? total : undefined}
      />
      <span className="text-[12.5px]">{words}</span>
      {onStop && (
        <button type="button" className="btn btn-ghost btn-xs" onClick={onStop}>
          Stop
        </button>
      )}
    </div>
  );
}
