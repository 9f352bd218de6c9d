import { useState } from "react";
import { loggerOf } from "../../api/ride";
import type { FaceInfo } from "../../api/types";
import { Button } from "../../ui/Button";
import { saveFile } from "../../ui/saveFile";
import { Tick } from "../../ui/Tick";
import { useUnits } from "../../units/preferences";
import { documentUnit, toShown } from "../../units/quantities";
import { useOpened } from "../../workbench/opened";
import type { RidePlan } from "./plan";
import { useMeters } from "./useMeters";

const NAMES: Record<string, [string, string]> = {
  satellite: ["Satellite speed", "most of a second behind; loses its fix now and then"],
  tachometer: ["Tachometer on the motor", "counts turns"],
  clamp: ["Clamp on a motor lead", "slow, and a few per cent off"],
  watt_meter: ["Watt meter at the pack", "one per cent"],
  infrared: ["Infrared thermometer", "sees a surface, never the copper inside"],
};

const SEEN: Record<string, [string, string]> = {
  speed_kmh: ["speed", "km/h"],
  motor_rpm: ["turns", "rpm"],
  motor_current_a: ["amps", "A"],
  battery_voltage_v: ["volts", "V"],
  battery_current_a: ["amps", "A"],
  energy_wh: ["used", "Wh"],
  case_c: ["motor's can", "C"],
  controller_c: ["controller", "C"],
  pack_c: ["pack", "C"],
};

const PACES = [1, 5, 20];

/** A ride of a vehicle that nobody sees, read by the faces of simulated instruments. */
export function Meters({ plan }: { plan: RidePlan }) {
  const { state } = useOpened();
  const { build, saving } = state;
  const [seed, setSeed] = useState(1);
  const [pace, setPace] = useState(5);
  const [cleared, setCleared] = useState(true);
  const [read, setRead] = useState(false);
  const meters = useMeters(build.id);
  const { day, shows, atS, over, trouble } = meters;
  const begin = () => {
    setRead(false);
    void meters.begin(plan, build.head, seed, cleared, pace);
  };
  return (
    <section aria-label="Meters on the bench" className="text-[13.5px]">
      <p className="max-w-[70ch] pb-2 text-soft">
        A vehicle near this build, a little off in everything that is doubtful, is taken on the ride
        as it is planned, and instruments read it as ordinary ones do. To practise reading before
        anything is bought or burnt; the same number is the same vehicle again.
      </p>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <label className="flex items-center gap-2">
          Vehicle number
          <input
            type="number"
            min={0}
            max={999999}
            value={seed}
            onChange={(event) => setSeed(Math.max(0, Math.round(Number(event.target.value))))}
            className="min-h-11 w-24 rounded-md border border-line bg-raised px-2 sm:min-h-8"
          />
        </label>
        <label className="flex items-center gap-2">
          as fast as in life
          <select
            value={pace}
            onChange={(event) => setPace(Number(event.target.value))}
            className="min-h-11 rounded-md border border-line bg-raised px-2 sm:min-h-8"
          >
            {PACES.map((one) => (
              <option key={one} value={one}>
                {one === 1 ? "once" : `${one} times`}
              </option>
            ))}
          </select>
        </label>
        <Tick label="the logger was cleared before" on={cleared} onChange={setCleared} />
        <Button kind="main" disabled={saving !== "saved"} onClick={begin}>
          {day ? "Begin again" : "Set off"}
        </Button>
        {day && !over ? <Button onClick={meters.stop}>Stop</Button> : null}
      </div>
      <p role="status" className="min-h-6 pt-1 text-soft">
        {trouble ??
          (day
            ? `${over ? "It is over, after" : "After"} ${Math.floor(atS / 60)} min ${Math.round(atS % 60)} s of ${Math.round(day.lasts_s / 60)} min.`
            : "")}
      </p>
      {day ? (
        <>
          <ul className="grid gap-3 pt-2 sm:grid-cols-2 lg:grid-cols-3">
            {Object.keys(NAMES).map((instrument) => (
              <Instrument
                key={instrument}
                instrument={instrument}
                faces={day.faces.filter((face) => face.instrument === instrument)}
                shows={shows}
              />
            ))}
            <li className="rounded-lg border border-line bg-raised p-3">
              <h3 className="font-semibold">Logger in the controller</h3>
              <p className="text-[12px] text-soft">
                Ten minutes of memory; says nothing until it is read.
              </p>
              <div className="flex flex-wrap items-center gap-2 pt-2">
                <Button disabled={!over} onClick={() => setRead(true)}>
                  Read it
                </Button>
                {read && day.logger_rows > 0 ? (
                  <a href={loggerOf(build.id, day.id)} download className="text-water underline">
                    {day.logger_rows} rows, CSV
                  </a>
                ) : null}
              </div>
              {read && day.logger_rows === 0 ? (
                <p role="status" className="pt-1 text-stop">
                  Empty: it was full from the last time and recorded nothing. Clear it before each
                  ride.
                </p>
              ) : null}
            </li>
          </ul>
          <p className="pt-3">
            <Button
              kind="plain"
              disabled={!over}
              onClick={() =>
                saveFile("test-day.json", JSON.stringify(day.log, null, 1), "application/json")
              }
            >
              The day's readings as a log document
            </Button>
          </p>
        </>
      ) : null}
    </section>
  );
}

interface InstrumentProps {
  instrument: string;
  faces: FaceInfo[];
  shows: Record<string, number | null>;
}

function Instrument({ instrument, faces, shows }: InstrumentProps) {
  const [aimed, setAimed] = useState(0);
  const [name, say] = NAMES[instrument] ?? [instrument, ""];
  const aims = instrument === "infrared";
  const seen = aims ? faces.slice(aimed, aimed + 1) : faces;
  return (
    <li className="rounded-lg border border-line bg-raised p-3">
      <h3 className="font-semibold">{name}</h3>
      <p className="text-[12px] text-soft">{say}</p>
      {aims ? (
        <div role="radiogroup" aria-label="Aimed at" className="flex gap-1 pt-1">
          {faces.map((face, at) => (
            <Button
              key={face.id}
              kind="plain"
              role="radio"
              aria-checked={at === aimed}
              className={at === aimed ? "bg-sunk font-semibold" : ""}
              onClick={() => setAimed(at)}
            >
              {SEEN[face.column]?.[0]}
            </Button>
          ))}
        </div>
      ) : null}
      <dl className="flex flex-wrap gap-x-5 pt-1">
        {seen.map((face) => (
          <Face key={face.id} face={face} value={shows[face.id]} named={!aims} />
        ))}
      </dl>
    </li>
  );
}

interface FaceProps {
  face: FaceInfo;
  value: number | null | undefined;
  named: boolean;
}

function Face({ face, value, named }: FaceProps) {
  const { choice } = useUnits();
  const [name, unit] = SEEN[face.column] ?? [face.column, ""];
  const own = documentUnit(unit, choice);
  // As it stands on the face: to its last digit, noise and all.
  const places = unit === "rpm" ? 0 : unit === "V" || unit === "Wh" ? 2 : 1;
  return (
    <div>
      <dt className={named ? "text-[12px] text-soft" : "sr-only"}>{name}</dt>
      <dd className="figure text-[26px] leading-tight">
        {value === undefined || value === null ? "- - -" : toShown(value, own).toFixed(places)}
        <span className="ml-1 text-[13px] text-soft">{own.sign}</span>
      </dd>
    </div>
  );
}
