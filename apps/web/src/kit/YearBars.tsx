import { max, scaleLinear } from 'd3';

/** Twelve months as a row of bars, the last at the right. */
export function YearBars({ months, width, height }: { months: number[]; width: number; height: number }) {
  const step = width / 12;
  const y = scaleLinear()
    .domain([0, max(months) || 1])
    .range([0, height]);
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Twelve months: ${months.join(', ')}`}
    >
      {months.map((searches, at) => {
        const x = at * step;
        return (
          <rect
            key={x}
            x={x}
            y={height - y(searches)}
            width={step * 0.77}
            height={y(searches)}
            className="fill-primary/70"
          />
        );
      })}
    </svg>
  );
}
