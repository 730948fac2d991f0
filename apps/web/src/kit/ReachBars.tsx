import { bitOf, type MatchType, matchTypes, narrownessOf } from '@sprig/core/match';
import { matchWords } from './match-words.ts';

/** The mark of a match type: the narrower the match, the fewer bars. */
export function ReachBars({ type }: { type: MatchType }) {
  const bars = matchTypes.length - narrownessOf(type);
  return (
    <svg
      width="15"
      height="11"
      viewBox="0 0 15 11"
      role="img"
      aria-label={matchWords[type]}
      className="inline-block shrink-0"
    >
      <title>{matchWords[type]}</title>
      {Array.from({ length: bars }, (_, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a row of bars of a fixed length
        <rect key={at} x={at * 4} y="0.5" width="2.4" height="10" rx="1" className="fill-primary" />
      ))}
    </svg>
  );
}

/** The marks of a set of match types, for a keyword that was asked for in them. */
export function AskedMarks({ asked }: { asked: number }) {
  if (asked === 0) return <span className="text-faint">any</span>;
  return (
    <span className="inline-flex items-center gap-2.5">
      {matchTypes.map((type) => (asked & bitOf(type) ? <ReachBars key={type} type={type} /> : null))}
    </span>
  );
}
