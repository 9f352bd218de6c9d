import { useState } from "react";
import type { BuildDocument, Facts, Finding, IdentifyAnswer } from "../../../api/types";
import { Button } from "../../../ui/Button";
import { Notice } from "../../../ui/Notice";
import { digits, typed } from "../../../units/format";
import { SCALES, toStored } from "../../../units/quantities";
import { useValue } from "../../../units/useValue";
import type { BenchState, Workbench } from "../../../workbench/workbench";
import { learned } from "./learned";
import { useIdentified } from "./useIdentified";

interface Props {
  propeller: NonNullable<BuildDocument["propeller"]>;
  bench: Workbench;
  state: BenchState;
}

type Reading = Record<(typeof COLUMNS)[number]["key"], string>;

const COLUMNS = [
  { key: "throttle_pct", label: "Throttle", unit: "%" },
  { key: "voltage_v", label: "Volts", unit: "V" },
  { key: "current_a", label: "Amps", unit: "A" },
  { key: "rpm", label: "Turns", unit: "rpm" },
  { key: "thrust_n", label: "Thrust", unit: "" },
] as const;

const BLANK: Reading = { throttle_pct: "100", voltage_v: "", current_a: "", rpm: "", thrust_n: "" };

interface Kept {
  scale: string;
  readings: Reading[];
}

/** Motor and propeller on a stand: readings typed as they are taken, and which of the two is off. */
export function Stand({ propeller, bench, state }: Props) {
  const key = `young-torrent.stand.${state.build.id}`;
  const [kept, setKept] = useState<Kept>(() => read(key));
  const [open, setOpen] = useState(() => kept.readings.some((one) => one.rpm !== ""));
  const keep = (next: Kept) => {
    setKept(next);
    localStorage.setItem(key, JSON.stringify(next));
  };
  const scale = SCALES.find((unit) => unit.id === kept.scale) ?? SCALES[0];
  const write = (place: number, column: keyof Reading, text: string) =>
    keep({
      ...kept,
      readings: kept.readings.map((one, at) => (at === place ? { ...one, [column]: text } : one)),
    });
  const points = kept.readings.flatMap((one) => point(one, scale));
  const ratio = state.answer?.ratio ?? 1;
  const body = {
    format: "young-torrent.facts/1",
    motor: motorAsSaid(state, ratio),
    stand: { propeller, points },
  } as unknown as Facts;
  const answer = useIdentified(body, open && points.length > 0);
  return (
    <details
      className="mb-3 rounded-md border border-line px-3 py-1"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer py-1 text-[13px] font-semibold text-water">
        Stand it on a scale: which is off, motor or propeller?
      </summary>
      <div className="grid gap-x-8 gap-y-2 pb-2 lg:grid-cols-[1.1fr_1fr]">
        <div>
          <p className="max-w-prose text-[12.5px] text-soft">
            Held fast, in still air, nobody in the plane of the blades or before them. Read all five
            at once, after a few seconds of full throttle; of one motor where there are more. What
            the scale shows at rest is taken off first.
          </p>
          <label className="flex items-center gap-2 py-1.5 text-[12.5px]">
            The scale shows
            <select
              value={scale.id}
              onChange={(event) => keep({ ...kept, scale: event.target.value })}
              className="min-h-11 rounded-md border border-line bg-raised px-2 sm:min-h-8"
            >
              {SCALES.map((unit) => (
                <option key={unit.id} value={unit.id}>
                  {unit.sign}
                </option>
              ))}
            </select>
          </label>
          <table className="w-full max-w-xl text-[13px]">
            <thead>
              <tr className="text-left text-soft">
                {COLUMNS.map((column) => (
                  <th key={column.key} scope="col" className="pr-2 font-normal">
                    {column.label} <span className="text-[12px]">{column.unit || scale.sign}</span>
                  </th>
                ))}
                <th>
                  <span className="sr-only">Take out</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {kept.readings.map((one, place) => (
                <tr key={place}>
                  {COLUMNS.map((column) => {
                    const text = one[column.key];
                    const wrong = text !== "" && typed(text) === null;
                    return (
                      <td key={column.key} className="py-0.5 pr-2">
                        <input
                          aria-label={`${column.label}, reading ${place + 1}`}
                          aria-invalid={wrong}
                          inputMode="decimal"
                          value={text}
                          onChange={(event) => write(place, column.key, event.target.value)}
                          className={`min-h-11 w-full min-w-12 rounded-md border bg-raised px-2 tabular-nums sm:min-h-8 ${wrong ? "border-stop" : "border-line"}`}
                        />
                      </td>
                    );
                  })}
                  <td>
                    <Button
                      kind="plain"
                      aria-label={`Take out reading ${place + 1}`}
                      onClick={() => keep({ ...kept, readings: without(kept.readings, place) })}
                    >
                      ×
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Button
            className="mt-1"
            onClick={() => keep({ ...kept, readings: [...kept.readings, BLANK] })}
          >
            Another reading
          </Button>
        </div>
        <div aria-live="polite">
          {answer.error ? <Notice tone="stop">{answer.error.message}</Notice> : null}
          {points.length === 0 ? (
            <p className="text-[12.5px] text-soft">
              Volts, amps and turns are enough to begin; thrust tells the propeller from the motor.
            </p>
          ) : null}
          {points.length > 0 && answer.data?.stand ? (
            <Outcome told={answer.data} bench={bench} />
          ) : null}
        </div>
      </div>
    </details>
  );
}

function Outcome({ told, bench }: { told: IdentifyAnswer; bench: Workbench }) {
  const value = useValue();
  const stand = told.stand;
  if (!stand) return null;
  const test = Object.fromEntries(
    Object.entries(stand.propeller.values).filter(([name]) => name.startsWith("static.")),
  );
  const kv = told.motor?.values.kv_rpm_per_v;
  const ofStand = kv?.route === "the stand" ? { kv_rpm_per_v: kv } : null;
  const take = (section: string, values: Record<string, Finding>) =>
    bench.act(learned(section, values));
  return (
    <div className="border-l-4 border-water bg-raised px-3 py-2 text-[13px]">
      {stand.say.map((line) => (
        <p key={line} className={stand.off.length ? "font-semibold" : ""}>
          {line}
        </p>
      ))}
      <div className="overflow-x-auto">
        <table className="mt-1 tabular-nums">
          <thead>
            <tr className="text-left text-soft">
              {["At", "it gives", "it takes", "of a perfect disc"].map((heading) => (
                <th key={heading} scope="col" className="pr-4 font-normal">
                  {heading}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {stand.readings.map((one, place) => (
              <tr key={place} className="align-top">
                <td className="pr-4">
                  {digits(one.rpm)} rpm
                  {one.expected_rpm ? (
                    <span className="block text-[12px] text-soft">
                      {digits(one.expected_rpm)} by its KV
                    </span>
                  ) : null}
                </td>
                <td className="pr-4">
                  {value(one.thrust_n, "N")}
                  <span className="block text-[12px] text-soft">
                    {value(one.expected_thrust_n, "N")} expected
                  </span>
                </td>
                <td className="pr-4">
                  {value(one.shaft_power_w, "W")}
                  <span className="block text-[12px] text-soft">
                    {value(one.expected_shaft_power_w, "W")} expected
                  </span>
                </td>
                <td>{one.figure_of_merit ? `${digits(100 * one.figure_of_merit, 2)} %` : "–"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {[
        ...Object.entries(stand.propeller.missing),
        ...Object.entries(told.motor?.missing ?? {}),
      ].map(([name, how]) => (
        <p key={name} className="text-[12.5px] text-soft">
          {how}
        </p>
      ))}
      {stand.off.includes("readings") ? null : (
        <p className="flex flex-wrap gap-2 pt-2">
          {"static.thrust_n" in test ? (
            <Button kind="main" onClick={() => take("propeller", test)}>
              Keep it as the propeller's test
            </Button>
          ) : null}
          {ofStand ? (
            <Button onClick={() => take("motor", ofStand)}>
              Take the motor's KV, {digits(ofStand.kv_rpm_per_v.value)} rpm/V
            </Button>
          ) : null}
        </p>
      )}
    </div>
  );
}

/** A reading as it is stored; none where volts, amps or turns are missing or no number. */
function point(one: Reading, scale: (typeof SCALES)[number]) {
  const [throttle, volts, amps, rpm, thrust] = COLUMNS.map(({ key }) => typed(one[key]));
  if (volts == null || amps == null || rpm == null) return [];
  return [
    {
      ...(throttle == null ? {} : { throttle_pct: throttle }),
      voltage_v: volts,
      current_a: amps,
      rpm,
      ...(thrust == null ? {} : { thrust_n: toStored(thrust, scale) }),
    },
  ];
}

/** What is known of the motor; what was only guessed is left for the stand to tell. */
function motorAsSaid({ document }: BenchState, ratio: number) {
  const own = document.motor as unknown as Record<string, unknown>;
  const known = (name: string) => {
    const { origin } = document.provenance?.[`motor.${name}`] ?? {};
    return own[name] != null && origin !== "estimated" && origin !== "default";
  };
  const figures = ["kv_rpm_per_v", "resistance_ohm", "no_load_current_a"].filter(known);
  const shape = ["diameter_mm", "length_mm", "mass_kg", "rotor"].filter(
    (name) => own[name] != null,
  );
  return {
    ...Object.fromEntries([...figures, ...shape].map((name) => [name, own[name]])),
    commutation: own.commutation ?? "brushless",
    ...(ratio > 1 ? { reduction: ratio } : {}),
  };
}

const without = (readings: Reading[], place: number): Reading[] => {
  const rest = readings.filter((_, at) => at !== place);
  return rest.length > 0 ? rest : [BLANK];
};

function read(key: string): Kept {
  const nothing = { scale: "g", readings: [BLANK] };
  try {
    return { ...nothing, ...(JSON.parse(localStorage.getItem(key) ?? "{}") as Partial<Kept>) };
  } catch {
    return nothing;
  }
}
