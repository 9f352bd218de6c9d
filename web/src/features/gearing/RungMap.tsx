import { scaleLinear, scaleLog } from "d3-scale";
import { line } from "d3-shape";
import type { LadderAnswer } from "../../api/types";
import { Axes } from "../../plots/Axes";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";

const HEIGHT = 230;
const LEFT = 40;
const RIGHT = 40;
const BOTTOM = 34;
const TICKS = [2, 3, 5, 8, 12, 20, 30, 50, 80];

/** Every reduction: top speed on the left scale, winding after the hill on the right one. */
export function RungMap({ answer, width }: { answer: LadderAnswer; width: number }) {
  const { choice } = useUnits();
  if (width < 160) return null;
  const speed = documentUnit("km/h", choice);
  const heat = documentUnit("C", choice);
  const points = answer.map;
  const ratios = points.map((point) => point.ratio);
  const x = scaleLog([Math.min(...ratios), Math.max(...ratios)], [LEFT, width - RIGHT]);
  const fastest = Math.max(...points.map((point) => toShown(point.top_speed_kmh ?? 0, speed)), 1);
  const limit = answer.limits.winding_c ?? 105;
  const hottest = toShown(1.25 * limit, heat);
  const y = scaleLinear([0, fastest * 1.05], [HEIGHT - BOTTOM, 18]);
  const hot = scaleLinear([0, hottest], [HEIGHT - BOTTOM, 18]);
  const drawn = (scale: (value: number) => number, of: (at: number) => number | null) =>
    line<number>()
      .defined((at) => of(at) !== null)
      .x((at) => x(points[at]?.ratio ?? 1))
      .y((at) => scale(of(at) ?? 0))(points.map((_, at) => at)) ?? "";
  const own = answer.present.ratio;
  const shown = TICKS.filter((tick) => tick >= (ratios[0] ?? 1) && tick <= (ratios.at(-1) ?? 1));
  return (
    <figure className="m-0">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Reductions from ${Math.min(...ratios).toFixed(1)} to ${Math.max(...ratios).toFixed(1)}: the present one is ${own.toFixed(2)} to 1`}
      >
        <text x={4} y={11} className="text-[11.5px]">
          top speed, {speed.sign}
        </text>
        <text x={width - 4} y={11} textAnchor="end" className="text-[11.5px]">
          winding after the hill, {heat.sign}
        </text>
        {points.map((point, at) => {
          const next = points[at + 1];
          return point.stopped && next ? (
            <rect
              key={point.ratio}
              x={x(point.ratio)}
              width={Math.max(0.5, x(next.ratio) - x(point.ratio) + 0.5)}
              y={18}
              height={HEIGHT - BOTTOM - 18}
              className="fill-stop opacity-10"
            />
          ) : null;
        })}
        <Axes x={x} y={y} xTicks={shown} />
        {hot.ticks(4).map((tick) => (
          <text key={tick} x={width - RIGHT + 5} y={hot(tick) + 4} className="text-[11.5px]">
            {tick}
          </text>
        ))}
        <text x={width / 2} y={HEIGHT - 3} textAnchor="middle" className="fill-soft text-[11px]">
          reduction, to 1; shaded: worse than now for some part
        </text>
        <path
          d={drawn(y, (at) => {
            const v = points[at]?.top_speed_kmh;
            return v == null ? null : toShown(v, speed);
          })}
          className="fill-none stroke-water"
          strokeWidth={2.5}
        />
        <path
          d={drawn(
            (value) => hot(Math.min(value, hottest)),
            (at) => {
              const v = points[at]?.winding_climb_c;
              return v == null ? null : toShown(v, heat);
            },
          )}
          className="fill-none stroke-ember"
          strokeWidth={2}
          strokeDasharray="6 3"
        />
        <line
          x1={x(own)}
          x2={x(own)}
          y1={18}
          y2={HEIGHT - BOTTOM}
          className="stroke-ink"
          strokeWidth={1.5}
        />
        <text x={x(own) + 4} y={28} className="text-[11.5px] font-semibold">
          now {own.toFixed(2)}
        </text>
      </svg>
      <figcaption className="sr-only">Solid: top speed. Dashed: winding after the hill.</figcaption>
    </figure>
  );
}
