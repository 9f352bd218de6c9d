import type { Gear, GearsAnswer } from "../../api/types";
import { useSize } from "../../ui/useSize";
import { useValue } from "../../units/useValue";
import { Inputs, type PartProps } from "./common";
import { TractionChart } from "./TractionChart";

const ENGINE = [
  "torque_nm",
  "torque_at_rpm",
  "power_kw",
  "power_at_rpm",
  "driven_at_rpm",
  "mass_kg",
];

const ASKED = ["moments.climb_grade_pct", "moments.climb_speed_kmh", "moments.cruise_kmh"];

/** The engine's papers, what they ask of the motor, and both of them gear by gear. */
export function Gears({ bench, state, told }: PartProps) {
  const [ref, width] = useSize();
  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-[25rem_minmax(0,1fr)]">
      <div className="min-w-0">
        <h2 className="pb-1 text-[15px] font-semibold">The engine that comes out</h2>
        <Inputs
          label="The engine that comes out"
          bench={bench}
          state={state}
          paths={ENGINE.map((key) => `vehicle.replaces.${key}`)}
        />
        <Papers told={told} />
        <h2 className="pt-4 pb-1 text-[15px] font-semibold">What it has to do</h2>
        <Inputs label="What it has to do" bench={bench} state={state} paths={ASKED} />
        <Schools told={told} />
      </div>
      <div className="min-w-0">
        <p className="text-[15px]">{told.gears.verdict}</p>
        <div ref={ref} className="mt-2">
          <TractionChart answer={told.gears} width={width} height={330} />
        </div>
        <GearTable answer={told.gears} />
        <p className="pt-2 text-[13px] text-soft">{told.gears.clutch}</p>
      </div>
    </div>
  );
}

function Papers({ told: { engine } }: Pick<PartProps, "told">) {
  if (!engine)
    return (
      <p className="pt-2 text-[13px] text-soft">
        Two figures of its papers are enough: its torque or its power, and where.
      </p>
    );
  return (
    <>
      {engine.contradictions.map((say) => (
        <p key={say} className="pt-2 text-[13px] text-stop">
          {say}
        </p>
      ))}
      {engine.guessed.length ? (
        <p className="pt-2 text-[12.5px] text-soft">Taken as usual: {engine.guessed.join(", ")}.</p>
      ) : null}
    </>
  );
}

function Schools({ told: { schools } }: Pick<PartProps, "told">) {
  return (
    <section aria-label="How much motor">
      <h2 className="pt-4 text-[15px] font-semibold">How much motor</h2>
      <ul>
        {schools.map((one) => (
          <li key={one.id} className="border-t border-line py-1.5 text-[13px]">
            <b>{one.title}.</b> {one.say}
          </li>
        ))}
      </ul>
    </section>
  );
}

const WORDS: Record<string, string> = {
  motor_current: "motor amps limit",
  battery_current: "pack amps limit",
  voltage: "volts",
  traction: "grip",
};

function GearTable({ answer }: { answer: GearsAnswer }) {
  const rows = [...answer.gears, ...(answer.direct ? [answer.direct] : [])];
  return (
    <section aria-label="Gear by gear" tabIndex={0} className="overflow-x-auto">
      <table className="mt-2 w-full min-w-[44rem] text-[13px]">
        <thead className="text-left text-[12px] text-soft">
          <tr>
            <th className="py-1 font-normal">Gear</th>
            <th className="text-right font-normal">turns for one</th>
            <th className="text-right font-normal">push at a start</th>
            <th className="text-right font-normal">at rated amps</th>
            <th className="text-right font-normal">on a hook then</th>
            <th className="text-right font-normal">top speed</th>
            <th className="text-right font-normal">change up at</th>
            <th className="pl-4 font-normal">for hill and trip</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((gear) => (
            <Row
              key={gear.name}
              gear={gear}
              last={gear === answer.gears.at(-1) || gear === answer.direct}
            />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Row({ gear, last }: { gear: Gear; last: boolean }) {
  const value = useValue();
  const kmh = (speed: number | null) => value(speed === null ? null : speed / 3.6, "m/s");
  return (
    <tr className={`border-t border-line align-top ${gear.needed ? "bg-raised" : ""}`}>
      <th className="py-1 text-left font-semibold">
        {gear.name}
        {gear.needed ? <small className="font-normal text-water"> needed</small> : null}
      </th>
      <td className="figure text-right">{value(gear.ratio, "")}</td>
      <td className="text-right">
        <span className="figure">{value(gear.start_n, "N", 2)}</span>
        <br />
        <small className="text-soft">{WORDS[gear.start_limited_by ?? ""] ?? ""}</small>
      </td>
      <td className="text-right">
        <span className="figure">{value(gear.lasting_n, "N", 2)}</span>
        <br />
        <small className="text-soft">
          {gear.lasting_kmh === null ? "none told" : `at ${kmh(gear.lasting_kmh)}`}
        </small>
      </td>
      <td className="figure text-right">{value(gear.hook_n, "N", 2)}</td>
      <td className="figure text-right">{kmh(gear.top_kmh)}</td>
      <td className="text-right">
        {gear.shift_kmh === null ? (
          <small className="text-soft">{last ? "" : "never pulls more"}</small>
        ) : (
          <span className="figure">{kmh(gear.shift_kmh)}</span>
        )}
      </td>
      <td className="max-w-56 pl-4 text-[12.5px]">{gear.say}</td>
    </tr>
  );
}
