import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useRef } from "react";
import type { CurveDocument } from "../../api/types";
import { Axes } from "../../plots/Axes";
import { Button } from "../../ui/Button";
import { useSize } from "../../ui/useSize";
import { moved, type Point, STRAIGHT, threeOf, withOneMore } from "./curve";

interface Props {
  /** Volts over the trigger, as the engine draws them. */
  drawn: Point[];
  /** What the curve says now, while it is moved, too. */
  curve: CurveDocument;
  /** What half of the trigger gave before it was drawn by points. */
  half: number;
  onMove: (curve: CurveDocument) => void;
  onKeep: (curve: CurveDocument) => void;
}

const HEIGHT = 222;
const LEFT = 34;
const RIGHT = 14;
const BOTTOM = 42;
const NUDGE = 1;

/** Volts over the trigger; its half, or each of its points, is moved by hand or by the keys. */
export function Curve({ drawn, curve, half, onMove, onKeep }: Props) {
  const [ref, width] = useSize();
  const svg = useRef<SVGSVGElement>(null);
  const dragged = useRef<number | null>(null);
  const points = curve.points ?? null;
  const x = scaleLinear([0, 100], [LEFT, Math.max(width - RIGHT, LEFT + 1)]);
  const y = scaleLinear([0, 100], [HEIGHT - BOTTOM, 10]);
  // While it is moved, points are drawn at once; a bent curve is the engine's.
  const shown = points
    ? [{ trigger_pct: 0, volts_pct: 0 }, ...points, { trigger_pct: 100, volts_pct: 100 }]
    : drawn;
  const path = line<Point>(
    (point) => x(point.trigger_pct),
    (point) => y(point.volts_pct),
  )(shown);
  const place = (event: React.PointerEvent): Point => {
    const box = svg.current?.getBoundingClientRect() ?? { left: 0, top: 0 };
    return {
      trigger_pct: x.invert(event.clientX - box.left),
      volts_pct: y.invert(event.clientY - box.top),
    };
  };
  const drop = () => {
    if (dragged.current === null) return;
    dragged.current = null;
    onKeep(curve);
  };
  const byKey = (at: number, event: React.KeyboardEvent) => {
    if (!points) return;
    const point = points[at] as Point;
    const step = event.shiftKey ? 5 * NUDGE : NUDGE;
    const steps: Record<string, [number, number]> = {
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
      ArrowRight: [step, 0],
      ArrowLeft: [-step, 0],
    };
    const by = steps[event.key];
    if (by) {
      const [trigger, volts] = by;
      onMove({
        points: moved(points, at, {
          trigger_pct: point.trigger_pct + trigger,
          volts_pct: point.volts_pct + volts,
        }),
      });
    } else if (event.key === "Delete" && points.length > 1) {
      onKeep({ points: points.filter((_, index) => index !== at) });
    } else return;
    event.preventDefault();
  };
  const now = curve.half_throttle_pct ?? STRAIGHT;
  return (
    <div ref={ref}>
      {width > 120 ? (
        <svg
          ref={svg}
          width={width}
          height={HEIGHT}
          role="group"
          aria-label={
            points ? "Throttle curve by points" : `Throttle curve: half trigger gives ${now} %`
          }
          onPointerMove={(event) => {
            if (dragged.current !== null && points)
              onMove({ points: moved(points, dragged.current, place(event)) });
          }}
          onPointerUp={drop}
          onPointerLeave={drop}
          className={points ? "touch-none" : ""}
        >
          <Axes x={x} y={y} xTicks={[0, 50, 100]} />
          <line
            x1={x(0)}
            y1={y(0)}
            x2={x(100)}
            y2={y(100)}
            className="stroke-line"
            strokeDasharray="4 4"
          />
          <path d={path ?? ""} className="fill-none stroke-water" strokeWidth={2.5} />
          {points ? null : <circle cx={x(50)} cy={y(now)} r={5} className="fill-ember" />}
          {points?.map((point, at) => (
            <circle
              // Points have no identity but their place.
              key={at}
              cx={x(point.trigger_pct)}
              cy={y(point.volts_pct)}
              r={8}
              tabIndex={0}
              role="slider"
              aria-label={`Point ${at + 1}, at ${point.trigger_pct} % of the trigger`}
              aria-valuemin={0}
              aria-valuemax={100}
              aria-valuenow={point.volts_pct}
              aria-valuetext={`${point.volts_pct} % of the volts`}
              onPointerDown={(event) => {
                event.preventDefault();
                dragged.current = at;
              }}
              onKeyDown={(event) => byKey(at, event)}
              onKeyUp={(event) => event.key.startsWith("Arrow") && onKeep(curve)}
              className="cursor-grab fill-ember stroke-page stroke-2 focus-visible:stroke-ink"
            />
          ))}
          <text x={width - RIGHT} y={HEIGHT - 2} textAnchor="end" className="fill-soft text-[11px]">
            volts in %, over the trigger in %
          </text>
        </svg>
      ) : null}
      {points ? (
        <div className="flex flex-wrap items-center gap-2 text-soft">
          <span className="flex-1">Drag a point, or move it by the arrow keys.</span>
          <Button onClick={() => onKeep({ points: withOneMore(points) })}>One point more</Button>
          <Button onClick={() => onKeep({ half_throttle_pct: half })}>By its half instead</Button>
        </div>
      ) : (
        <div className="flex flex-wrap items-center gap-x-3">
          <label className="flex min-w-60 flex-1 items-center gap-3">
            <span>Half trigger gives</span>
            <input
              type="range"
              min={1}
              max={99}
              step={1}
              value={now}
              onChange={(event) => onMove({ half_throttle_pct: Number(event.target.value) })}
              onPointerUp={() => onKeep(curve)}
              onKeyUp={() => onKeep(curve)}
              onBlur={() => onKeep(curve)}
              className="min-h-11 flex-1 accent-water sm:min-h-7"
            />
            <span className="figure w-12 text-right">{now} %</span>
          </label>
          <Button onClick={() => onKeep({ points: threeOf(drawn) })}>By points instead</Button>
        </div>
      )}
      <p className="text-[12px] text-soft">
        A curve in the controller makes slow steps finer; one in the transmitter only spreads the
        same steps.
      </p>
    </div>
  );
}
