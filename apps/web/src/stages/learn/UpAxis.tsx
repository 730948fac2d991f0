import type { ResultFigure } from '@sprig/core/learn';
import { axisText } from './look-words.ts';

type Props = {
  y: { (value: number): number; ticks: (count: number) => number[] };
  left: number;
  right: number;
  figure: ResultFigure;
  currency: string;
};

/** Lines across a picture with what they stand for. */
export const UpAxis = ({ y, left, right, figure, currency }: Props) =>
  y.ticks(5).map((tick) => (
    <g key={tick} transform={`translate(0,${y(tick)})`}>
      <line x1={left} x2={right} className="stroke-hair" />
      <text x={left - 6} dy="0.32em" textAnchor="end" className="fill-faint text-[10.5px]">
        {axisText(figure, tick, currency)}
      </text>
    </g>
  ));
