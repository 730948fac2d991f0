import { brushX, scaleBand, scaleSqrt, select } from 'd3';
import { useEffect, useMemo, useRef } from 'react';
import { count, short } from '../../kit/format.ts';
import { useWidth } from '../../kit/use-width.ts';
import type { Histogram } from '../../pool/pool-store.ts';

type Props = {
  histogram: Histogram;
  from: number | null;
  to: number | null;
  onBrush: (from: number | null, to: number | null) => void;
};

const HEIGHT = 62;
/** Until it is known how wide it is. */
const USUAL_WIDTH = 1_180;
const BASE = 18;

/** How the shown keywords lie by monthly searches, each step about twice the one before; brush it to filter. */
export function SearchesHistogram({ histogram, from, to, onBrush }: Props) {
  const svg = useRef<SVGGElement>(null);
  const picture = useRef<SVGSVGElement>(null);
  const width = useWidth(picture, USUAL_WIDTH);
  const { bars, most } = histogram;
  const x = useMemo(
    () =>
      scaleBand<number>()
        .domain(bars.map((_, at) => at))
        .range([0, width])
        .paddingInner(0.08),
    [bars, width],
  );
  const y = scaleSqrt()
    .domain([0, most])
    .range([0, HEIGHT - BASE - 12]);
  const handle = useRef(onBrush);
  handle.current = onBrush;

  useEffect(() => {
    const layer = svg.current;
    if (!layer) return;
    const brush = brushX<unknown>()
      .extent([
        [0, 0],
        [width, HEIGHT - BASE],
      ])
      .on('end', (event: { sourceEvent: unknown; selection: [number, number] | null }) => {
        if (!event.sourceEvent) return;
        if (!event.selection) return handle.current(null, null);
        const [left, right] = event.selection;
        const inside = bars.filter(
          (_, at) => (x(at) ?? 0) + x.bandwidth() / 2 >= left && (x(at) ?? 0) + x.bandwidth() / 2 <= right,
        );
        const first = inside[0];
        const last = inside.at(-1);
        if (first && last) handle.current(first.from ?? -1, last.from === null ? -1 : last.to);
      });
    const target = select(layer);
    target.call(brush as never);
    const chosen = bars
      .map((bar, at) => ({ bar, at }))
      .filter(({ bar }) => (from !== null || to !== null) && isInside(bar, from, to));
    const [first, last] = [chosen[0], chosen.at(-1)];
    target.call(
      brush.move as never,
      first && last ? [x(first.at) ?? 0, (x(last.at) ?? 0) + x.bandwidth()] : null,
    );
    return () => {
      target.on('.brush', null);
      target.selectAll('*').remove();
    };
  }, [bars, x, width, from, to]);

  return (
    <figure className="shrink-0 border-hair border-b px-4 pt-1.5" aria-label="Keywords by monthly searches">
      <svg
        ref={picture}
        viewBox={`0 0 ${width} ${HEIGHT}`}
        className="block h-[66px] w-full"
        preserveAspectRatio="none"
        role="img"
      >
        <title>Keywords by monthly searches: drag across to filter</title>
        {bars.map((bar, at) => {
          const height = bar.count === 0 ? 0 : Math.max(1.5, y(bar.count));
          const inside = (from === null && to === null) || isInside(bar, from, to);
          return (
            <g key={bar.from ?? 'none'}>
              <rect
                x={x(at)}
                y={HEIGHT - BASE - height}
                width={x.bandwidth()}
                height={height}
                className={inside ? 'fill-primary/75' : 'fill-base-300'}
              >
                <title>{`${rangeWords(bar)}: ${count(bar.count)} keywords, ${count(bar.searches)} searches`}</title>
              </rect>
              {bar.count > 0 && (
                <text
                  x={(x(at) ?? 0) + x.bandwidth() / 2}
                  y={HEIGHT - BASE - height - 3}
                  textAnchor="middle"
                  className="fill-faint text-[10.5px]"
                >
                  {short(bar.count)}
                </text>
              )}
              <text
                x={(x(at) ?? 0) + x.bandwidth() / 2}
                y={HEIGHT - 5}
                textAnchor="middle"
                className="fill-faint text-[10.5px]"
              >
                {labelOf(bar)}
              </text>
            </g>
          );
        })}
        <g ref={svg} />
      </svg>
      <figcaption className="sr-only">
        {bars.map((bar) => `${rangeWords(bar)}: ${bar.count}`).join('; ')}
      </figcaption>
    </figure>
  );
}

type Bar = Histogram['bars'][number];

const isInside = (bar: Bar, from: number | null, to: number | null) =>
  (bar.from ?? -1) >= (from ?? -1) && (to === null || (bar.from ?? -1) <= to);

const labelOf = ({ from, to }: Bar): string => {
  if (from === null) return 'no figure';
  if (to === null) return `${short(from)}+`;
  return short(from);
};

const rangeWords = ({ from, to }: Bar): string => {
  if (from === null) return 'No figure';
  if (to === null) return `${count(from)} searches or more`;
  if (from === to) return `${count(from)} searches`;
  return `${count(from)} to ${count(to)} searches`;
};
