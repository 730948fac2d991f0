import type { FieldFit } from '@sprig/core/write';

/** A field's length in the group in view, against its limit: a bar, the figure, and words when it is over. */
export function Gauge({ fit, limit }: { fit: FieldFit | undefined; limit: number }) {
  if (!fit || fit.status === 'empty')
    return <span className="whitespace-nowrap text-[12px] text-faint">up to {limit}</span>;
  const over = fit.status === 'unfilled' && fit.why === 'too-long';
  const overLength = over ? limit + fit.overrun : 0;
  const length = fit.status === 'fits' ? fit.length : overLength;
  const within = fit.status === 'unfilled' ? 'no line' : `${length} of ${limit}`;
  const share = Math.min(1, length / limit);
  return (
    <span
      className="inline-flex shrink-0 items-center gap-1.5 whitespace-nowrap"
      title={`${length} of ${limit}`}
    >
      <svg width="54" height="5" viewBox="0 0 54 5" aria-hidden="true">
        <rect width="54" height="5" rx="2.5" className="fill-base-300" />
        <rect width={54 * share} height="5" rx="2.5" className={over ? 'fill-error' : 'fill-primary'} />
      </svg>
      <span className={`text-[12px] ${fit.status === 'unfilled' ? 'text-error' : 'text-faint'}`}>
        {over ? `${fit.overrun} too long` : within}
      </span>
    </span>
  );
}
