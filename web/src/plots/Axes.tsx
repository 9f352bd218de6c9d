import type { ScaleContinuousNumeric } from "d3-scale";

type Scale = ScaleContinuousNumeric<number, number>;

interface Props {
  x: Scale;
  y: Scale;
  xTicks?: number[];
  /** The unit of what goes across, said after the last of its values. */
  sign?: string;
}

/** Level lines with their values on the left, and values below, of a plot's two scales. */
export function Axes({ x, y, xTicks = x.ticks(6), sign }: Props) {
  const [left = 0, right = 0] = x.range();
  const [bottom = 0] = y.range();
  return (
    <g className="text-[11.5px]">
      {y.ticks(4).map((tick) => (
        <g key={tick}>
          <line x1={left} x2={right} y1={y(tick)} y2={y(tick)} className="stroke-line" />
          <text x={left - 6} y={y(tick) + 4} textAnchor="end">
            {tick.toLocaleString("en-GB")}
          </text>
        </g>
      ))}
      {xTicks.map((tick, at) => (
        <text key={tick} x={x(tick)} y={bottom + 18} textAnchor="middle">
          {tick.toLocaleString("en-GB")}
          {sign && at === xTicks.length - 1 ? ` ${sign}` : ""}
        </text>
      ))}
    </g>
  );
}
