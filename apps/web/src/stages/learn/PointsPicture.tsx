import { type Look, type LookAnswer, readLookPoints } from '@sprig/contracts';
import { ctrAt, ctrCurve, type ResultFigure } from '@sprig/core/learn';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { extent, line, max, scaleLinear, scaleSqrt } from 'd3';
import { type PointerEvent, useMemo, useRef, useState } from 'react';
import { question } from '../../data/question.ts';
import { counted } from '../../kit/format.ts';
import { useWidth } from '../../kit/use-width.ts';
import { figureText, figureWords } from '../../plan/results/result-words.ts';
import { isWithin, type Spot, thinned } from './lasso.ts';
import { axisText, groupingWords, groupName } from './look-words.ts';
import { UpAxis } from './UpAxis.tsx';

type Props = {
  plan: number;
  look: Look;
  found: LookAnswer;
  x: ResultFigure;
  y: ResultFigure;
  size: ResultFigure;
  /** Rows that are selected. */
  has: (row: number) => boolean;
  onSelect: (rows: readonly number[]) => void;
};

const HEIGHT = 236;
const PAD = { left: 52, right: 22, top: 24, bottom: 26 };
const USUAL_WIDTH = 1_200;

/** Rows by two figures, sized by a third; what is drawn around is selected in the table. */
export function PointsPicture({ plan, look, found, x: across, y: up, size, has, onSelect }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box, USUAL_WIDTH);
  const [drawn, setDrawn] = useState<Spot[]>([]);
  const body = { look, x: across, y: up, size };
  const { data } = useQuery({
    ...question(readLookPoints, { params: { plan }, body }),
    placeholderData: keepPreviousData,
  });
  const currency = found.account?.currency ?? 'EUR';
  const scales = useMemo(() => {
    const [least = 0, most = 1] =
      across === 'position' ? extent([1, ...(data?.x ?? [])]) : [0, max(data?.x ?? [])];
    const horizontal = across === 'position' ? scaleLinear() : scaleSqrt();
    return {
      x: horizontal
        .domain([Number(least), Math.max(Number(most), Number(least) + 1e-9)])
        .nice()
        .range([PAD.left, width - PAD.right]),
      y: scaleSqrt()
        .domain([0, Math.max(max(data?.y ?? []) ?? 1, 1e-9)])
        .nice()
        .range([HEIGHT - PAD.bottom, PAD.top]),
      r: scaleSqrt()
        .domain([0, Math.max(max(data?.size ?? []) ?? 1, 1e-9)])
        .range([2, 15]),
    };
  }, [data, across, width]);
  const curve = useMemo(() => {
    if (!data || across !== 'position' || up !== 'ctr') return null;
    return ctrCurve(
      data.x.map((position, at) => ({
        position,
        impressions: data.impressions[at] ?? 0,
        clicks: data.clicks[at] ?? 0,
      })),
    );
  }, [data, across, up]);
  const [left = 1, right = 1] = scales.x.domain();
  const steps = Array.from({ length: 41 }, (_, at) => left + ((right - left) * at) / 40);
  const path =
    curve &&
    line<number>()
      .x((position) => scales.x(position))
      .y((position) => scales.y(Math.min(ctrAt(curve, position), scales.y.domain()[1] ?? 1)))(steps);
  const spotOf = ({ currentTarget, clientX, clientY }: PointerEvent<SVGSVGElement>): Spot => {
    const { left: from, top } = currentTarget.getBoundingClientRect();
    return [clientX - from, clientY - top];
  };
  const end = () => {
    const around = thinned(drawn, 3);
    setDrawn([]);
    if (!data) return;
    if (around.length < 3) return onSelect([]);
    const inside = data.n.filter((_, at) =>
      isWithin([scales.x(data.x[at] as number), scales.y(data.y[at] as number)], around),
    );
    onSelect(inside);
  };
  const [one] = groupingWords[look.by];
  const isEmpty = data !== undefined && data.n.length === 0;
  return (
    <figure
      className="relative shrink-0 border-hair border-b px-4"
      aria-label={`${figureWords[up]} against ${figureWords[across]}, sized by ${figureWords[size]}`}
    >
      <div ref={box}>
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          className="block cursor-crosshair touch-none select-none"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture?.(event.pointerId);
            setDrawn([spotOf(event)]);
          }}
          onPointerMove={(event) => {
            if (event.buttons === 1 && drawn.length > 0) setDrawn([...drawn, spotOf(event)]);
          }}
          onPointerUp={end}
        >
          <title>
            {`${counted(data?.n.length ?? 0, one)} by ${figureWords[across]} and ${figureWords[up]}: draw around some to select them; the table below has them all`}
          </title>
          <UpAxis y={scales.y} left={PAD.left} right={width - PAD.right} figure={up} currency={currency} />
          {scales.x.ticks(8).map((tick) => (
            <text
              key={tick}
              x={scales.x(tick)}
              y={HEIGHT - PAD.bottom + 14}
              textAnchor="middle"
              className="fill-faint text-[10.5px]"
            >
              {axisText(across, tick, currency)}
            </text>
          ))}
          <text x={width - PAD.right} y={HEIGHT - 2} textAnchor="end" className="fill-faint text-[11px]">
            {figureWords[across]} →
          </text>
          <text x={4} y={10} className="fill-faint text-[11px]">
            ↑ {figureWords[up]}
          </text>
          {data?.n.map((n, at) => (
            <circle
              key={n}
              cx={scales.x(data.x[at] as number)}
              cy={scales.y(data.y[at] as number)}
              r={scales.r(data.size[at] as number)}
              className={has(n) ? 'fill-warning/70 stroke-warning' : 'fill-primary/35 stroke-primary/60'}
              strokeWidth="1"
            >
              <title>{`${groupName(look.by, data.names[at] ?? '')}: ${figureWords[across]} ${figureText(across, data.x[at], currency)}, ${figureWords[up]} ${figureText(up, data.y[at], currency)}, ${figureWords[size]} ${figureText(size, data.size[at], currency)}`}</title>
            </circle>
          ))}
          {path && (
            <g>
              <path
                d={path}
                className="pointer-events-none fill-none stroke-base-content"
                strokeDasharray="5 4"
              />
              <text x={width - PAD.right} y={12} textAnchor="end" className="fill-base-content text-[11px]">
                dashed: CTR to expect at a position
              </text>
            </g>
          )}
          {drawn.length > 1 && (
            <path
              d={`M${drawn.map((spot) => spot.join(' ')).join('L')}Z`}
              className="pointer-events-none fill-warning/15 stroke-warning"
            />
          )}
        </svg>
      </div>
      {isEmpty && (
        <p className="absolute inset-0 grid place-items-center text-faint">
          No row tells both {figureWords[across]} and {figureWords[up]}.
        </p>
      )}
      {data && data.of > data.n.length && (
        <p className="absolute bottom-7 left-20 text-[11.5px] text-faint">
          The {counted(data.n.length, one)} with the most {figureWords[size]} of {counted(data.of, one)}.
        </p>
      )}
    </figure>
  );
}
