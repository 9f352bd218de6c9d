import { useState } from "react";
import { ApiError } from "../../api/client";
import { readWay } from "../../api/ride";
import { Ask } from "../../ui/Ask";
import { Button } from "../../ui/Button";
import { FilePick } from "../../ui/FilePick";
import { Tick } from "../../ui/Tick";
import { type Medium, WAY } from "./medium";
import { MOST_DRAWN, Profile } from "./Profile";
import { type CourseKind, onWay, type RidePlan, type Stretch } from "./plan";

const KINDS: [CourseKind, string, Medium[]][] = [
  ["road", "a {way} of my own", ["ground", "water", "air"]],
  ["start", "a standing start", ["ground", "water", "air"]],
  ["stops", "stop and go", ["ground", "water"]],
  ["ece-15", "the urban cycle ECE-15", ["ground"]],
  ["wltc-1", "the cycle WLTC, class 1", ["ground"]],
];

interface Props {
  plan: RidePlan;
  medium: Medium;
  onPlan: (plan: RidePlan) => void;
}

/** What is ridden, said in a few sentences; a road as its stretches. */
export function Course({ plan, medium, driven, onPlan }: Props & { driven: boolean }) {
  const say = (some: Partial<RidePlan>) => onPlan({ ...plan, ...some });
  return (
    <section aria-label="What is ridden" className="text-[13.5px]">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <label className="flex items-center gap-2">
          Ride
          <select
            value={plan.kind}
            onChange={(event) => say({ kind: event.target.value as CourseKind })}
            className="min-h-11 rounded-md border border-line bg-raised px-2 sm:min-h-8"
          >
            {KINDS.filter(([, , of]) => of.includes(medium)).map(([id, words]) => (
              <option key={id} value={id}>
                {words.replace("{way}", WAY[medium])}
              </option>
            ))}
          </select>
        </label>
        {plan.kind === "road" ? (
          <Ask
            label="at"
            unit="km/h"
            value={plan.rideKmh}
            onValue={(to) => to && say({ rideKmh: to })}
          />
        ) : null}
        {plan.kind === "start" || plan.kind === "stops" ? (
          <Ask
            label="to"
            unit="km/h"
            value={plan.toKmh}
            onValue={(to) => to && say({ toKmh: to })}
          />
        ) : null}
        {plan.kind === "stops" ? (
          <Ask
            label="times"
            unit=""
            value={plan.times}
            onValue={(to) => to && say({ times: Math.max(Math.round(to), 1) })}
          />
        ) : null}
        <Ask
          label="with the pack at"
          unit="%"
          value={plan.chargePct}
          onValue={(to) => say({ chargePct: Math.min(Math.max(to ?? 100, 0), 100) })}
        />
        <Ask label="in air of" unit="C" value={plan.airC} onValue={(airC) => say({ airC })} />
        {medium === "air" ? null : (
          <Tick label="coast to stops" on={plan.coasts} onChange={(coasts) => say({ coasts })} />
        )}
        {driven ? (
          <Tick
            label="brake by the motor"
            on={plan.regenerates}
            onChange={(regenerates) => say({ regenerates })}
          />
        ) : null}
        {plan.kind === "road" ? (
          <Tick
            label="there and back"
            on={plan.thereAndBack}
            onChange={(thereAndBack) => say({ thereAndBack })}
          />
        ) : null}
      </div>
      {plan.kind === "road" ? (
        <Road
          plan={plan}
          medium={medium}
          onPlan={onPlan}
          onStretches={(stretches) => say({ stretches })}
        />
      ) : null}
    </section>
  );
}

interface RoadProps extends Props {
  onStretches: (stretches: Stretch[]) => void;
}

/** The road: out of a file, drawn, or said as stretches. */
function Road({ plan, medium, onPlan, onStretches }: RoadProps) {
  const [told, setTold] = useState<string[]>([]);
  const { stretches } = plan;
  const km = stretches.reduce((sum, one) => sum + one.lengthM, 0) / 1000;
  const read = async (file: File) => {
    setTold(["Reading"]);
    try {
      const way = await readWay(file);
      onPlan(onWay(plan, way, file.name.replace(/\.gpx$/i, "")));
      setTold(way.notes);
    } catch (problem) {
      if (!(problem instanceof ApiError)) throw problem;
      setTold([`Nothing was read: ${problem.where} ${problem.what}.`]);
    }
  };
  return (
    <details className="pt-1" open={told.length > 0 || undefined}>
      <summary className="cursor-pointer py-1 text-water">
        The {WAY[medium]}
        {plan.name ? ` (${plan.name})` : ""}: {stretches.length} stretches,{" "}
        {km.toLocaleString("en-GB", { maximumFractionDigits: 2 })} km
      </summary>
      <div className="flex flex-wrap items-start gap-2">
        <div role="status" className="flex-1 text-[12.5px] text-soft">
          {told.map((note) => (
            <p key={note}>{note}</p>
          ))}
        </div>
        <FilePick
          label="GPX file"
          accept=".gpx,application/gpx+xml"
          onFile={(file) => void read(file)}
        >
          Open a GPX file
        </FilePick>
      </div>
      {medium === "water" ? null : (
        <Profile
          stretches={stretches}
          way={WAY[medium]}
          onStretches={(next) => onPlan({ ...plan, stretches: next, track: null })}
        />
      )}
      {stretches.length < MOST_DRAWN ? (
        <Stretches stretches={stretches} medium={medium} onStretches={onStretches} />
      ) : null}
    </details>
  );
}

function Stretches({
  stretches,
  medium,
  onStretches,
}: {
  stretches: Stretch[];
  medium: Medium;
  onStretches: (stretches: Stretch[]) => void;
}) {
  const say = (at: number, some: Partial<Stretch>) =>
    onStretches(stretches.map((one, index) => (index === at ? { ...one, ...some } : one)));
  return (
    <>
      <ol>
        {stretches.map((one, at) => (
          // Stretches have no identity but their place.
          <li key={at} className="flex flex-wrap items-center gap-x-4 border-t border-line py-1">
            <span className="w-4 text-soft">{at + 1}</span>
            <Ask
              label="long"
              unit="m"
              value={one.lengthM}
              onValue={(to) => to && say(at, { lengthM: Math.max(to, 1) })}
            />
            {medium === "water" ? null : (
              <Ask
                label="up"
                unit="m"
                value={one.upM}
                onValue={(to) => say(at, { upM: to ?? 0 })}
              />
            )}
            <Ask
              label="at most"
              unit="km/h"
              value={one.limitKmh}
              onValue={(limitKmh) => say(at, { limitKmh })}
            />
            {medium === "air" ? null : (
              <Ask
                label="then a stop of"
                unit="s"
                value={one.stopS}
                onValue={(stopS) => say(at, { stopS })}
              />
            )}
            <span className="flex-1" />
            {stretches.length > 1 ? (
              <Button
                kind="plain"
                aria-label={`Take stretch ${at + 1} out`}
                onClick={() => onStretches(stretches.filter((_, index) => index !== at))}
              >
                Take out
              </Button>
            ) : null}
          </li>
        ))}
      </ol>
      <Button
        onClick={() =>
          onStretches([...stretches, { lengthM: 500, upM: 0, limitKmh: null, stopS: null }])
        }
      >
        One stretch more
      </Button>
    </>
  );
}
