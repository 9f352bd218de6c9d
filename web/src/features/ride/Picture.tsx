import { useEffect, useState } from "react";
import type { RideShown } from "../../api/types";
import type { StateWatts } from "../../stream/flow";
import { MiniStream } from "../../stream/MiniStream";
import { useValue } from "../../units/useValue";
import type { Medium } from "./medium";
import { placeOf } from "./place";
import { Spent } from "./Spent";
import { Traces } from "./Traces";

interface PictureProps {
  shown: RideShown;
  before: RideShown | null;
  beside: string;
  motors: number;
  medium: Medium;
  overWay: boolean;
}

/** The stream at the place where one points, the traces below, what happened, what it took. */
export function Picture({ shown, before, beside, motors, medium, overWay }: PictureProps) {
  const value = useValue();
  // Somewhere on the way says more than its beginning.
  const [at, setAt] = useState(() => Math.round((shown.height_m.length - 1) / 3));
  const rows = shown.rows as Record<string, (number | null)[]>;
  const last = (rows.time_s?.length ?? 1) - 1;
  useEffect(() => setAt((now) => Math.min(now, last)), [last]);
  const place = Math.min(at, last);
  const left = shown.left_km?.[place];
  const of = (name: string) => rows[name]?.[place] ?? 0;
  const watts = {
    ...Object.fromEntries(
      Object.keys(rows)
        .filter((name) => name.endsWith("_w"))
        .map((name) => [name, of(name)]),
    ),
    stage_losses_w: [of("gearing_heat_w")],
    // Water holds a hull back as tyres do a vehicle on wheels.
    ...(medium === "water" ? { rolling_w: of("water_w") } : {}),
    takes: { blades: "blade drag", ...(medium === "water" ? { rolling: "water" } : {}) },
  } as unknown as StateWatts;
  const most = Math.max(
    20,
    ...(rows.cells_w ?? []).map((w) => Math.abs(w ?? 0)),
    ...(rows.road_w ?? []).map((w) => Math.abs(w ?? 0)),
  );
  return (
    <div className="mt-2 grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <div className="min-w-0">
        <Traces
          shown={shown}
          before={before}
          beside={beside}
          overWay={overWay}
          at={place}
          onAt={setAt}
        />
      </div>
      <div className="min-w-0 text-[13px]">
        <section aria-label="At this place">
          <h2 className="text-[15px] font-semibold">
            {value(of("distance_m") / 1000, "km", 3)}, after {value(of("time_s") / 60, "min", 2)}
          </h2>
          <MiniStream
            state={watts}
            motors={motors}
            most={most}
            label={`Stream of power at this place: ${Math.round(of("cells_w"))} W from the cells`}
          />
          <dl className="grid grid-cols-3 gap-x-3 gap-y-1">
            <Small name="Speed" say={value(of("speed_kmh"), "km/h")} />
            {medium === "water" ? null : (
              <Small
                name={medium === "air" ? "Climb" : "Slope"}
                say={value(of("grade_pct"), "%", 2)}
              />
            )}
            <Small name="Charge" say={value(of("soc_pct"), "%", 3)} />
            <Small name="Motor" say={value(of("motor_current_a"), "A", 2)} />
            <Small name="Pack" say={value(of("battery_current_a"), "A", 2)} />
            <Small name="A cell" say={value(of("cell_voltage_v"), "V", 3)} />
            <Small name="Winding" say={value(of("winding_c"), "C", 2)} />
            <Small name="Can" say={value(of("case_c"), "C", 2)} />
            <Small name="Controller" say={value(of("controller_c"), "C", 2)} />
            <Small
              name="Range left"
              say={left === null || left === undefined ? "not known" : value(left, "km", 2)}
            />
          </dl>
        </section>
        <Spent ledger={shown.told.ledger_wh} />
        <section aria-label="What happened" className="mt-4">
          <h2 className="text-[15px] font-semibold">What happened</h2>
          {shown.told.events.length === 0 ? (
            <p className="text-soft">
              Nothing: no limit, no cut-off{medium === "ground" ? ", no brakes" : ""}.
            </p>
          ) : (
            <ol className="max-h-56 overflow-y-auto">
              {shown.told.events.map((event) => (
                <li key={`${event.t_s}${event.kind}${event.what}`} className="border-t border-line">
                  <button
                    type="button"
                    className="flex min-h-11 w-full gap-3 py-1 text-left hover:bg-sunk sm:min-h-8"
                    onClick={() => setAt(placeOf(rows.time_s ?? [], event.t_s))}
                  >
                    <span className="figure w-16 text-soft">
                      {value(event.distance_m / 1000, "km", 2)}
                    </span>
                    <span
                      className={`flex-1 ${event.kind === "brakes" ? "text-soft" : "text-stop"}`}
                    >
                      {event.what}
                    </span>
                  </button>
                </li>
              ))}
            </ol>
          )}
        </section>
      </div>
    </div>
  );
}

function Small({ name, say }: { name: string; say: string }) {
  return (
    <div>
      <dt className="text-[11.5px] text-soft">{name}</dt>
      <dd className="figure">{say}</dd>
    </div>
  );
}
