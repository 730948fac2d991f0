import { count } from './format.ts';

type Props<Id extends string> = {
  label: string;
  picks: readonly (readonly [id: Id, words: string])[];
  current: Id;
  /** How many there are of each, where that is known. */
  counts?: Partial<Record<Id, number>> | undefined;
  onPick: (id: Id) => void;
  className?: string;
};

/** Small buttons side by side, of which one is pressed: which rows, or what, is shown below them. */
export const PickButtons = <Id extends string>({
  label,
  picks,
  current,
  counts,
  onPick,
  className = 'shrink-0 border-hair border-b px-3 py-1.5',
}: Props<Id>) => (
  <fieldset aria-label={label} className={`flex gap-1 ${className}`}>
    {picks.map(([id, words]) => (
      <button
        key={id}
        type="button"
        aria-pressed={current === id}
        className={`btn btn-ghost btn-xs font-normal ${current === id ? 'bg-wash' : ''}`}
        onClick={() => onPick(id)}
      >
        {words} {counts?.[id] !== undefined && <span className="text-faint">{count(counts[id])}</span>}
      </button>
    ))}
  </fieldset>
);
