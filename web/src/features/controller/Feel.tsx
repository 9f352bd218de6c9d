import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useEffect, useState } from "react";
import type { BuildDocument, SheetAnswer } from "../../api/types";
import { Button } from "../../ui/Button";
import { useSize } from "../../ui/useSize";
import { useValue } from "../../units/useValue";

interface Props {
  answer: SheetAnswer;
  document: BuildDocument;
  onSet: (values: Record<string, unknown>) => void;
}

/** How it will feel: the curve and its steps, timing, ramp and drag brake in figures. */
export function Feel({ answer, document, onSet }: Props) {
  const value = useValue();
  const { throttle, timing, ramp, drag_brake: drag } = answer;
  return (
    <section aria-label="How it feels" className="text-[13px]">
      <h2 className="text-[16px] font-semibold">How it feels</h2>
      <Curve document={document} onSet={onSet} />
      <dl className="mt-2 grid grid-cols-[1fr_auto] gap-x-4">
        <Line
          name={
            throttle.steps_forward === null
              ? "One step of the throttle: its steps are not stated"
              : `One of ${throttle.steps_forward} steps: slow end, half, top`
          }
          say={
            throttle.kmh_per_step.low === null
              ? "–"
              : [throttle.kmh_per_step.low, throttle.kmh_per_step.half, throttle.kmh_per_step.high]
                  .map((kmh) => value(kmh, "km/h", 2))
                  .join(", ")
          }
        />
        <Line name="Turns from" say={value(throttle.start_volts, "V", 2)} />
        <Line name="Slowest steady speed" say={value(throttle.slowest_steady_kmh, "km/h", 2)} />
        <Line
          name={`Timing, all together, of ${value(timing.limit_deg, "deg")} that destroy`}
          say={value(timing.total_deg, "deg")}
        />
        <Line name="Free rpm" say={value(timing.free_rpm, "rpm", 3)} />
        <Line
          name="A grabbed trigger draws, without any limit"
          say={value(ramp.inrush_a, "A", 2)}
        />
        <Line name="And leaves the pack" say={value(ramp.least_pack_v, "V")} />
        <Line name="Friction alone holds it on" say={value(drag.holds_grade_pct, "%", 2)} />
        <Line name="On its hill the drag brake creeps at" say={value(drag.creep_kmh, "km/h", 2)} />
        <Line name="And warms the motors by" say={value(drag.heat_w, "W", 2)} />
      </dl>
      {throttle.slower_by.length > 0 ? (
        <>
          <h3 className="mt-3 font-semibold">What makes it slower still</h3>
          <ul>
            {throttle.slower_by.map((one) => (
              <li key={one.path} className="flex items-center gap-3 border-t border-line py-1">
                <span className="flex-1">{changeSaid(one.path, one.change)}</span>
                <span className="figure">{value(one.to_kmh, "km/h", 2)}</span>
                <Button
                  onClick={() => onSet(one.change)}
                  aria-label={`Set it: ${changeSaid(one.path, one.change)}`}
                >
                  Set it
                </Button>
              </li>
            ))}
          </ul>
        </>
      ) : null}
      {timing.tooth ? (
        <p className="mt-2 flex flex-wrap items-center gap-3">
          <span className="flex-1">
            The tooth that pays for the timing: top speed{" "}
            {value(timing.tooth.top_speed_kmh, "km/h")} with it.
          </span>
          <Button onClick={() => onSet(timing.tooth?.change ?? {})}>Set it</Button>
        </p>
      ) : null}
    </section>
  );
}

const NAMES: [RegExp, string][] = [
  [/kv_rpm_per_v$/, "the next slower winding, KV"],
  [/driver_teeth$/, "a driver of teeth"],
  [/battery\.series$/, "cells in series"],
  [/throttle_steps$/, "a controller with steps"],
  [/half_throttle_pct$/, "half trigger gives %"],
];

/** A change in words, by its main value. */
export function changeSaid(path: string, change: Record<string, unknown>): string {
  const name = NAMES.find(([pattern]) => pattern.test(path))?.[1] ?? path.replaceAll("_", " ");
  return `${name}: ${String(change[path] ?? "")}`;
}

function Line({ name, say }: { name: string; say: string }) {
  return (
    <>
      <dt className="border-t border-line py-1 text-soft">{name}</dt>
      <dd className="figure border-t border-line py-1 text-right">{say}</dd>
    </>
  );
}

const HEIGHT = 200;
const LEFT = 34;
const BOTTOM = 30;

/** Volts over the trigger; half of it is moved by a slider, by hand or by the arrow keys. */
function Curve({ document, onSet }: Omit<Props, "answer">) {
  const [ref, width] = useSize();
  const { curve, half_throttle_pct: old } = document.controller;
  const points = curve?.points ?? null;
  const stands = curve?.half_throttle_pct ?? old ?? 50;
  const [half, setHalf] = useState(stands);
  useEffect(() => setHalf(stands), [stands]);
  const keep = () => {
    if (half !== stands) onSet({ "controller.curve": { half_throttle_pct: half } });
  };
  const power = Math.log(half / 100) / Math.log(0.5);
  const drawn: [number, number][] = points
    ? [
        [0, 0],
        ...points.map((one): [number, number] => [one.trigger_pct, one.volts_pct]),
        [100, 100],
      ]
    : Array.from({ length: 51 }, (_, at): [number, number] => [2 * at, 100 * (at / 50) ** power]);
  const x = scaleLinear([0, 100], [LEFT, Math.max(width - 8, LEFT + 1)]);
  const y = scaleLinear([0, 100], [HEIGHT - BOTTOM, 10]);
  const path = line<[number, number]>()
    .x(([trigger]) => x(trigger))
    .y(([, volts]) => y(volts))(drawn);
  return (
    <div ref={ref}>
      {width > 120 ? (
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label={
            points
              ? "Throttle curve by points"
              : `Throttle curve: half trigger gives ${half} % of the volts`
          }
        >
          {[0, 50, 100].map((tick) => (
            <g key={tick} className="text-[11px]">
              <line x1={LEFT} x2={width - 8} y1={y(tick)} y2={y(tick)} className="stroke-line" />
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
          {points ? null : <circle cx={x(50)} cy={y(half)} r={5} className="fill-ember" />}
          <text x={width - 8} y={HEIGHT - 2} textAnchor="end" className="fill-soft text-[11px]">
            volts in %, over the trigger in %
          </text>
        </svg>
      ) : null}
      {points ? (
        <p className="flex items-center gap-3 text-soft">
          <span className="flex-1">The curve is drawn by {points.length} points.</span>
          <Button onClick={() => onSet({ "controller.curve": { half_throttle_pct: 30 } })}>
            By its half instead
          </Button>
        </p>
      ) : (
        <label className="flex items-center gap-3">
          <span>Half trigger gives</span>
          <input
            type="range"
            min={5}
            max={60}
            step={1}
            value={half}
            onChange={(event) => setHalf(Number(event.target.value))}
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
