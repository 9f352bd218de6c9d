import { useEffect, useMemo, useRef, useState } from "react";
import { useDebounce } from "use-debounce";
import { settingsSheet } from "../../api/controller";
import type { BuildDocument, CurveDocument, SheetAnswer } from "../../api/types";
import { Button } from "../../ui/Button";
import { useAsked } from "../../ui/useAsked";
import { useValue } from "../../units/useValue";
import { Curve } from "./Curve";
import { curveOf, STRAIGHT } from "./curve";

/** So many ms after the slider rests the engine is asked how it would feel. */
const PAUSE = 60;

interface Props {
  answer: SheetAnswer;
  document: BuildDocument;
  onSet: (values: Record<string, unknown>) => void;
}

/** How it will feel: the curve and its steps, timing, ramp and drag brake in figures. */
export function Feel({ answer, document, onSet }: Props) {
  const value = useValue();
  const stands = useMemo(() => curveOf(document), [document]);
  const [curve, setCurve] = useState(stands);
  // What comes back may be behind what is moved meanwhile; only what is not our own is taken up.
  const sent = useRef<CurveDocument | null>(null);
  useEffect(() => {
    if (sent.current && same(stands, sent.current)) return;
    sent.current = null;
    setCurve(stands);
  }, [stands]);
  const keep = (kept: CurveDocument) => {
    setCurve(kept);
    if (same(kept, sent.current ?? stands)) return;
    sent.current = kept;
    onSet({ "controller.curve": kept });
  };
  const [asked] = useDebounce(curve, PAUSE);
  const isMoved = !same(asked, stands);
  const tried = isMoved ? bent(document, asked) : document;
  const felt = useAsked([tried, "settings"], () => settingsSheet(tried), isMoved);
  const { throttle, timing, ramp, drag_brake: drag } = (isMoved && felt.data) || answer;
  return (
    <section aria-label="How it feels" className="text-[13px]">
      <h2 className="text-[16px] font-semibold">How it feels</h2>
      <Curve
        drawn={throttle.curve}
        curve={curve}
        half={document.controller.half_throttle_pct ?? STRAIGHT}
        onMove={setCurve}
        onKeep={keep}
      />
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

const bent = (document: BuildDocument, curve: CurveDocument): BuildDocument => ({
  ...document,
  controller: { ...document.controller, curve },
});

const same = (one: CurveDocument, other: CurveDocument) =>
  JSON.stringify(one) === JSON.stringify(other);

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
