import { type MatchType, matchTypes } from '@sprig/core/match';
import { whyOf } from '@sprig/core/mix';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';

type Props = { types: readonly MatchType[]; onToggle: (type: MatchType) => void };

/** The match types to be ticked, each with a line on why one would use it. */
export function MatchTypeChoices({ types, onToggle }: Props) {
  return (
    <fieldset className="grid shrink-0 grid-cols-2 gap-x-6 gap-y-1 px-4 pt-3 pb-1" aria-label="Match types">
      {matchTypes.map((type) => (
        <label key={type} className="grid cursor-pointer grid-cols-[18px_18px_1fr] items-start gap-2 py-1">
          <input
            type="checkbox"
            className="checkbox checkbox-xs mt-0.5"
            checked={types.includes(type)}
            onChange={() => onToggle(type)}
          />
          <span className="mt-0.5">
            <ReachBars type={type} />
          </span>
          <span>
            <b>{matchWords[type].charAt(0).toUpperCase() + matchWords[type].slice(1)}</b>
            <span className="block text-[12.5px] text-faint leading-4">{whyOf[type]}</span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}
