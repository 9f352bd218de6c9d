import type { RideShown } from "../../api/types";
import { SeverityWord } from "../../ui/Severity";
import { useEnds } from "../../units/Spread";
import { useValue } from "../../units/useValue";

interface ToldProps {
  shown: RideShown;
  bands: RideShown["told"]["bands"];
  before: RideShown | null;
}

/** What it came to, in one line of figures, with how far each may be off. */
export function Told({ shown, bands, before }: ToldProps) {
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
      <ul aria-label="Verdicts of the ride" className="pb-1.5 text-[13.5px]">
        {(shown.verdicts ?? []).map((verdict) => (
          <li key={verdict.id} className="grid grid-cols-[64px_1fr] gap-x-2 py-0.5">
            <SeverityWord severity={verdict.severity} />
            <p>
              <b className="font-semibold">{verdict.title}.</b>{" "}
              <span className="text-soft">{verdict.why}</span>
            </p>
          </li>
        ))}
      </ul>
      <dl className="flex flex-wrap gap-x-7 gap-y-2">
        {figure(
          told.finished ? "Arrives with" : "Left in the pack",
          told.soc_end_pct,
          "%",
          "soc_end_pct",
        )}
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
