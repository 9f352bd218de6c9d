import { useEffect, useMemo, useState } from "react";
import { useDebounce } from "use-debounce";
import { ride, rideTable } from "../../api/ride";
import type { BuildDocument, RideShown } from "../../api/types";
import type { StateWatts } from "../../stream/flow";
import { MiniStream } from "../../stream/MiniStream";
import { Button } from "../../ui/Button";
import { saveFile } from "../../ui/saveFile";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";
import { useEnds } from "../../units/Spread";
import { useValue } from "../../units/useValue";
import { useOpened } from "../../workbench/opened";
import { Course } from "./Course";
import { placeOf } from "./place";
import { keepPlan, keptPlan, rideOf, usualPlan } from "./plan";
import { Spent } from "./Spent";
import { Traces } from "./Traces";

const DRAWS = 64;
/** Rides longer than this are told without bands, which would take too long. */
const LONG_S = 3600;

/** A ride in time: the road, what the drive did on it, and where the watt-hours went. */
export function RidePage() {
  const { state } = useOpened();
  const { document, build, answer } = state;
  const cruise = answer?.moments.find((moment) => moment.id === "cruise")?.state.speed_mps ?? null;
  const [said, setSaid] = useState(() => keptPlan(build.id));
  const plan = useMemo(() => said ?? usualPlan(cruise), [said, cruise]);
  const ready = said !== null || answer !== null;
  const [asked] = useDebounce(plan, 250);
  const ridden = inAir(document, asked.airC);
  const { data, error } = useAsked(
    [ridden, asked, "ride"],
    () => ride(ridden, rideOf(asked), 0),
    ready,
  );
  const short = data ? data.told.time_s <= LONG_S : false;
  // Bands take longer, and wait until nothing has changed for a while.
  const [rest] = useDebounce(asked, 900);
  const banded = useAsked(
    [ridden, rest, "ride", DRAWS],
    () => ride(ridden, rideOf(rest), DRAWS),
    ready && short && rest === asked,
  );
  const pinned = build.pinned.number === build.head ? null : build.pinned.document;
  const before = useAsked(
    [pinned, asked, "ride"],
    () => ride(inAir(pinned ?? document, asked.airC), rideOf(asked), 0),
    ready && pinned !== null,
  );
  const save = async () => {
    const text = await rideTable(ridden, rideOf(asked));
    saveFile("ride.csv", text as string, "text/csv");
  };
  return (
    <main className="flex-1 px-3 pt-3 pb-8 sm:px-6">
      <Course
        plan={plan}
        onPlan={(next) => {
          setSaid(next);
          keepPlan(build.id, next);
        }}
      />
      {data && !error ? (
        <>
          <Told
            shown={data}
            bands={banded.data?.told.bands ?? {}}
            chance={banded.data?.told.cut_off_chance ?? null}
            before={pinned ? (before.data ?? null) : null}
            onSave={() => void save()}
          />
          <Picture
            shown={data}
            before={pinned ? (before.data ?? null) : null}
            motors={document.motor.count ?? 1}
            overWay={asked.kind === "road"}
          />
        </>
      ) : (
        <Waiting error={error} what="Riding" />
      )}
    </main>
  );
}

/** The build in other air. */
const inAir = (document: BuildDocument, airC: number | null): BuildDocument =>
  airC === null
    ? document
    : { ...document, conditions: { ...document.conditions, ambient_c: airC } };

interface ToldProps {
  shown: RideShown;
  bands: RideShown["told"]["bands"];
  chance: number | null;
  before: RideShown | null;
  onSave: () => void;
}

const ENDED: Record<string, string> = {
  cut_off: "It was cut off on the way and stands.",
  empty: "The pack was empty on the way.",
  burnt: "A part burnt on the way.",
  cannot_climb: "It can't get up the hill.",
  too_long: "It takes longer than two days.",
};

/** What it came to, in one line of figures, with how far each may be off. */
function Told({ shown, bands, chance, before, onSave }: ToldProps) {
  const value = useValue();
  const ends = useEnds();
  const { told } = shown;
  const figure = (name: string, now: number | null, unit: string, key: string) => {
    const was = before ? figureOf(before, key) : null;
    const between = ends(bands[key], unit, 2);
    return (
      <div key={key}>
        <dt className="text-[12px] text-soft">{name}</dt>
        <dd className="figure text-[16px]">
          {value(now, unit, 3)}
          {between ? <small className="ml-1 font-normal text-soft">{between}</small> : null}
          {was !== null && now !== null && value(was, unit) !== value(now, unit) ? (
            <small className="block font-normal text-water">was {value(was, unit)}</small>
          ) : null}
        </dd>
      </div>
    );
  };
  const minutes = told.time_s >= 120;
  return (
    <section aria-label="What it came to" className="mt-2 border-y border-line py-2">
      {told.finished ? null : (
        <p role="status" className="pb-1 font-semibold text-stop">
          {ENDED[told.ended_by] ?? "It did not arrive."}
        </p>
      )}
      <div className="flex flex-wrap items-start gap-x-7 gap-y-2">
        <dl className="flex flex-1 flex-wrap gap-x-7 gap-y-2">
          {figure("Arrives with", told.soc_end_pct, "%", "soc_end_pct")}
          {figure("Way", told.distance_m / 1000, "km", "distance_km")}
          {minutes ? (
            <div>
              <dt className="text-[12px] text-soft">Time</dt>
              <dd className="figure text-[16px]">{value(told.time_s / 60, "min", 3)}</dd>
            </div>
          ) : (
            figure("Time", told.time_s, "s", "time_s")
          )}
          {figure("From the pack", told.energy_wh, "Wh", "energy_wh")}
          {figure("For each km", told.energy_wh_per_km, "Wh/km", "energy_wh_per_km")}
          {figure("Hottest winding", told.peaks.winding_c, "C", "peaks.winding_c")}
          {figure("Lowest cell", told.least.cell_voltage_v, "V", "least.cell_voltage_v")}
        </dl>
        <Button kind="plain" onClick={onSave}>
          Save the table
        </Button>
      </div>
      {chance !== null && chance > 0 ? (
        <p className="pt-1 text-[13px] text-watch">
          As far as the build is known, it is cut off before the end {Math.round(100 * chance)}{" "}
          times in a hundred.
        </p>
      ) : null}
      {told.behind_s > 1 ? (
        <p className="pt-1 text-[13px] text-soft">
          For {value(told.behind_s, "s", 2)} it was slower than asked: at full throttle it does no
          more.
        </p>
      ) : null}
    </section>
  );
}

function figureOf(shown: RideShown, key: string): number | null {
  const { told } = shown;
  const own: Record<string, number | null> = {
    soc_end_pct: told.soc_end_pct,
    distance_km: told.distance_m / 1000,
    time_s: told.time_s,
    energy_wh: told.energy_wh,
    energy_wh_per_km: told.energy_wh_per_km ?? null,
    "peaks.winding_c": told.peaks.winding_c,
    "least.cell_voltage_v": told.least.cell_voltage_v,
  };
  return own[key] ?? null;
}

interface PictureProps {
  shown: RideShown;
  before: RideShown | null;
  motors: number;
  overWay: boolean;
}

/** The stream at the place where one points, the traces below, what happened, what it took. */
function Picture({ shown, before, motors, overWay }: PictureProps) {
  const value = useValue();
  // Somewhere on the way says more than its beginning.
  const [at, setAt] = useState(() => Math.round((shown.height_m.length - 1) / 3));
  const rows = shown.rows as Record<string, (number | null)[]>;
  const last = (rows.time_s?.length ?? 1) - 1;
  useEffect(() => setAt((now) => Math.min(now, last)), [last]);
  const place = Math.min(at, last);
  const of = (name: string) => rows[name]?.[place] ?? 0;
  const watts = {
    ...Object.fromEntries(
      Object.keys(rows)
        .filter((name) => name.endsWith("_w"))
        .map((name) => [name, of(name)]),
    ),
    stage_losses_w: [of("gearing_heat_w")],
    takes: {},
  } as unknown as StateWatts;
  const most = Math.max(
    20,
    ...(rows.cells_w ?? []).map((w) => Math.abs(w ?? 0)),
    ...(rows.road_w ?? []).map((w) => Math.abs(w ?? 0)),
  );
  return (
    <div className="mt-2 grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <div className="min-w-0">
        <Traces shown={shown} before={before} overWay={overWay} at={place} onAt={setAt} />
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
            <Small name="Slope" say={value(of("grade_pct"), "%", 2)} />
            <Small name="Charge" say={value(of("soc_pct"), "%", 3)} />
            <Small name="Motor" say={value(of("motor_current_a"), "A", 2)} />
            <Small name="Pack" say={value(of("battery_current_a"), "A", 2)} />
            <Small name="A cell" say={value(of("cell_voltage_v"), "V", 3)} />
            <Small name="Winding" say={value(of("winding_c"), "C", 2)} />
            <Small name="Can" say={value(of("case_c"), "C", 2)} />
            <Small name="Controller" say={value(of("controller_c"), "C", 2)} />
          </dl>
        </section>
        <Spent ledger={shown.told.ledger_wh} />
        <section aria-label="What happened" className="mt-4">
          <h2 className="text-[15px] font-semibold">What happened</h2>
          {shown.told.events.length === 0 ? (
            <p className="text-soft">Nothing: no limit, no cut-off, no brakes.</p>
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
