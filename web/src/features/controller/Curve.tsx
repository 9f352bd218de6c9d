import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { SheetAnswer } from "../../api/types";
import { Button } from "../../ui/Button";
import { useSize } from "../../ui/useSize";

interface Props {
  /** Volts over the trigger, as the engine draws them. */
  points: SheetAnswer["throttle"]["curve"];
  /** How many points the document gives; nothing where it says what half of the trigger gives. */
  given: number | null;
  /** What half of the trigger gives, while it is moved, too. */
  half: number;
  onHalf: (half: number) => void;
  onKeep: (half: number) => void;
}

const HEIGHT = 200;
const LEFT = 34;
const RIGHT = 8;
const BOTTOM = 30;

/** Volts over the trigger; half of it is moved by a slider, by hand or by the arrow keys. */
export function Curve({ points, given, half, onHalf, onKeep }: Props) {
  const [ref, width] = useSize();
  const keep = () => onKeep(half);
  const x = scaleLinear([0, 100], [LEFT, Math.max(width - RIGHT, LEFT + 1)]);
  const y = scaleLinear([0, 100], [HEIGHT - BOTTOM, 10]);
  const path = line<Props["points"][number]>()
    .x((point) => x(point.trigger_pct))
    .y((point) => y(point.volts_pct))(points);
  return (
    <div ref={ref}>
      {width > 120 ? (
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label={
            given !== null
              ? "Throttle curve by points"
              : `Throttle curve: half trigger gives ${half} % of the volts`
          }
        >
          {[0, 50, 100].map((tick) => (
            <g key={tick} className="text-[11px]">
              <line
                x1={LEFT}
                x2={width - RIGHT}
                y1={y(tick)}
                y2={y(tick)}
                className="stroke-line"
              />
              <text x={LEFT - 5} y={y(tick) + 4} textAnchor="end">
                {tick}
              </text>
              <text
                x={x(tick)}
                y={HEIGHT - BOTTOM + 15}
                textAnchor={tick === 100 ? "end" : "middle"}
              >
                {tick}
              </text>
            </g>
          ))}
          <line
            x1={x(0)}
            y1={y(0)}
            x2={x(100)}
            y2={y(100)}
            className="stroke-line"
            strokeDasharray="4 4"
          />
          <path d={path ?? ""} className="fill-none stroke-water" strokeWidth={2.5} />
          {given !== null ? null : <circle cx={x(50)} cy={y(half)} r={5} className="fill-ember" />}
          <text x={width - RIGHT} y={HEIGHT - 2} textAnchor="end" className="fill-soft text-[11px]">
            volts in %, over the trigger in %
          </text>
        </svg>
      ) : null}
      {given !== null ? (
        <p className="flex items-center gap-3 text-soft">
          <span className="flex-1">
            The curve is drawn by {given} {given === 1 ? "point" : "points"}.
          </span>
          <Button onClick={() => onKeep(30)}>By its half instead</Button>
        </p>
      ) : (
        <label className="flex items-center gap-3">
          <span>Half trigger gives</span>
          <input
            type="range"
            min={1}
            max={99}
            step={1}
            value={half}
            onChange={(event) => onHalf(Number(event.target.value))}
            onPointerUp={keep}
            onKeyUp={keep}
            onBlur={keep}
            className="min-h-11 flex-1 accent-water sm:min-h-7"
          />
          <span className="figure w-12 text-right">{half} %</span>
        </label>
      )}
      <p className="text-[12px] text-soft">
        A curve in the controller makes slow steps finer; one in the transmitter only spreads the
        same steps.
      </p>
    </div>
  );
}
