import type { RecipeRow } from '@sprig/contracts';
import { Shapes } from 'lucide-react';
import { counted } from '../../kit/format.ts';

type Props = {
  row: RecipeRow;
  /** How many it makes that are not cut. */
  kept: number;
  /** It would make more than can be made. */
  isTooMuch: boolean;
  onVariants: () => void;
  onPool: (inPool: boolean) => void;
};

/** Where what a recipe makes goes: into other match types, and into the pool. */
export function PoolButtons({ row, kept, isTooMuch, onVariants, onPool }: Props) {
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost btn-sm"
        disabled={kept === 0}
        title="Broad, modified broad, phrase and exact of what this recipe makes"
        onClick={onVariants}
      >
        <Shapes size={14} aria-hidden /> Match variants
      </button>
      {row.source === null ? (
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={kept === 0 || isTooMuch}
          onClick={() => onPool(true)}
        >
          Put {counted(kept, 'keyword')} into the pool
        </button>
      ) : (
        <button
          type="button"
          className="btn btn-sm"
          title="The pool follows every change of this recipe"
          onClick={() => onPool(false)}
        >
          Take out of the pool
        </button>
      )}
    </>
  );
}
