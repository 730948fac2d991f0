import { wordsOf } from '../../data/call.ts';

type Props = {
  /** What the button does. */
  words: string;
  isReady: boolean;
  error: Error | null;
  refusal: string | null;
  onLeave: () => void;
};

/** The end of a dialog that does something to results: why it can't, the button that does it, and the way out. */
export function ActFoot({ words, isReady, error, refusal, onLeave }: Props) {
  return (
    <>
      {(error || refusal) && (
        <p role="alert" className="text-error text-xs">
          {refusal ?? wordsOf(error)}
        </p>
      )}
      <div className="flex gap-2">
        <button type="submit" className="btn btn-primary btn-sm" disabled={!isReady}>
          {words}
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onLeave}>
          Leave them
        </button>
      </div>
    </>
  );
}
