import { type OutsetPart, outsetParts } from '@sprig/contracts';
import { partWords } from './outset-words.ts';

type Props = {
  /** Those that can be chosen. */
  has: readonly OutsetPart[];
  chosen: readonly OutsetPart[];
  onChoose: (parts: OutsetPart[]) => void;
};

/** Which parts of an outset are kept, or taken. */
export function OutsetParts({ has, chosen, onChoose }: Props) {
  const all = has.length === chosen.length;
  return (
    <fieldset>
      <legend className="flex w-full items-baseline gap-3 text-faint">
        Parts
        <button
          type="button"
          className="text-[12.5px] text-primary hover:underline"
          onClick={() => onChoose(all ? [] : [...has])}
        >
          {all ? 'none' : 'all'}
        </button>
      </legend>
      <div className="mt-1 grid grid-cols-3 gap-x-4 gap-y-0.5">
        {outsetParts
          .filter((part) => has.includes(part))
          .map((part) => (
            <label key={part} className="flex items-center gap-2 text-[13px]" title={partWords[part].about}>
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={chosen.includes(part)}
                onChange={({ target }) =>
                  onChoose(target.checked ? [...chosen, part] : chosen.filter((one) => one !== part))
                }
              />
              {partWords[part].words}
            </label>
          ))}
      </div>
    </fieldset>
  );
}
