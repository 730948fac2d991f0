import { bidOf, type Layout, stepsFor } from '@sprig/core/build';
import { matchTypes } from '@sprig/core/match';
import type { Micros } from '@sprig/core/money';
import { scaleLinear } from 'd3';
import { money } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';

const WIDTH = 300;
const HEIGHT = 104;
const STEP = WIDTH / matchTypes.length;
const FOOT = 18;

/** The base's dotted line would run through a figure that stands right above its step. */
const isStruck = (top: number, line: number) => line < top - 1 && line > top - 18;

/** The ladder as stairs: the bid of each match type for the base without an estimate. */
export function LadderPicture({
  layout,
  currency,
  increment,
}: {
  layout: Layout;
  currency: string;
  increment: Micros;
}) {
  const { ladder } = layout;
  const bids = matchTypes.map((type) =>
    bidOf({ base: ladder.defaultBase, steps: stepsFor(ladder, type), held: null }, ladder, increment),
  );
  const y = scaleLinear()
    .domain([0, Math.max(1, ...bids)])
    .range([HEIGHT - FOOT, 18]);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={`The ladder: ${matchTypes.map((type, at) => `${matchWords[type]} ${money(bids[at], currency)}`).join(', ')}`}
      className="h-[104px] w-full"
    >
      <line
        x1="0"
        x2={WIDTH}
        y1={y(ladder.defaultBase)}
        y2={y(ladder.defaultBase)}
        className="stroke-primary"
        strokeDasharray="2 4"
      />
      {matchTypes.map((type, at) => {
        const used = (layout.types & (1 << at)) !== 0;
        const top = y(bids[at] ?? 0);
        return (
          <g key={type} className={used ? '' : 'opacity-45'}>
            <rect x={at * STEP} y={top} width={STEP} height={HEIGHT - FOOT - top} className="fill-wash" />
            <line
              x1={at * STEP}
              x2={(at + 1) * STEP}
              y1={top}
              y2={top}
              className="stroke-primary"
              strokeWidth="2.5"
            />
            <text
              x={at * STEP + STEP / 2}
              y={isStruck(top, y(ladder.defaultBase)) ? top + 15 : top - 5}
              textAnchor="middle"
              className="fill-base-content stroke-base-100 font-semibold text-[12px] [paint-order:stroke] [stroke-width:4px]"
            >
              {money(bids[at], currency)}
            </text>
            <text
              x={at * STEP + STEP / 2}
              y={HEIGHT - 4}
              textAnchor="middle"
              className="fill-faint text-[11px]"
            >
              {type === 'modified' ? 'modified' : matchWords[type]}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
