import type { AdTest } from '@sprig/contracts';
import { scaleLinear } from 'd3';

type Props = { difference: AdTest['difference']; isDecided: boolean; label: string; width?: number };

const HEIGHT = 18;
const MOST = 0.6;

/** A difference with its interval, left and right of none. */
export function DifferenceBar({ difference, isDecided, label, width = 150 }: Props) {
  if (!difference) return <span className="text-faint">–</span>;
  const x = scaleLinear([-MOST, MOST], [4, width - 4]).clamp(true);
  const tone = isDecided ? 'stroke-primary fill-primary' : 'stroke-faint fill-faint';
  return (
    <svg width={width} height={HEIGHT} role="img" aria-label={label}>
      <line x1={x(0)} x2={x(0)} y1={1} y2={HEIGHT - 1} className="stroke-hair" />
      <line
        x1={x(difference.low)}
        x2={x(difference.high)}
        y1={HEIGHT / 2}
        y2={HEIGHT / 2}
        strokeWidth={2}
        className={tone}
      />
      <circle cx={x(difference.by)} cy={HEIGHT / 2} r={4} className={tone} />
    </svg>
  );
}
