import { figureText } from '../../plan/results/result-words.ts';

type Props = { samples: readonly { text: string; before: number; after: number }[]; currency: string };

/** Some bids before and after; nothing where there are none. */
export function BeforeAfter({ samples, currency }: Props) {
  if (samples.length === 0) return null;
  return (
    <ul className="rounded-md bg-base-200/60 p-2 text-[13px]" aria-label="Before and after">
      {samples.map(({ text, before, after }) => (
        <li key={`${text} ${before}`} className="flex justify-between gap-4">
          <span className="truncate">{text}</span>
          <span className="shrink-0">
            <span className="text-faint">{figureText('cpc', before, currency)} →</span>{' '}
            {figureText('cpc', after, currency)}
          </span>
        </li>
      ))}
    </ul>
  );
}
