import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError } from "../../api/client";
import { keepRide, keptRides, runDocument, takeRideOut } from "../../api/ride";
import type { KeptRideCard } from "../../api/types";
import { Button } from "../../ui/Button";
import { SeverityWord } from "../../ui/Severity";
import { useAsked } from "../../ui/useAsked";
import { Waiting } from "../../ui/Waiting";
import { useEnds } from "../../units/Spread";
import { useValue } from "../../units/useValue";
import { useOpened } from "../../workbench/opened";

interface Props {
  /** Rides it anew, on the build as it stands. */
  onRide: (kept: KeptRideCard) => void;
}

/** Rides that were kept, each as it came out on the version of the build that it was ridden on. */
export function Kept({ onRide }: Props) {
  const { state } = useOpened();
  const { build } = state;
  const client = useQueryClient();
  const key = [build.id, "kept rides"];
  const { data, error } = useAsked([...key, build.head], () => keptRides(build.id));
  const [gone, setGone] = useState<KeptRideCard | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const done = async (work: Promise<unknown>) => {
    setTrouble(null);
    try {
      await work;
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTrouble(`Not done: ${problem.where} ${problem.what}.`);
      return false;
    }
    await client.invalidateQueries({ queryKey: ["asked", ...key] });
    return true;
  };
  const takeOut = async (kept: KeptRideCard) => {
    if (await done(takeRideOut(build.id, kept.id))) setGone(kept);
  };
  const bringBack = async (kept: KeptRideCard) => {
    const { version, name, ride, air_c, track } = kept;
    if (await done(keepRide(build.id, kept.id, { version, name, ride, air_c, track })))
      setGone(null);
  };
  if (!data) return <Waiting error={error} what="Looking for kept rides" />;
  return (
    <section aria-label="Kept rides" className="text-[13.5px]">
      <p role="status" className="flex min-h-8 items-center gap-2 text-soft">
        {trouble}
        {gone && !trouble ? (
          <>
            "{gone.name}" is taken out.
            <Button kind="plain" onClick={() => void bringBack(gone)}>
              Bring it back
            </Button>
          </>
        ) : null}
      </p>
      {data.length === 0 ? (
        <p className="text-soft">
          None yet. A ride that is kept stays as it came out, with the version of the build that it
          was ridden on.
        </p>
      ) : (
        <ul>
          {data.map((kept) => (
            <One
              key={kept.id}
              kept={kept}
              buildId={build.id}
              onRide={() => onRide(kept)}
              onOut={() => void takeOut(kept)}
            />
          ))}
        </ul>
      )}
    </section>
  );
}

interface OneProps {
  kept: KeptRideCard;
  buildId: string;
  onRide: () => void;
  onOut: () => void;
}

function One({ kept, buildId, onRide, onOut }: OneProps) {
  const value = useValue();
  const ends = useEnds();
  const { told } = kept;
  const worst = kept.verdicts[0];
  const band = ends(told.bands.soc_end_pct, "%", 2);
  return (
    <li className="border-t border-line py-2">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h3 className="text-[15px] font-semibold">{kept.name}</h3>
        <span className={kept.older ? "text-watch" : "text-soft"}>
          {kept.older
            ? `of an older version, ${kept.version}: the build has changed since`
            : `version ${kept.version}`}
          , {new Date(kept.made_at).toLocaleDateString("en-GB")}
          {kept.air_c === null ? "" : `, in air of ${value(kept.air_c, "C", 2)}`}
        </span>
      </div>
      {worst ? (
        <p className="flex flex-wrap gap-x-2 py-0.5">
          <SeverityWord severity={worst.severity} /> {worst.title}.
        </p>
      ) : null}
      <p className="text-soft">
        From {value(kept.ride.start?.soc_pct ?? 100, "%", 2)} to{" "}
        <b className="text-ink">{value(told.soc_end_pct, "%", 2)}</b>
        {band ? ` (${band})` : ""}, {value(told.distance_m / 1000, "km", 3)} in{" "}
        {value(told.time_s / 60, "min", 2)}, {value(told.energy_wh, "Wh", 3)}, winding up to{" "}
        {value(told.peaks.winding_c, "C", 2)}, a cell down to{" "}
        {value(told.least.cell_voltage_v, "V", 3)}
      </p>
      <div className="flex flex-wrap gap-2 pt-1">
        <Button onClick={onRide}>Ride it on the build as it is now</Button>
        <a
          href={runDocument(buildId, kept.id)}
          download
          className="flex min-h-11 items-center px-2 text-[13px] text-water sm:min-h-8"
        >
          Run document
        </a>
        <Button kind="plain" onClick={onOut}>
          Take it out
        </Button>
      </div>
    </li>
  );
}
