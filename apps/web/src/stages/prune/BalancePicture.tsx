import { scaleSqrt } from 'd3';
import { short } from '../../kit/format.ts';
import type { ReviewSummary } from '../../pool/pruning.ts';

const WIDTH = 1180;
const HEIGHT = 134;
/** The beam's pivot: under the largest word, however far the beam tilts. */
const PIVOT = 58;
const ARM = 430;
const MOST_TILT = 4.5;
const SHOWN = 9;

/**
 * The balance: what is kept weighs on the left, what is blocked on the right, by searches; the undecided hang over its
 * middle, each as large as its weight.
 */
export function BalancePicture({
  review,
  pending,
  current,
  onChoose,
}: {
  review: ReviewSummary;
  pending: ReadonlyMap<string, string>;
  /** The word in the middle now. */
  current: string | undefined;
  onChoose: (text: string) => void;
}) {
  const { keptWeight, blockedWeight } = review;
  const both = keptWeight + blockedWeight;
  const tilt = both === 0 ? 0 : ((blockedWeight - keptWeight) / both) * MOST_TILT;
  const waiting = review.undecided.filter(({ text }) => !pending.has(text)).slice(0, SHOWN);
  const heaviest = Math.max(1, ...waiting.map(({ searches }) => searches));
  const radius = scaleSqrt().domain([0, heaviest]).range([4, 17]);
  const pan = (x: number, weight: number, words: string, tone: string) => (
    <g transform={`translate(${x},0)`}>
      <line x1="0" x2="0" y1="0" y2="10" className="stroke-faint" />
      <path d="M-58 10 H58 C52 22 -52 22 -58 10Z" className={tone} />
      <text y="37" textAnchor="middle" className="fill-faint text-[12px]">
        <tspan className="fill-base-content font-semibold text-[13px]">{short(weight)}</tspan> {words}
      </text>
    </g>
  );
  let x = WIDTH / 2 - waiting.reduce((sum, { searches }) => sum + 2 * radius(searches) + 8, 0) / 2;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block h-[140px] w-full shrink-0"
      role="img"
      aria-label={`On the balance: ${short(keptWeight)} searches kept, ${short(blockedWeight)} blocked, ${waiting.map(({ text }) => text).join(', ')} undecided`}
    >
      <path
        d={`M${WIDTH / 2 - 13} ${HEIGHT - 4} L${WIDTH / 2} ${PIVOT} L${WIDTH / 2 + 13} ${HEIGHT - 4}Z`}
        className="fill-base-300"
      />
      <g transform={`translate(${WIDTH / 2},${PIVOT}) rotate(${tilt})`}>
        <line x1={-ARM} x2={ARM} y1="0" y2="0" className="stroke-primary" strokeWidth="2" />
        <g transform={`translate(${-ARM},0) rotate(${-tilt})`}>
          {pan(0, keptWeight, 'searches kept', 'fill-primary/50')}
        </g>
        <g transform={`translate(${ARM},0) rotate(${-tilt})`}>
          {pan(0, blockedWeight, 'searches blocked', 'fill-error/50')}
        </g>
      </g>
      {waiting.map(({ text, searches }) => {
        const r = radius(searches);
        const centre = x + r + 4;
        x += 2 * r + 8;
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the same words are in the list beneath
          <g key={text} className="cursor-pointer" onClick={() => onChoose(text)}>
            <title>{`${text}: ${short(searches)} searches`}</title>
            <circle
              cx={centre}
              cy={22}
              r={r}
              className={text === current ? 'fill-primary' : 'fill-wash stroke-primary'}
              strokeWidth="1"
            />
          </g>
        );
      })}
    </svg>
  );
}
