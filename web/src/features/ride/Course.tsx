import { Ask } from "../../ui/Ask";
import { Button } from "../../ui/Button";
import { Tick } from "../../ui/Tick";
import type { CourseKind, RidePlan, Stretch } from "./plan";

const KINDS: [CourseKind, string][] = [
  ["road", "a road of my own"],
  ["start", "a standing start"],
  ["stops", "stop and go"],
  ["ece-15", "the urban cycle ECE-15"],
  ["wltc-1", "the cycle WLTC, class 1"],
];

interface Props {
  plan: RidePlan;
  onPlan: (plan: RidePlan) => void;
}

/** What is ridden, said in a few sentences; a road as its stretches. */
export function Course({ plan, onPlan }: Props) {
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
            {KINDS.map(([id, words]) => (
              <option key={id} value={id}>
                {words}
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
        <Tick label="coast to stops" on={plan.coasts} onChange={(coasts) => say({ coasts })} />
        <Tick
          label="brake by the motor"
          on={plan.regenerates}
          onChange={(regenerates) => say({ regenerates })}
        />
        {plan.kind === "road" ? (
          <Tick
            label="there and back"
            on={plan.thereAndBack}
            onChange={(thereAndBack) => say({ thereAndBack })}
          />
        ) : null}
      </div>
      {plan.kind === "road" ? (
        <Stretches stretches={plan.stretches} onStretches={(stretches) => say({ stretches })} />
      ) : null}
    </section>
  );
}

function Stretches({
  stretches,
  onStretches,
}: {
  stretches: Stretch[];
  onStretches: (stretches: Stretch[]) => void;
}) {
  const say = (at: number, some: Partial<Stretch>) =>
    onStretches(stretches.map((one, index) => (index === at ? { ...one, ...some } : one)));
  return (
    <details className="pt-1">
      <summary className="cursor-pointer py-1 text-water">
        The road: {stretches.length} stretches,{" "}
        {(stretches.reduce((sum, one) => sum + one.lengthM, 0) / 1000).toLocaleString("en-GB")} km
      </summary>
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
            <Ask label="up" unit="m" value={one.upM} onValue={(to) => say(at, { upM: to ?? 0 })} />
            <Ask
              label="at most"
              unit="km/h"
              value={one.limitKmh}
              onValue={(limitKmh) => say(at, { limitKmh })}
            />
            <Ask
              label="then a stop of"
              unit="s"
              value={one.stopS}
              onValue={(stopS) => say(at, { stopS })}
            />
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
    </details>
  );
}
