import { useState } from "react";
import { type OneSpeed, speeds, tyre } from "../../api/gearing";
import { useSize } from "../../ui/useSize";
import { useValue } from "../../units/useValue";
import { Ask, SetIt, useAsked, type ViewProps, Waiting } from "./common";
import { SpeedRuler } from "./SpeedRuler";
import { TyreSection } from "./TyreSection";

/** From a tyre's marking to what it rolls; from a tachometer to speed, and back to motor rpm. */
export function Tyre({ document, onSet, nowKmh }: ViewProps & { nowKmh: number | null }) {
  const [marking, setMarking] = useState("");
  const [speed, setSpeed] = useState<number | null>(null);
  const [pressure, setPressure] = useState<number | null>(100);
  const read = useAsked(
    [marking, speed, pressure, "tyre"],
    () => tyre(marking, speed ?? 0, (pressure ?? 100) / 100),
    marking.trim() !== "",
  );
  const [one, setOne] = useState<OneSpeed>({});
  // Nothing said, it is what belongs to the top speed.
  const isSaid = Object.keys(one).length === 1;
  const known: OneSpeed = isSaid || nowKmh === null ? one : { speed_kmh: nowKmh };
  const [ref, width] = useSize();
  const told = useAsked(
    [document, known, "speeds"],
    () => speeds(document, known),
    Object.keys(known).length === 1,
  );
  const value = useValue();
  const marked = marking.trim() !== "" && !read.error ? read.data : undefined;
  return (
    <div className="grid gap-x-8 gap-y-5 lg:grid-cols-2">
      <section>
        <h2 className="text-[15px] font-semibold">What the tyre rolls</h2>
        <p className="text-[13px] text-soft">
          Best is a tape: mark the tyre, sit on it, roll one turn, measure.
          {document.wheel
            ? ` Now the build says ${value(document.wheel.rolling_circumference_mm, "mm", 4)}.`
            : ""}
        </p>
        <div className="flex flex-wrap items-center gap-x-5 gap-y-1 py-1 text-[13.5px]">
          <label className="flex items-center gap-2">
            Marked
            <input
              value={marking}
              placeholder="47-406"
              onChange={(event) => setMarking(event.target.value)}
              className="min-h-11 w-32 rounded-md border border-line bg-raised px-2 placeholder:text-soft sm:min-h-8"
            />
          </label>
          <Ask label="turning at" unit="km/h" value={speed} onValue={setSpeed} />
          <Ask label="pressure, of the usual" unit="%" value={pressure} onValue={setPressure} />
        </div>
        {marking.trim() === "" ? null : read.data && !read.error ? (
          <>
            <p className="text-[13.5px]">
              {read.data.read_as}: {value(read.data.diameter_mm, "mm", 4)} across, rolls{" "}
              <b className="figure">{value(read.data.rolls_mm, "mm", 4)}</b>{" "}
              <span className="text-soft">
                ({value(read.data.rolls_low_mm, "mm", 4)} to{" "}
                {value(read.data.rolls_high_mm, "mm", 4)}, by load and pressure)
              </span>
              {speed ? `; ${value(read.data.at_speed_mm, "mm", 4)} at that speed` : ""}
            </p>
            <SetIt
              label="what the tyre rolls"
              onClick={() =>
                onSet({
                  "wheel.rolling_circumference_mm": Number((read.data?.rolls_mm ?? 0).toFixed(0)),
                })
              }
            />
          </>
        ) : (
          <Waiting error={read.error} what="Reading" />
        )}
        {document.wheel ? (
          <TyreSection
            diameterMm={marked?.diameter_mm ?? null}
            rollsMm={marked?.rolls_mm ?? document.wheel.rolling_circumference_mm}
            lowMm={marked?.rolls_low_mm ?? null}
            highMm={marked?.rolls_high_mm ?? null}
          />
        ) : null}
      </section>
      <section>
        <h2 className="text-[15px] font-semibold">Speeds that belong together</h2>
        <p className="text-[13px] text-soft">
          A tachometer on the free wheel gives its rpm; a satellite speed gives the motor's rpm of a
          run that nobody logged. Give one.
        </p>
        <div className="flex flex-wrap items-center gap-x-5 gap-y-1 py-1">
          <Ask
            label="Wheel"
            unit="rpm"
            value={one.wheel_rpm ?? null}
            onValue={(rpm) => setOne(rpm === null ? {} : { wheel_rpm: rpm })}
          />
          <Ask
            label="Speed"
            unit="km/h"
            value={one.speed_kmh ?? null}
            onValue={(kmh) => setOne(kmh === null ? {} : { speed_kmh: kmh })}
          />
          <Ask
            label="Motor"
            unit="rpm"
            value={one.motor_rpm ?? null}
            onValue={(rpm) => setOne(rpm === null ? {} : { motor_rpm: rpm })}
          />
        </div>
        {told.data && !told.error ? (
          <p className="text-[13.5px]">
            {isSaid ? "" : "At its top speed: "}wheel{" "}
            <b className="figure">{value(told.data.wheel_rpm, "rpm", 4)}</b>, speed{" "}
            <b className="figure">{value(told.data.speed_kmh, "km/h", 4)}</b>, motor{" "}
            <b className="figure">{value(told.data.motor_rpm, "rpm", 4)}</b>
            {told.data.volts_free != null ? (
              <span className="text-soft">
                {" "}
                (free it would take {value(told.data.volts_free, "V")})
              </span>
            ) : null}
          </p>
        ) : (
          <Waiting error={told.error} what="Counting" />
        )}
        <div ref={ref} className="mt-3">
          {told.data ? <SpeedRuler told={told.data} width={width} /> : null}
        </div>
      </section>
    </div>
  );
}
